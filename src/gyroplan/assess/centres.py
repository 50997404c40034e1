"""A bar between centres, the work on the saddle: where the bit stands, how far it all travels, what it gives."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import (
    BarResponse,
    CentresBar,
    CentresLayout,
    InvalidInput,
    Segment,
    Stability,
    Support,
    Tool,
    WorkOnSaddle,
    bar_response,
    between_centres,
    stability,
)
from gyroplan.assess.at import AtBore
from gyroplan.assess.figure import Figure
from gyroplan.assess.heard import heard_of
from gyroplan.assess.passes import Passes, edge_of
from gyroplan.plan import BarVerdict, believed_damping, response_verdict
from gyroplan.record import BarRecord


@dataclass(frozen=True, slots=True, kw_only=True)
class Centres:
    """The lay-out, the bit in the middle of where it may stand, and the bar's answer there."""

    work: WorkOnSaddle
    layout: CentresLayout
    bar_mm: float
    bar_length_mm: float
    bit_mm: float | None
    response: BarResponse | None
    spring_mm: float | None
    chatter: Stability | None
    depth_mm: float | None
    verdict: BarVerdict | None = None

    @property
    def holds(self) -> bool:
        """Whether nothing hard is broken."""
        return self.layout.ok and (self.verdict is None or self.verdict.state != "stop")


def centres_of(passes: Passes) -> Figure[Centres]:
    """The bar between its centres."""
    at = passes.at
    if at.bar is None:
        return Figure(missing="bar")
    try:
        layout = layout_of(at, at.bar)
    except InvalidInput as error:
        return Figure(refused=error)
    bit = None if layout.bit_to_mm is None else (layout.bit_from_mm + layout.bit_to_mm) / 2
    response = None if bit is None else response_at(at.bar, bit)
    stiffness = response.stiffness_n_mm if response else None
    push = abs(passes.force.value.radial_n) if passes.force.value else None
    return Figure(
        Centres(
            work=work_on_saddle(at), layout=layout, bar_mm=at.bar.diameter_mm, bar_length_mm=at.bar.length_mm,
            bit_mm=bit, response=response,
            spring_mm=None if push is None or stiffness is None else push / stiffness,
            chatter=_chatter(passes, at.bar, response), depth_mm=passes.heaviest.depth_mm if passes.heaviest else None,
            verdict=None if response is None else response_verdict(
                response.stiffness_n_mm, response.natural_frequency_hz, at.bar.damping, passes.carried,
                believed_damping(at.bar.damping, response.stiffness_n_mm, heard_of(at, at.bar)).ratio,
            ),
        )
    )  # fmt: skip


def layout_of(at: AtBore, bar: BarRecord) -> CentresLayout:
    """How a bar stands between its centres, and how far the work travels; raises InvalidInput."""
    return between_centres(
        work=work_on_saddle(at),
        bar=CentresBar(length_mm=bar.length_mm, driver_mm=at.plan.driver_mm, tail_mm=at.plan.tail_mm),
        centres_mm=at.machine.centres_mm,
        saddle_travel_mm=at.machine.travel_mm,
    )


def work_on_saddle(at: AtBore) -> WorkOnSaddle:
    """The work with the stretch from its first bore to its last; its length reaches as far unless given."""
    first, last = min(bore.start_mm for bore in at.setup.bores), max(bore.end_mm for bore in at.setup.bores)
    length = last if at.plan.work_length_mm is None else at.plan.work_length_mm
    return WorkOnSaddle(
        length_mm=length, bored_from_mm=max(0.0, first), bored_to_mm=last, overrun_mm=at.plan.overrun_mm
    )  # fmt: skip


def response_at(bar: BarRecord, bit_mm: float) -> BarResponse:
    """How a bar held at both ends answers at its bit."""
    return bar_response(
        segments=[Segment(length_mm=bar.length_mm, diameter_mm=bar.diameter_mm)],
        supports=[Support(position_mm=0, kind="bearing"), Support(position_mm=bar.length_mm, kind="bearing")],
        tool=Tool(position_mm=bit_mm),
        material=bar.material,
    )


def _chatter(passes: Passes, bar: BarRecord, response: BarResponse | None) -> Stability | None:
    cut, edge = passes.heaviest, edge_of(passes)
    if cut is None or edge is None or response is None or response.stiffness_n_mm is None:
        return None
    return stability(
        stiffness_n_mm=response.stiffness_n_mm, damping_ratio=bar.damping,
        natural_frequency_hz=response.natural_frequency_hz, depth_mm=cut.depth_mm, edge=edge,
    )  # fmt: skip
