"""The verdict of a bore as it is printed: word, shape, reason, and every way forward."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from gyrocore import (
    LEAST_WALL_SHARE,
    OVERSIZE_STEP_IN_MM,
    OVERSIZE_STEP_MM,
    ExistingSize,
    next_oversizes,
    next_size,
)
from gyrometra.crib.queries import sizes_from
from gyrometra.steps import progress_words
from gyrometra.steps.check.plugs import bounds_words
from gyrometra.steps.page import JobPage
from gyroplan.assess import wall_lean_of
from gyroplan.judge import Place

LIMIT_NAMES = {
    "taper": "Taper over the bore, on Ø", "roundness": "Roundness, half the ovality", "runout": "Run-out (TIR)",
    "depth": "Depth of the shoulder",
}  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class VerdictPlate:
    """The verdict: word, shape, one line of reason, and every way forward."""

    word: str
    title: str
    reason: str
    ways: Sequence[tuple[str, str, bool]]
    number: str = ""
    number_label: str = ""


def verdict_plate(page: JobPage) -> VerdictPlate:
    """The verdict plate of a bore."""
    word = page.judged.word
    title = progress_words.VERDICT_WORDS[word]
    if page.record.setup.only_trued:
        reason, ways, number, label = _reason_trued(page)
        return VerdictPlate(word=word, title=title, reason=reason, ways=ways, number=number, number_label=label)
    of = _reason_plugs if page.judged.by_plugs and word != "incomplete" else _REASONS[word]
    reason, ways, number, label = of(page)
    return VerdictPlate(word=word, title=title, reason=reason, ways=ways, number=number, number_label=label)


Reason = tuple[str, Sequence[tuple[str, str, bool]], str, str]


def _extremes(page: JobPage) -> tuple[Place, Place]:
    found = page.judged.extremes
    if found is None:
        raise LookupError("no place is measured")
    return found


def _reason_trued(page: JobPage) -> Reason:
    """Work that is only set true: by its last round."""
    units, standing = page.units, page.truing.standing
    limit = units.planned(page.record.setup.tightest_runout_mm)
    lean = wall_lean_of(page.assessment, page.piece, page.place) if page.record.setup.reference == "wall" else None
    if lean is not None:
        off = units.planned(lean.lean_mm)
        ways = [] if lean.within else [("Set it true", "move it as told", True)]
        return f"Set true along its walls: leans {off} over its length, limit {limit}.", ways, off, "Lean"
    if standing is None or standing.off_centre_mm is None:
        return "No round that stands: read it once more.", [("Set it true", f"within {limit} (TIR)", True)], "", ""
    off = units.planned(standing.off_centre_mm)
    if page.truing.within:
        return f"Set true: centre offset {off}, run-out limit {limit}.", [], off, "Centre offset"
    return f"Centre offset {off}; allowed is half of {limit}.", [("Set it true", "move it as told", True)], off, \
        "Centre offset"  # fmt: skip


def _reason_plugs(page: JobPage) -> Reason:
    """By plugs alone: what goes and what does not, and what they cannot say."""
    said = f"By plugs: {bounds_words(page.judged, page.units)}. Form beyond the narrowest place is not seen."
    ways: dict[str, list[tuple[str, str, bool]]] = {
        "in": [("Sign off", "the lead signs; the record is locked after", True)],
        "metal-left": [("Finish cut or hone", "measure a size first: a plug does not say how much", True)],
        "over": [("Measure a size", "how far over decides what can be done", True),
                 ("Accept by concession", "a lead signs, with a reason", True)],
    }  # fmt: skip
    return said, ways.get(page.judged.word, [("Try the other side", "go and no-go bound the size", True)]), "", ""


def _reason_in(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    return (
        f"All {len(page.judged.places)} places, {units.planned(smallest.value_mm)} to "
        f"{units.planned(largest.value_mm)}, each with its own uncertainty.",
        [("Sign off", "the lead signs; the record is locked after", True)], "", "",
    )  # fmt: skip


def _reason_left(page: JobPage) -> Reason:
    units = page.units
    smallest, largest = _extremes(page)
    left = page.bore.aim_mm - (smallest.value_mm + largest.value_mm) / 2
    least = page.passes.rules.min_depth_mm
    can_cut = left / 2 >= least
    ways = [
        ("Finish cut", f"{units.planned(left)} on diameter; it takes taper and ovality with it" if can_cut else
         f"no: {units.planned(left / 2)} on radius, the edge needs {units.planned(least)}", can_cut),
        ("Hone", f"{units.planned(left)} on diameter, then measure again", True),
        ("Accept by concession", "a lead signs, with a reason", True),
    ]  # fmt: skip
    shoulder = page.judged.state.limits.depth
    if shoulder is not None and shoulder.verdict == "under":
        return "The shoulder is not deep enough yet.", ways, "", ""
    return f"The smallest place is {units.planned(smallest.value_mm)}.", ways, units.planned(left), "Metal left, on Ø"


#: Sizes that exist are looked through up to this much over the largest found, as a share of it (chosen here).
_LOOKED_OVER = 0.1


def _next_sizes(page: JobPage) -> list[tuple[str, str, bool]]:
    """What exists in the next sizes, by the crib's list; without one the even steps that such parts come in."""
    found, units = page.judged.extremes, page.units
    if found is None:
        return []
    largest = found[1].value_mm
    rows = sizes_from(page.bore.aim_mm, largest * (1 + _LOOKED_OVER))
    if not rows:
        return _oversizes(page, largest)
    outside = min((size for _, size in page.bore.outside_mm), default=None)
    fits = outside is not None and outside > largest
    said = next_size(
        bore_mm=largest, sizes=[ExistingSize(name=one.name, diameter_mm=float(one.bore_mm)) for one in rows],  # type: ignore[attr-defined]
        least_cut_mm=page.passes.rules.min_depth_mm, outside_mm=outside if fits else None,
        least_wall_mm=LEAST_WALL_SHARE * outside if fits and outside is not None else None,
    )  # fmt: skip
    here = {one.name: one for one in rows}
    ways = []
    if said.pick is not None and said.bore_to_mm is not None and said.cut_mm is not None:
        have = here[said.pick].have
        wall = "" if said.wall_mm is None else f", wall {units.planned(said.wall_mm)}"
        words = f"bore to Ø{units.planned(said.bore_to_mm)}, {units.planned(said.cut_mm)} on radius{wall}; "
        ways.append((f"Next size: {said.pick}", words + (f"{have} here" if have else "none here: get one first"), True))
    ways += [(f"No: {row.name}", _NO_SIZE[row.reason], False) for row in said.rows if row.reason][:2]
    return ways


