"""Replays the log of a check (contract, `check_state`): places, limits, what is missing, the verdict over all."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from gyrocore import Note, note
from gyrocore.checks import TOLERANCE
from gyroplan.gauges import believed_size
from gyroplan.judge.entries import Depth, Entry, Runout, Size, Undo
from gyroplan.judge.limits import Figure, Limits, limits_of, size_of
from gyroplan.judge.places import Coverage, Place, coverage_of, places_of
from gyroplan.judge.plan import CheckWork, require_work
from gyroplan.refusal import Refusal, Refused


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckState:
    """What is known of the finished bore after an entry [mm]."""

    places: tuple[Place, ...]
    limits: Limits
    #: Codes of what is missing: depths, directions, runout, shoulder, repeat.
    missing: tuple[str, ...]
    overall: str
    coverage: Coverage
    refused: Refusal | None = None


@dataclass(frozen=True, slots=True, kw_only=True)
class CheckStates:
    """One state before the first entry and one after each."""

    states: tuple[CheckState, ...]
    notes: tuple[Note, ...] = ()


def check_state(work: CheckWork) -> CheckStates:
    """Return the state of a check before the first entry of its log and after each.

    Parameters
    ----------
    work : what is asked, and the entries, in order [mm]

    Returns
    -------
    CheckStates, one more than there are entries

    Raises
    ------
    InvalidInput
        At a field of the plan, or at `entries.N.field`, that could never be. What does not fit as things stand is
        refused in the state after it and changes nothing.

    References
    ----------
    Core contract, "The state of the work"; ISO 14253-1 for the guarded rule.
    """
    require_work(work)
    standing: list[Entry] = []
    states = [state_of(work, standing)]
    for entry in work.entries:
        try:
            standing = _after(work, standing, entry)
            states.append(state_of(work, standing))
        except Refused as refused:
            states.append(replace(states[-1], refused=refused.refusal))
    return CheckStates(states=tuple(states), notes=_notes(states[-1], work))


def _after(work: CheckWork, standing: list[Entry], entry: Entry) -> list[Entry]:
    if isinstance(entry, Undo):
        if not standing:
            raise Refused("kind", "nothing_to_undo")
        return standing[:-1]
    if isinstance(entry, Depth) and not work.has_shoulder:
        raise Refused("kind", "not_asked", given="depth")
    if isinstance(entry, Runout) and work.runout_limit_mm is None:
        raise Refused("kind", "not_asked", given="run-out")
    if isinstance(entry, Size) and not -TOLERANCE <= entry.z_mm <= work.length_mm + TOLERANCE:
        raise Refused("z_mm", "not_between", given=entry.z_mm, least=0, most=work.length_mm)
    if isinstance(entry, (Size, Depth)):
        names = [gauge.name for gauge in work.gauges]
        if entry.gauge not in names:
            raise Refused("gauge", "no_such_gauge", given=entry.gauge, choices=", ".join(names))
    return [*standing, entry]


def state_of(work: CheckWork, standing: Sequence[Entry]) -> CheckState:
    """Return what the standing entries say."""
    places = places_of(work, [entry for entry in standing if isinstance(entry, Size)])
    depths = [entry for entry in standing if isinstance(entry, Depth)]
    runout = next((entry for entry in reversed(standing) if isinstance(entry, Runout)), None)
    coverage = coverage_of(work, places)
    limits = limits_of(work, places, coverage, depths, runout)
    missing = _missing(work, places, coverage, depths, runout)
    return CheckState(
        places=places, limits=limits, missing=missing, overall=_overall(limits, missing), coverage=coverage
    )  # fmt: skip


def with_places(work: CheckWork, state: CheckState, places: tuple[Place, ...]) -> CheckState:
    """The state with places that something beside their readings has decided: size and overall follow."""
    limits = replace(state.limits, size=size_of(work, places, state.coverage))
    return replace(state, places=places, limits=limits, overall=_overall(limits, state.missing))


def _missing(
    work: CheckWork, places: Sequence[Place], coverage: Coverage, depths: Sequence[Depth], runout: Runout | None
) -> tuple[str, ...]:
    once = any(place.unrepeated for place in places) or (
        bool(depths) and believed_size([d.taken for d in depths], work.gauges, work.expansions).unrepeated
    )
    gaps = {
        "depths": coverage.depths_missing,
        "directions": coverage.directions_missing,
        "runout": work.runout_limit_mm is not None and runout is None,
        "shoulder": work.has_shoulder and not depths,
        "repeat": once,
    }
    return tuple(code for code, is_missing in gaps.items() if is_missing)


def _overall(limits: Limits, missing: Sequence[str]) -> str:
    """The first that holds; metal left goes before form, because the next cut takes form with it."""
    size, shoulder = limits.size.verdict, _word(limits.depth)
    if "over" in (size, shoulder):
        return "over"
    form_over = any(one.verdict == "over" for one in limits.form)
    if size in ("in", "undecided") and shoulder != "under" and form_over:
        return "over"
    if "under" in (size, shoulder):
        return "metal-left"
    if missing:
        return "incomplete"
    return "undecided" if any(one.verdict == "undecided" for one in limits.asked) else "in"


def _word(figure: Figure | None) -> str:
    return "" if figure is None else figure.verdict


def _notes(state: CheckState, work: CheckWork) -> tuple[Note, ...]:
    found = [note("guarded_limits") if work.rule == "guarded" else note("simple_rule")]
    if any(place.agree is False for place in state.places):
        found.append(note("gauges_contradict"))
    if work.directions < 3:
        found.append(note("lobes_not_seen"))
    if "repeat" in state.missing:
        found.append(note("one_reading_no_repeat"))
    return tuple(found)
