"""What was measured after a pass, in words: the size believed, how far over, the passes in the log."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrometra.cutting.models import CutEntry
from gyrometra.steps.bore.seen import seen_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.setting import division_words, setting_words
from gyroplan.assess import PlannedPass, Setting
from gyroplan.loop import BoreState, DialWay, PassCut


@dataclass(frozen=True, kw_only=True)
class Taken:
    """One reading of the measurement in hand."""

    number: int
    size: str
    gauge: str
    at: Any


@dataclass(frozen=True, kw_only=True)
class SizePlate:
    """The size believed, and in one sentence what it changes."""

    number: str
    within: str
    words: str
    sentence: str
    state: str
    taken: Sequence[Taken]


@dataclass(frozen=True, kw_only=True)
class PassDone:
    """A pass in the log."""

    number: int
    kind: str
    wanted: str
    dialled: str
    came: str
    off: str
    #: The mark of what it came out against its own size; none where nothing was measured.
    mark: str
    remark: str
    slip: str


def following_pass(page: JobPage) -> PlannedPass | None:
    """The pass in hand, else the next."""
    planned = page.speeds.planned
    done = len(page.passes.done)
    return planned[done] if len(planned) > done else None


def size_plate(page: JobPage, state: BoreState) -> SizePlate | None:
    """The measurement in hand."""
    log, units = page.cuts_logged, page.units
    rows = []
    for row in reversed(log.rows):
        if row.kind != CutEntry.Kind.SIZE:
            break
        rows.append(row)
    rows.reverse()
    taken = [
        Taken(number=n + 1, size=units.measured(row.value_mm or 0, _step(row)),
              gauge=row.gauge.name if row.gauge else "", at=row.read_at)
        for n, row in enumerate(rows)
    ]  # fmt: skip
    if not rows or state.known_from != "measured":
        return SizePlate(number="", within="", words="", sentence="", state="", taken=taken)
    values = [float(row.value_mm or 0) for row in rows]
    step = min(_step(row) for row in rows)
    spread = f", spread {units.measured(max(values) - min(values), step)}" if len(values) > 1 else ""
    return SizePlate(
        number=units.measured(state.known_mm, step),
        within=f"±{units.doubt(state.expanded_mm or 0)}",
        words=(f"mean of {len(values)}{spread}" if len(values) > 1 else "one reading")
        + _corrected(page, state, values),
        sentence=_changes(page, state),
        state=state.verdict or "",
        taken=taken,
    )


def size_label(page: JobPage, state: BoreState) -> str:
    """What a size typed now is of: the pass that was cut last, or the bore as it is."""
    done, rows = page.passes.done, page.cuts_logged.rows
    after = rows and rows[-1].kind in (CutEntry.Kind.CUT, CutEntry.Kind.SIZE)
    return f"Ø after pass {done[-1].number}" if done and after and state.phase != "cut" else "Ø as it is now"


def _corrected(page: JobPage, state: BoreState, values: Sequence[float]) -> str:
    mean = sum(values) / len(values)
    off = state.known_mm - mean
    return f", corrected by {page.units.signed(off)}" if abs(off) > 5e-5 else ""


def _step(row: CutEntry) -> float:
    return float(row.rests_on.get("resolution_mm") or (row.gauge.resolution_mm if row.gauge else 0.001))


_VERDICTS = {
    "in": "In limits", "over": "Over", "under": "Metal left", "undecided-low": "Too near the bottom limit to say",
    "undecided-high": "Too near the top limit to say",
}  # fmt: skip


def _changes(page: JobPage, state: BoreState) -> str:
    """One sentence: what came out, and what it changes."""
    units, done = page.units, page.passes.done
    came = ""
    if done and done[-1].measured_mm is not None:
        over = done[-1].came_over_mm or 0.0
        came = "As set. " if abs(over) < 5e-4 else f"{units.planned(abs(over))} {'large' if over > 0 else 'small'}. "
    if state.phase == "measure":
        return f"{came}{_VERDICTS[state.verdict or 'undecided-high']}: measure again, or with a finer gauge."
    if state.phase == "done":
        return f"{came}{_VERDICTS[state.verdict or 'in']}: nothing more to cut."
    following = following_pass(page)
    if following is None:
        return came
    if following.setting.told is None:
        return f"{came}Pass {following.cut.number} is a spring pass: leave the setting."
    return f"{came}Pass {following.cut.number}: {setting_words(following.setting, units)}."


def over_words(page: JobPage, state: BoreState) -> dict[str, str]:
    """Over the upper limit: how far, against what, and that the uncertainty does not bring it in."""
    units, ladder = page.units, page.passes.ladder
    upper = ladder.replay.memory.bore.bored_upper_mm if ladder else float(page.bore.upper_mm)
    over = state.known_mm - upper
    warm = 10 * float(page.record.material.expansion_um_m_k) * 1e-6 * state.known_mm
    return {
        "number": units.planned(over),
        "against": f"{units.planned(state.known_mm)} against {units.planned(upper)}; "
                   f"±{units.doubt(state.expanded_mm or 0)} does not bring it in",
        "warmth": f"10 °C warmer reads {units.planned(warm)} large" + (", not " + units.planned(over)
                                                                        if warm < over else ": measure it cold"),
        "slip": _slip_of_dial(page, state),
    }  # fmt: skip


def _slip_of_dial(page: JobPage, state: BoreState) -> str:
    """Where the excess over what was set is close to whole divisions: the slip to look for first."""
    ladder, done = page.passes.ladder, page.passes.done
    if ladder is None or not done or not isinstance(ladder.way, DialWay):
        return ""
    excess = done[-1].came_over_mm
    if excess is None:
        return ""
    divisions = excess / ladder.way.on_diameter_mm
    if round(divisions) < 1 or abs(divisions - round(divisions)) > 0.25 or round(divisions) > 5:
        return ""
    stands = state.stands_at or 0.0
    words = f"{round(divisions)} dial division{'s' if round(divisions) > 1 else ''}"
    return (
        f"{page.units.planned(excess)} more than set: {words}. {division_words(stands)} or "
        f"{division_words((stands + round(divisions)) % ladder.way.divisions_per_turn)}?"
    )


def remark_words(remark: CutEntry | None) -> str:
    """How a pass sounded and looked, as far as it was said."""
    said = (remark.get_sound_display(), remark.get_look_display()) if remark else ()
    return ", ".join(str(one) for one in said if one)


def pass_done(page: JobPage, cut: PassCut) -> PassDone:
    units, log = page.units, page.cuts_logged
    sizes = [log.rows[place] for place in cut.sizes_at if place < len(log.rows)]
    step = min((_step(row) for row in sizes), default=0.001)
    remark = log.remarks.get(cut.number)
    over = cut.came_over_mm
    off, mark = "", ""
    if over is not None:
        on_size = abs(over) < step
        off = "as set" if on_size else f"{units.measured(abs(over), step)} {'large' if over > 0 else 'small'}"
        mark = "in" if on_size else "advice"
    made = (
        Setting(
            from_mm=cut.from_mm,
            to_mm=cut.set_mm,
            way=page.passes.ladder.way,
            told=cut.set_as,
            stands_at=None,
            no_dial=page.passes.by.no_dial,
        )
        if page.passes.ladder
        else None
    )
    return PassDone(
        number=cut.number,
        kind=cut.kind,
        wanted=units.planned(cut.set_mm),
        dialled="" if made is None else setting_words(made, units),
        came="" if cut.measured_mm is None else units.measured(cut.measured_mm, step),
        off=off,
        mark=mark,
        remark="; ".join(words for words in (remark_words(remark), seen_words(page, cut.number)) if words),
        slip="" if cut.suspect is None else f"came out {cut.suspect} of what was set",
    )  # fmt: skip
