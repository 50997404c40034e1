"""The Bore page: the pass in hand, what to dial or what was measured, and what that changes."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from gyrocore import sentence
from gyrodraw import Scene, lever_gate
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.services import ACTS
from gyrometra.steps.bore.before import run_words, spring_words
from gyrometra.steps.bore.measured import following_pass, over_words, pass_done, remark_words, size_label, size_plate
from gyrometra.steps.bore.pair import pair_notes
from gyrometra.steps.bore.scene import bore_scenes
from gyrometra.steps.bore.seen import asked, seen_notes, seen_words
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.plate import Because, verdict_words
from gyrometra.steps.shared.setting import (
    because_of,
    crown_scene,
    division_words,
    figure,
    setting_column,
    stands_words,
    worth_words,
)
from gyrometra.steps.shared.since import changed_since
from gyrometra.steps.work.scene import work_scenes
from gyroplan.assess import PlannedPass, Setting
from gyroplan.loop import BoreState, DialWay, PassCut
from gyroplan.plan import ROUGHING


@dataclass(frozen=True, kw_only=True)
class DialPlate:
    """What is turned or read for a pass, told once; as a preview it is grey and no setting."""

    name: str
    note: str
    number: str
    unit: str
    hands: str
    scene: Scene | None
    governs: str
    reason: str
    because: Because
    stands: str


@dataclass(frozen=True, kw_only=True)
class Lever:
    """A speed or a feed: its figure, its position drawn, what it changes from."""

    name: str
    number: str
    unit: str
    scene: Scene | None
    words: str
    changed: str


@dataclass(frozen=True, kw_only=True)
class Guard:
    """A step that is due before power."""

    name: str
    words: str


#: The step of the track that each phase is at.
_TRACK = {"touch-off": "set", "set": "set", "cut": "cut", "measure": "measure", "over": "measure", "done": "measure"}
_KIND_WORDS = {"rough": "roughing", "test": "test cut, short of size", "finish": "finish", "spring": "spring pass"}


def bore(page: JobPage, to: str = "") -> dict[str, Any]:
    """All that the Bore page prints; `to` is where the reader went on to: `set`, `measure`."""
    ladder, state = page.passes.ladder, page.passes.state
    if ladder is None or state is None:
        return {"state": None, "bands": work_scenes(page)}
    mode = _mode(page, state, to)
    following = following_pass(page)
    return {
        "state": state,
        "mode": mode,
        "track": _TRACK["set" if mode == "set" else "cut" if mode == "cut" else state.phase]
        if mode != "measure" else "measure",
        "hand": _hand(page, state, mode),
        "kind": _kind_words(page, state, mode),
        "count": page.passes.count,
        "dial": _dial(page, following) if following is not None and following.setting.told is not None else None,
        "stands": _stands(page, state),
        "set_words": page.units.planned(state.set_diameter_mm or state.known_mm),
        "known_words": page.units.planned(state.known_mm),
        "levers": _levers(page, following, ladder.done),
        "guards": guards_due(page) if mode == "set" else [],
        "bundle": bundle_end(page),
        "size": size_plate(page, state) if mode in ("measure", "over", "done") else None,
        "size_label": size_label(page, state),
        "over": over_words(page, state) if state.phase == "over" else None,
        "undo": next((row.client_id for row in reversed(page.cuts_logged.rows) if row.kind in ACTS), ""),
        "gauge_hint": page.cuts_logged.last_size,
        "rests_until": page.boring.rests_until,
        "lines": [pass_done(page, cut) for cut in ladder.done],
        "bar_state": bar_words(page),
        "notes": [
            *(sentence(n, page.units.unit) for n in ladder.replay.loop.notes(ladder.replay.memory, state)),
            *spring_words(page),
            *seen_notes(page),
            *(pair_notes(page) if mode != "done" else []),
        ],
        "since": [*changed_since(page), *_carried(page, mode), *(run_words(page) if mode == "set" else [])],
        "suspect": _suspect_words(page, state),
        "touched": _touched_words(page, state),
        **_seen_of(page, _hand(page, state, mode), mode),
        "noisy": _noisy(page, _hand(page, state, mode)),
        "bands": bore_scenes(page, mode),
        "dialled_as": _dialled_as(page),
        "has_dial": isinstance(ladder.way, DialWay),
        "column": setting_column(page),
        "cut_minutes": following.time.minutes_per_pass if following and following.time else None,
    }  # fmt: skip


def _carried(page: JobPage, mode: str) -> list[str]:
    """Where a piece before this one was finished, and the last pass of this one is to be set: both can be cut alike."""
    record, last = page.record, page.passes.count
    if record.quantity < 2 or mode != "set" or page.passes.state is None or page.passes.state.in_hand != last:
        return []
    left_out = {one.piece for one in record.summaries}
    for piece in reversed([one for one in page.assessment.begun if one < page.piece and one not in left_out]):
        before = page.assessment.boring(piece, page.place).passes
        if before.state is None or before.state.phase != "done" or before.ladder is None:
            continue
        stood = stands_words(before.by.way, before.state.stands_at, page.units)
        how = "with the dial at" if isinstance(before.by.way, DialWay) else "set to"
        at = f" {how} {stood}" if stood else ""
        size = page.units.planned(before.state.known_mm)
        return [f"Piece {piece} was finished{at} and came out Ø{size}: cut both at this setting where they must match."]
    return []


def _mode(page: JobPage, state: BoreState, to: str) -> str:
    """Measuring goes on until the reader goes on; everything else follows from the phase."""
    if state.phase in ("over", "measure", "touch-off"):
        return state.phase
    if to == "measure":
        return "measure"
    rows = page.cuts_logged.rows
    just_measured = bool(rows) and rows[-1].kind == CutEntry.Kind.SIZE
    if just_measured and to != "set" and state.phase in ("set", "cut", "done"):
        return "measure"
    return state.phase


def _hand(page: JobPage, state: BoreState, mode: str) -> int:
    """The pass that the page speaks of: while measuring the one that was cut."""
    done = page.passes.done
    if mode in ("measure", "over", "done") and done:
        return done[-1].number
    return state.in_hand or (done[-1].number if done else 1)


def _kind_words(page: JobPage, state: BoreState, mode: str) -> str:
    done = page.passes.done
    if mode in ("measure", "over", "done") and done:
        remark = page.cuts_logged.remarks.get(done[-1].number)
        if remark is not None:
            return remark_words(remark)
        return _KIND_WORDS[done[-1].kind]
    return _KIND_WORDS[state.hand.kind] if state.hand else ""


def _dial(page: JobPage, following: PlannedPass) -> DialPlate:
    units, setting = page.units, following.setting
    told, way = setting.told, setting.way
    assert told is not None  # noqa: S101 - the caller has looked
    number, unit, hands = figure(told, way, units)
    stands_at = page.passes.state.stands_at if page.passes.state else None
    on = "on Ø" if not setting.no_dial else "on radius"
    reason = _reason(page, setting)
    if setting.no_dial:
        number, unit, hands, reason = units.planned(setting.radial_mm), units.label, "Move the cutter out", "on radius"
    return DialPlate(
        name=setting_column(page).capitalize(),
        note=worth_words(way, units) if isinstance(way, DialWay) else f"to Ø{units.planned(setting.to_mm)}",
        number=number,
        unit=unit,
        hands=hands,
        scene=crown_scene(setting, stands_at, units),
        governs=f"{units.planned(setting.change_mm)} {on}:",
        reason=reason,
        because=because_of(setting, page),
        stands=f"{division_words(told.to_division or 0.0)}" if isinstance(way, DialWay) else "",
    )


def _reason(page: JobPage, setting: Setting) -> str:
    state = page.passes.state
    left = state.to_come_off_mm if state else 0.0
    if abs(setting.change_mm - left) < 1e-9:
        return "all that is still to come off"
    return f"of the {page.units.planned(left)} still to come off"


def _stands(page: JobPage, state: BoreState) -> str:
    """Where the dial, or the reading, stands once a pass is set; empty where nothing is to be said."""
    ladder = page.passes.ladder
    return "" if ladder is None else stands_words(ladder.way, state.stands_at, page.units)


def _levers(page: JobPage, following: PlannedPass | None, done: Sequence[PassCut]) -> list[Lever]:
    """Speed and feed of the pass in hand; what changes against the last pass is said."""
    if following is None or following.rpm is None:
        return []
    machine, units = page.at.machine, page.units
    last = page.speeds.planned[len(done) - 1] if done else None
    lever = machine.lever_for(following.rpm)
    was = machine.lever_for(last.rpm) if last and last.rpm else ""
    moved = last is not None and last.rpm is not None and abs(last.rpm - following.rpm) > 1e-6
    fed = last is not None and abs(last.feed_mm_rev - following.feed_mm_rev) > 1e-9
    speeds = [speed.lever for speed in machine.speeds]
    from_speed = f"from {was} to {lever}" if was and lever else f"from {last.rpm:.0f}" if last and last.rpm else ""
    return [
        Lever(name="Speed lever" if lever else "Spindle", number=f"{following.rpm:.0f}", unit="rpm",
              scene=lever_gate(speeds, lever) if lever else None, words=f"lever {lever}" if lever else "",
              changed=from_speed if moved else ""),
        Lever(name="Feed per rev", number=units.plain(following.feed_mm_rev), unit=units.label, scene=None,
              words="finishing" if following.cut.kind not in ROUGHING else "roughing",
              changed=f"from {units.plain(last.feed_mm_rev)}" if fed and last else ""),
    ]  # fmt: skip


#: Steps before power, by when they are due.
_FIRST = (
    Guard(name="locked", words="Spindle locked out while hands are in the chuck"),
    Guard(name="cleared", words="Indicator, holder, stop and chuck key out"),
    Guard(name="swung", words="One turn by hand, nothing fouls"),
)
_FIRST_TABLE = (
    Guard(name="locked", words="Spindle locked out while hands are in"),
    Guard(name="cleared", words="Indicator, holder, stop and keys out"),
    Guard(name="swung", words="One turn by hand, nothing fouls"),
)
_GAUGE = Guard(name="gauge", words="Bore gauge out of the bore")


def guards_due(page: JobPage) -> list[Guard]:
    """Before the first pass all; later what has happened since makes some due again."""
    guards = [row for row in page.own_cuts if row.kind == CutEntry.Kind.GUARD]
    if not guards:
        return list(_FIRST if page.job.setup.way.set_by == "dial" else _FIRST_TABLE)
    last = guards[-1].pk
    kinds = {row.kind for row in page.own_cuts if row.pk > last and row.bore_id == page.bore.key}
    found = [_GAUGE] if CutEntry.Kind.SIZE in kinds else []
    following, done = following_pass(page), page.passes.done
    moved = bool(done) and following is not None and (done[-1].kind in ROUGHING) != (following.cut.kind in ROUGHING)
    since_cut = not any(row.kind == CutEntry.Kind.CUT and row.pk > last for row in page.own_cuts)
    if any(one.piece == page.piece and one.at > guards[-1].at for one in page.rows.rounds.values()):
        found.append(_FIRST[1])  # trued again since: the indicator is in once more
    return [*found, *([_FIRST[2]] if moved and not (since_cut and not found) else [])]


def bundle_end(page: JobPage) -> int | None:
    """The last of the passes from the one in hand that nothing is measured between, where there are several."""
    state = page.passes.state
    if state is None or state.phase != "set":
        return None
    numbers = []
    for cut in state.passes_left:
        if cut.kind not in ROUGHING:
            break
        numbers.append(cut.number)
        if cut.measure_after:
            break
    return numbers[-1] if len(numbers) > 1 else None


def _suspect_words(page: JobPage, state: BoreState) -> str:
    """A change that came out twice or half of what was set; what was typed stays."""
    if state.suspect is None:
        return ""
    ladder = page.passes.ladder
    ask = "was radius taken for diameter in the setting?"
    if ladder is not None and isinstance(ladder.way, DialWay):
        meant = "diameter" if ladder.way.reads == "radius" else "radius"
        ask = f"was the dial taken to read {meant}?" if state.suspect == "twice" else "was the dial wound half as far?"
    return f"The change came out {state.suspect} of what was set: {ask} What was typed stays."


def _seen_of(page: JobPage, hand: int, mode: str) -> dict[str, Any]:
    """What can be said of the pass that is cut, or was cut last."""
    done = page.passes.done
    number = hand if mode == "cut" else done[-1].number if done else 0
    of = [page.bore.name] if page.is_several else []
    of += [f"piece {page.piece}"] if page.pieces else []
    return {
        "seen_of": number, "seen_asked": asked(page, number), "seen_said": seen_words(page, number),
        "seen_picture": ", ".join((*of, f"pass {number}")),
    }  # fmt: skip


def _noisy(page: JobPage, number: int) -> str:
    """Whether the pass that is shown hums or squeals."""
    remark = page.cuts_logged.remarks.get(number)
    noisy = remark is not None and remark.sound in (CutEntry.Sound.HUM, CutEntry.Sound.SQUEAL)
    return str(remark.get_sound_display()) if remark is not None and noisy else ""


def _touched_words(page: JobPage, state: BoreState) -> str:
    """What a touched tip voids, and what to do before the next pass."""
    ladder = page.passes.ladder
    if ladder is None or not ladder.replay.memory.after_touch:
        return ""
    bar = page.at.bar
    parts = [
        "Touch the wall again: the dial counts from there." if state.phase == "touch-off"
        else "Measure the bore first." if state.phase == "measure"
        else "Its first cut is measured."
    ]  # fmt: skip
    if page.bore.ends == "shoulder":
        parts.append("Touch the face again too: the depth stop is void.")
    if bar is not None and bar.bits_apart_mm is not None:
        parts.append("The other bit of the pair is void with it.")
    return " ".join(parts)


def _dialled_as(page: JobPage) -> str:
    """What "actual setting differs" asks for."""
    ladder = page.passes.ladder
    if ladder is not None and isinstance(ladder.way, DialWay):
        return "The dial really stands at"
    if page.passes.by.no_dial or page.job.setup.plan.set_with == "indicator":
        return "Really moved, on radius" if page.passes.by.no_dial else "Really moved, along the bit"
    return "It really reads"


def bar_words(page: JobPage) -> str:
    """What the bar's verdict says before the first cut; empty where it is OK or something has been cut."""
    verdict = page.bar_verdict
    if verdict is None or verdict.state == "ok" or page.passes.done:
        return ""
    return verdict_words(verdict, page.units)
