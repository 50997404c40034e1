"""The Noise page: what rings, what to change, what was tried."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Any, cast

from gyrodraw import Scene, SpectrumDrawn, ToneMark, spectrum_scene
from gyrometra.bridge.units import Units
from gyrometra.crib.records import bar_record, cutter_record
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.record import Sound
from gyrometra.steps.noise.form import CHANGES
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because
from gyrometra.steps.shared.scene import bands
from gyroplan.assess import Change, Chatter, chatter_of, damper_search
from gyroplan.noise import FLOOR_DB, LEAST_HZ, MOST_HZ, overtone_of
from gyroplan.record import BarRecord, DamperTryRecord


@dataclass(frozen=True, kw_only=True)
class ChangeRow:
    """One change: its words, how far it comes under the limit, or why it cannot be."""

    code: str
    name: str
    words: str
    under: str
    refused: bool


@dataclass(frozen=True, kw_only=True)
class TriedRow:
    """One thing that was tried or heard, and how it sounded."""

    at: Any
    who: str
    name: str
    words: str
    sound: str
    mark: str


_MARKS = {"squeal": "over", "hum": "near", "quiet": "in"}


def noise(page: JobPage) -> dict[str, Any]:
    """All that the Noise page prints."""
    rows = [row for row in page.own_cuts if row.bore_id == page.bore.key and row.kind in ("noise", "tried")]
    heard = [row for row in rows if row.kind == CutEntry.Kind.NOISE]
    crib = page.crib
    found = chatter_of(
        page.boring, [bar_record(one) for one in crib.bars], [cutter_record(one) for one in crib.cutters]
    )
    last = heard[-1] if heard else None
    return {
        "chatter": found,
        "hand": found.number if found else 0,
        "changes": [_change_row(one, page.units) for one in found.changes] if found else [],
        "tried": [_tried_row(row) for row in rows][::-1],
        "heard": last,
        "rings": _rings(page, last),
        "limit": _limit(page, found),
        "pockets": _pockets(page, last),
        "damper": _damper(page, rows),
        "bands": _scenes(page, last, found),
        "tick": [(code, name) for code, name in CHANGES.items() if code not in _ticked(found)],
        "sounds": CutEntry.Sound.choices,
        "because": _because(found, page.units) if found else None,
    }  # fmt: skip


def _ticked(found: Chatter | None) -> set[str]:
    """Changes that are ticked where they stand in the list."""
    return {one.code for one in found.changes if not one.refused} if found else set()


_NAMES = {
    "speed": "Speed {value} rpm", "feed": "Feed {value}", "shallower": "Depth {value} on radius",
    "deeper": "Deeper, {value} on radius", "shorter": "Overhang {value}", "nose": "Nose {value}", "bar": "{name}",
    "bearing": "One more bearing",
}  # fmt: skip
_REFUSED = {
    "no-pocket": "changing the speed will not cure chatter here", "nose": "the nose carries no coarser feed",
    "no-feed": "the machine has no coarser feed within twice this one", "rubs": "thinner than the edge cuts",
    "no-metal": "not so much metal left to come off", "fixed": "it stands out as far as it is long",
    "reach": "as short as the bore lets it", "no-cutter": "none in the crib", "no-bar": "no stiffer one goes in",
}  # fmt: skip
_WORDS = {
    "speed": "successive turns cut in step", "shallower": "the pass as two",
    "deeper": "past the nose it pushes along the bar",
    "shorter": "the bar moved: its setting is void", "bar": "stiffer; touch off anew", "nose": "{name}; touch off anew",
    "bearing": "where it helps most: see Bar",
}  # fmt: skip


def _change_row(one: Change, units: Units) -> ChangeRow:
    value = "" if one.value is None else f"{one.value:.0f}" if one.code == "speed" else units.length(one.value) if (
        one.code == "shorter") else units.plain(round(one.value, 4))  # fmt: skip
    name = _NAMES[one.code].format(value=value, name=one.name).strip() if not one.refused or value else (
        CHANGES[one.code])  # fmt: skip
    words = _WORDS.get(one.code, "").format(name=one.name)
    if one.ra_um is not None:
        words = ", ".join(part for part in (words, f"Ra {one.ra_um:.2f} µm") if part)
    under = "" if one.load is None else _under(one.load)
    return ChangeRow(code=one.code, name=name, words=_REFUSED[one.refused] if one.refused else words, under=under,
                     refused=bool(one.refused))  # fmt: skip


def _under(load: float) -> str:
    """How far under the believed limit, or over it."""
    return f"{100 * (1 - load):.0f} % under" if load <= 1 else f"{100 * (load - 1):.0f} % over"


def _tried_row(row: CutEntry) -> TriedRow:
    made = row.rests_on
    if row.kind == CutEntry.Kind.NOISE:
        name = f"Pass {row.number}, {'recorded' if made.get('by') != 'ear' else 'by ear'}"
        words = made.get("words", "")
    else:
        changed = made.get("changed", [])
        name = ", ".join(CHANGES.get(one, one) for one in changed)
        words = made.get("words", "")
        if len(changed) > 1:
            words = ", ".join(part for part in (words, "cause not isolated") if part)
    return TriedRow(at=row.read_at, who=row.by.username, name=name, words=words, sound=str(row.get_sound_display()),
                    mark=_MARKS.get(row.sound, "wait"))  # fmt: skip


@dataclass(frozen=True, kw_only=True)
class Rings:
    """What rings: the strongest tone with what it is."""

    number: str
    name: str
    words: Sequence[str]
    reason: str


def tone_words(tone: Mapping[str, Any], tones: Sequence[Mapping[str, Any]], bar: str) -> str:
    """What a tone is, among those that were heard with it."""
    name, harmonic = tone["name"], tone["harmonic"]
    if name == "bar":
        return f"the bar, {bar}" if bar else "the bar"
    if name == "turn":
        return f"{harmonic} a turn" if harmonic != 1 else "once a turn"
    times = overtone_of(tone["frequency_hz"], [one["frequency_hz"] for one in tones if one["name"] == "bar"])
    return "something else" if times is None else f"{_TIMES[times]} the bar"


_TIMES = {2: "twice", 3: "three times", 4: "four times"}


_BY_EAR = {
    "high": ("High: the bar, most often.", "A bar rings high; shorter, stiffer or a coarser feed goes first."),
    "low": ("Low: the work, its clamping, the slide or unbalance.",
            "A rumble is seldom the bar: look at clamps, jaws, gibs, balance and the bearings first."),
}  # fmt: skip


def _rings(page: JobPage, row: CutEntry | None) -> Rings | None:
    if row is None:
        return None
    made = row.rests_on
    if made.get("by") == "ear":
        head, reason = _BY_EAR[made["pitch"]]
        return Rings(number="", name=head, words=(), reason=reason)
    tones = made.get("tones", [])
    if not tones:
        return Rings(number="", name="No tone stands out.", words=(), reason="Only noise of the cut was heard.")
    first = tones[0]
    bar = page.at.bar.name if page.at.bar else ""
    name = tone_words(first, tones, bar)
    words = [
        name[:1].upper() + name[1:],
        f"{first['waves_per_turn']:.1f} waves a turn",
    ]
    natural = made.get("natural_hz")
    reason = "within 0.95 to 1.3 of its natural frequency, " + (f"{natural:.0f} Hz" if natural else "")
    if first["name"] == "turn":
        reason = f"a multiple of the turns, {made['rpm'] / 60:.2f} a second, within a hundredth"
    elif first["name"] == "other":
        reason = (
            "no multiple of the turns, and not the bar's" if natural else "the bar's natural frequency is not known"
        )
    return Rings(number=f"{first['frequency_hz']:.0f}", name="", words=words, reason=reason)


@dataclass(frozen=True, kw_only=True)
class LimitWords:
    """The pass against the chatter that is believed of the bar."""

    number: str
    words: str
    damping: str
    mark: str


def _limit(page: JobPage, found: Chatter | None) -> LimitWords | None:
    if found is None or found.load is None:
        return None
    believed = page.bar.believed
    said = f"damping {found.damping:.3f}"
    if believed is not None and believed.number is not None and page.at.bar is not None:
        how = "squealed" if believed.chattered else "ran quiet"
        said = f"pass {believed.number} {how}: damping {found.damping:.3f}, {page.at.bar.damping:.3f} by its kind"
    mark = "over" if found.load >= 1 else "advice" if found.load > _NEAR else "in"
    words = "of the load at which chatter is believed to begin"
    return LimitWords(number=f"{100 * found.load:.0f}", words=words, damping=said, mark=mark)


#: A load over this share of the limit is near it (chosen here).
_NEAR = 0.8


@dataclass(frozen=True, kw_only=True)
class DamperWords:
    """Where the damper is turned next, or where it stands best."""

    turns: str
    words: str
    done: bool
    #: It stands so on the bar's card already.
    kept: bool = False


def _damper(page: JobPage, rows: Sequence[CutEntry]) -> DamperWords | None:
    """Of a tuned bar: the owner's own point where there is one for this overhang, else the search by ear."""
    bar, tuning = page.at.bar, page.bar.tuning.value
    if bar is None or not bar.tuned:
        return None
    if tuning is not None and tuning.turns is not None:
        return DamperWords(
            turns=f"{tuning.turns:g}", words="turns out, by its owner's table for this overhang", done=True,
            kept=_stands_at(bar, tuning.turns),
        )  # fmt: skip
    tries = [
        DamperTryRecord(turns=row.rests_on["turns"], sound=cast(Sound, row.sound)) for row in rows
        if "turns" in row.rests_on and row.rests_on.get("bar") == bar.name and row.sound
    ]  # fmt: skip
    found = damper_search(tries)
    if found.next_turns is None:
        return DamperWords(turns=f"{found.best_turns:g}", done=True, kept=_stands_at(bar, found.best_turns or 0.0),
                           words=f"turns out: best of {len(tries)} tried, it {_SAYS[found.best_sound]}")  # fmt: skip
    how = "Full in" if found.next_turns == 0 else f"steps of {found.step_turns:g}"
    return DamperWords(turns=f"{found.next_turns:g}", done=False,
                       words=f"turns out. {how}; both locks tight, tap it, cut, listen.")  # fmt: skip


