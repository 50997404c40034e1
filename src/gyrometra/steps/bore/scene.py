"""The Bore band: the bar or the gauge in the work, the wall enlarged, the one ladder of passes."""

from __future__ import annotations

from gyrodraw import Detail, InBore, PassLine, Rung, Scene, bore_band
from gyrometra.cutting.models import CutEntry
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.scene import bands, part_of
from gyroplan.loop import BoreState, Ladder, PassCut

#: While measuring the ladder shows at least so much before the limits; over, so much about them [mm, on diameter].
_LAST_MM, _OVER_SHARE = 0.5, 1.6


def bore_scenes(page: JobPage, mode: str) -> list[tuple[str, Scene]]:
    """The Bore band at each width."""
    ladder, state = page.passes.ladder, page.passes.state
    assert ladder is not None and state is not None  # noqa: S101, PT018 - the caller has looked
    part, line = part_of(page.record.material, page.bore), _line(page, ladder, state, mode)
    inside, detail = _inside(page, state, mode), _detail(page, state) if mode in ("set", "cut") else None
    return bands(lambda width: bore_band(part, inside, line, detail, width))


def _inside(page: JobPage, state: BoreState, mode: str) -> InBore:
    units, bar = page.units, page.at.bar
    diameter = bar.diameter_mm if bar else None
    if mode in ("measure", "over", "done"):
        size = page.cuts_logged.last_size
        measured = state.known_from == "measured"
        step = float(size.rests_on.get("resolution_mm", 0.001)) if size else 0.001
        return InBore(
            what="gauge", bar_mm=1.0, words=size.gauge.name if size and size.gauge else "bore gauge",
            length_words=units.length(page.bore.length_mm),
            size_words="Ø"
            + (units.measured(state.known_mm, step) if measured else f"{units.planned(state.known_mm)} set"),
            size_state="bad" if mode == "over" else "ink",
            note_words=f"±{units.doubt(state.expanded_mm or 0)}" if measured else "not measured yet",
        )  # fmt: skip
    out = f" · {units.length(page.bar.out_mm)} out" if page.bar.out_mm and page.job.setup.way.bar_in == "holder" else ""
    return InBore(
        what="cutting" if mode == "cut" else "bar",
        bar_mm=diameter,
        words=f"{bar.name}{out}" if bar else "",
        length_words=f"{units.length(page.bore.length_mm)}{'' if mode == 'cut' else ' to go'}",
    )  # fmt: skip


def _detail(page: JobPage, state: BoreState) -> Detail | None:
    """What this pass takes off and what it leaves, on radius."""
    units, hand, cutter = page.units, state.hand, page.at.cutter
    if hand is None or hand.kind == "spring":
        return None
    depth = (hand.diameter_mm - state.known_mm) / 2
    left = (page.passes.plan.value.bored_diameter_mm - hand.diameter_mm) / 2 if page.passes.plan.value else 0.0
    if depth <= 0:
        return None
    nose = cutter.nose_radius_mm if cutter else 0.0
    return Detail(
        depth_mm=depth, left_mm=max(0.0, left), depth_words=f"{units.planned(depth)} deep, on radius",
        left_words=f"{units.planned(left)} left after it" if left > 1e-6 else "to size", nose_mm=nose,
        nose_words=f"nose R{units.plain(nose)}",
    )  # fmt: skip


def _line(page: JobPage, ladder: Ladder, state: BoreState, mode: str) -> PassLine:
    units, bore = page.units, ladder.replay.memory.bore
    start, lower, upper = bore.start_mm, bore.bored_lower_mm, bore.bored_upper_mm
    begin, zoom = _window(page, state, mode, start, lower, upper)
    over = state.known_mm - upper
    return PassLine(
        start_mm=start,
        start_words=f"Ø{units.planned(start)}",
        known_mm=state.known_mm,
        lower_mm=lower,
        upper_mm=upper,
        limits_words=(units.lowest(lower), units.highest(upper)),
        rungs=_rungs(page, ladder, state),
        from_mm=begin,
        zoom_words=zoom,
        over_words=f"{units.planned(over)} over" if state.phase == "over" else "",
        size_words=f"{units.planned(state.known_mm)} ±{units.doubt(state.expanded_mm or 0)}",
    )


def _window(
    page: JobPage, state: BoreState, mode: str, start: float, lower: float, upper: float
) -> tuple[float, str]:  # fmt: skip
    """Where the ladder begins, and what is said where it is zoomed."""
    units, tolerance = page.units, upper - lower
    if state.phase == "over":
        begin = lower - _OVER_SHARE * max(tolerance, state.known_mm - upper) / 2
        return begin, f"on Ø, the last\n{units.planned(state.known_mm - begin)} to scale"
    left = upper - state.known_mm
    small = left < 0.16 * (upper - start) or mode == "measure"
    shown = max(1.25 * left, 4 * tolerance, min(_LAST_MM, upper - start))
    if small and shown < 0.9 * (upper - start):
        return upper - shown, f"on Ø, the last\n{units.plain(round(shown, 3))} to scale"
    return start, ""


def _rungs(page: JobPage, ladder: Ladder, state: BoreState) -> list[Rung]:
    units = page.units
    found = [
        Rung(number=cut.number, at_mm=cut.measured_mm or cut.set_mm, above=f"Ø{units.planned(cut.set_mm)}",
             below=_below(page, cut), state="done")
        for cut in ladder.done if cut.kind != "spring"
    ]  # fmt: skip
    for ahead in ladder.ahead:
        if ahead.cut.kind == "spring":
            continue
        now = ahead.cut.number == state.in_hand
        found.append(
            Rung(number=ahead.cut.number, at_mm=ahead.cut.diameter_mm, above=f"Ø{units.planned(ahead.cut.diameter_mm)}",
                 below="this pass" if now else "", state="now" if now else "ahead")
        )  # fmt: skip
    return found


def _below(page: JobPage, cut: PassCut) -> str:
    if cut.measured_mm is not None:
        rows = [page.cuts_logged.rows[place] for place in cut.sizes_at if place < len(page.cuts_logged.rows)]
        step = min((_step(row) for row in rows), default=0.001)
        return f"came out {page.units.measured(cut.measured_mm, step)}"
    remark = page.cuts_logged.remarks.get(cut.number)
    return f"{remark.get_sound_display()}, {remark.get_look_display()}" if remark else "not measured"


def _step(row: CutEntry) -> float:
    return float(row.rests_on.get("resolution_mm") or 0.001)
