"""A bar between centres, the work on the saddle: where the bit stands, how far it all travels, what it gives."""

from __future__ import annotations

from dataclasses import dataclass

from gyrocore import (
    BarMaterial,
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
from gyrometra.jobs.reckon import Reckoning
from gyroplan.plan import BarVerdict, response_verdict


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


def centres_of(reckoning: Reckoning) -> Centres | None:
    """The bar between its centres; None while there is none. A refusal is kept as the problem `centres`."""
    bar, plan = reckoning.bar, reckoning.plan
    if bar is None:
        return None
    work = work_on_saddle(reckoning)
    length = float(bar.length_mm)
    try:
        layout = between_centres(
            work=work,
            bar=CentresBar(length_mm=length, driver_mm=float(plan.driver_mm), tail_mm=float(plan.tail_mm)),
            centres_mm=_maybe(reckoning.machine.centres_mm),
            saddle_travel_mm=_maybe(reckoning.machine.travel_mm),
        )
    except InvalidInput as error:
        reckoning.problems["centres"] = error
        return None
    bit = None if layout.bit_to_mm is None else (layout.bit_from_mm + layout.bit_to_mm) / 2
    response = None if bit is None else _response(reckoning, length, bit)
    stiffness = response.stiffness_n_mm if response else None
    push = abs(reckoning.force.radial_n) if reckoning.force else None
    cut = reckoning.heaviest_cut
    return Centres(
        work=work, layout=layout, bar_mm=float(bar.diameter_mm), bar_length_mm=length, bit_mm=bit, response=response,
        spring_mm=None if push is None or stiffness is None else push / stiffness,
        chatter=_chatter(reckoning, response), depth_mm=cut.depth_mm if cut else None,
        verdict=_verdict(reckoning, response),
    )  # fmt: skip


def _verdict(reckoning: Reckoning, response: BarResponse | None) -> BarVerdict | None:
    if response is None or reckoning.bar is None:
        return None
    return response_verdict(
        response.stiffness_n_mm, response.natural_frequency_hz, reckoning.bar.damping, reckoning.carried
    )


def work_on_saddle(reckoning: Reckoning) -> WorkOnSaddle:
    """The work with the stretch from its first bore to its last; its length reaches as far unless given."""
    bores, plan = list(reckoning.setup.bores.all()), reckoning.plan
    first, last = min(float(bore.start_mm) for bore in bores), max(bore.end_mm for bore in bores)
    length = last if plan.work_length_mm is None else float(plan.work_length_mm)
    return WorkOnSaddle(
        length_mm=length, bored_from_mm=max(0.0, first), bored_to_mm=last, overrun_mm=float(plan.overrun_mm)
    )


def _response(reckoning: Reckoning, length_mm: float, bit_mm: float) -> BarResponse | None:
    bar = reckoning.bar
    if bar is None:
        return None
    kind = bar.material
    return bar_response(
        segments=[Segment(length_mm=length_mm, diameter_mm=float(bar.diameter_mm))],
        supports=[Support(position_mm=0, kind="bearing"), Support(position_mm=length_mm, kind="bearing")],
        tool=Tool(position_mm=bit_mm),
        material=BarMaterial(youngs_modulus_gpa=kind.youngs_modulus_gpa, density_kg_m3=kind.density_kg_m3),
    )


def _chatter(reckoning: Reckoning, response: BarResponse | None) -> Stability | None:
    cut, edge, bar = reckoning.heaviest_cut, reckoning.edge, reckoning.bar
    if cut is None or edge is None or bar is None or response is None or response.stiffness_n_mm is None:
        return None
    return stability(
        stiffness_n_mm=response.stiffness_n_mm, damping_ratio=bar.damping,
        natural_frequency_hz=response.natural_frequency_hz, depth_mm=cut.depth_mm, edge=edge,
    )  # fmt: skip


def _maybe(value: object) -> float | None:
    return None if value is None else float(str(value))