#: Nearer than this it is the same place: the card keeps hundredths [turns].
_SAME_TURNS = 0.006


def _stands_at(bar: BarRecord, turns: float) -> bool:
    return bar.tuned_turns is not None and abs(bar.tuned_turns - turns) < _SAME_TURNS


_SAYS = {"quiet": "runs quiet", "hum": "hums", "squeal": "squeals"}


def _pockets(page: JobPage, row: CutEntry | None) -> str:
    """Speeds of the machine that lie in a pocket of the tone that was heard."""
    speeds = row.rests_on.get("pockets_rpm", []) if row is not None else []
    machine = page.at.machine
    said = [f"{one:.0f} {machine.lever_for(one)}".strip() for one in speeds]
    return ", ".join(said)


def _scenes(page: JobPage, row: CutEntry | None, found: Chatter | None) -> list[tuple[str, Scene]]:
    made = row.rests_on if row is not None else {}
    bar = page.at.bar.name if page.at.bar else ""
    natural = made.get("natural_hz") or (found.frequency_hz if found else None)
    marks = [
        ToneMark(hz=one["frequency_hz"], db=one["level_db"], name=one["name"],
                 words=f"{tone_words(one, made['tones'], bar)}, {one['frequency_hz']:.0f} Hz",
                 small=f"{one['waves_per_turn']:.1f} waves a turn")
        for one in made.get("tones", [])
    ]  # fmt: skip
    said = "; ".join(mark.words for mark in marks) or "nothing recorded yet"
    head = f"Pass {row.number}, {made['seconds']:.1f} s at {made['rpm']:.0f} rpm" if made.get("seconds") and row else ""
    drawn = SpectrumDrawn(
        levels_db=made.get("levels_db") or [FLOOR_DB] * 8, least_hz=LEAST_HZ, most_hz=MOST_HZ, floor_db=FLOOR_DB,
        tones=marks, natural_hz=natural, head=head, title=f"Spectrum of the sound: {said}",
        natural_words=f"natural frequency {natural:.0f}" if natural else "",
    )  # fmt: skip
    return bands(lambda width: spectrum_scene(drawn, width))


def _because(found: Chatter, units: Units) -> Because:
    cut = found.cut
    return Because(
        formula="load = greatest chatter load of any depth up to the cut's / (2 k z (1 + z))",
        inputs=[
            ("depth, on radius", units.planned(cut.depth_mm)), ("feed per rev", units.plain(cut.feed_mm_rev)),
            ("nose radius", units.plain(cut.nose_radius_mm)), ("damping z believed", f"{found.damping:.3f}"),
        ],
        source="Regenerative chatter; z by its kind, moved by what was heard here, within a factor of three.",
    )  # fmt: skip