_NO_SIZE = {
    "no-metal": "too little metal left to clean up",
    "thin-wall": "the wall would be thinner than a fortieth of its outside",
}  # fmt: skip


def _oversizes(page: JobPage, largest_mm: float) -> list[tuple[str, str, bool]]:
    """The next even steps that the edge can still cut all round."""
    units = page.units
    step = OVERSIZE_STEP_MM if units.unit == "mm" else OVERSIZE_STEP_IN_MM
    sizes = next_oversizes(
        target_mm=page.bore.aim_mm, largest_mm=largest_mm, least_depth_mm=page.passes.rules.min_depth_mm, step_mm=step
    )
    targets = ", ".join(f"Ø{units.planned(one.target_mm)}" for one in sizes)
    words = f"{targets}; the first takes {units.planned(sizes[0].stock_mm)} off, on diameter. Is the part made so?"
    return [("Next oversize", words, True)]


def _reason_over(page: JobPage) -> Reason:
    units = page.units
    over_lines = [LIMIT_NAMES[line.name] for line in page.judged.limits if line.found and line.found.verdict == "over"]
    ways = [
        ("Measure again", "set the gauge first; a slip is cheaper than a casting", True),
        ("Fit the mating part to it", "Work, to fit a mating part: its size follows", True),
        *_next_sizes(page),
        ("Bush or sleeve", "bore out and fit one, where the wall allows", True),
        ("Accept by concession", "a lead signs, with a reason", True),
        ("Start again", "another blank, planned as this one; this record stays", True),
        ("Cut or hone", "no: both make it larger", False),
    ]
    if page.judged.state.limits.size.verdict != "over" and over_lines:
        return f"{', '.join(over_lines)}: over the limit.", ways, "", ""
    _, largest = _extremes(page)
    words = f"The largest place is {units.planned(largest.value_mm)}."
    return words, ways, units.planned(largest.value_mm - page.bore.upper_mm), "Over the top limit by"


def _reason_near(page: JobPage) -> Reason:
    judged, units = page.judged, page.units
    near = [place for place in judged.places if place.verdict == "undecided"]
    forms = [LIMIT_NAMES[line.name] for line in judged.limits if line.found and line.found.verdict == "undecided"]
    what = f"{len(near)} of {len(judged.places)} places" if near else ", ".join(forms)
    disagree = any(place.agree is False for place in judged.places)
    ways: list[tuple[str, str, bool]] = [
        ("Measure again", "more readings at these places narrow the uncertainty", True),
        ("Finer gauge", f"the uncertainty is {units.doubt(judged.expanded_mm)}; a smaller error limit would prove it",
         True),
        ("Accept by concession", "a lead signs, with a reason", True),
    ]  # fmt: skip
    words = "Two gauges do not agree." if disagree else f"{what[:1].upper()}{what[1:]} too near a limit to say."
    return words, ways, units.doubt(judged.expanded_mm), "Uncertainty, either side"


def _reason_missing(page: JobPage) -> Reason:
    missing = [progress_words.gap_words(gap) for gap in page.judged.missing]
    return (f"Missing: {missing[0]}.", [("Measure", what, True) for what in missing], "", "")


_REASONS = {
    "in": _reason_in, "metal-left": _reason_left, "over": _reason_over, "not-proven": _reason_near,
    "incomplete": _reason_missing,
}  # fmt: skip
