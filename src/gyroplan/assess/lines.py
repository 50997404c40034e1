"""A bar in bearings: spans, sag and deflection at every bore of the line, with and without one more bearing."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from math import sqrt

from gyrocore import (
    BoreInLine,
    Guidance,
    InvalidInput,
    LineBar,
    LineBarLayout,
    LineResponse,
    LineResponseRow,
    Stability,
    bar_kind,
    line_bar_layout,
    line_response,
    one_more_bearing_mm,
    pilot_guidance,
    stability,
)
from gyroplan.assess.at import AtBore
from gyroplan.assess.figure import Figure
from gyroplan.assess.heard import heard_of
from gyroplan.assess.pairs import pair_of
from gyroplan.assess.passes import Passes, edge_of, passes_of
from gyroplan.plan import BarVerdict, believed_damping, response_verdict
from gyroplan.record import BarRecord

_URGENT = ("stop", "caution", "ok")


@dataclass(frozen=True, slots=True, kw_only=True)
class Line:
    """One way of standing the bearings, worked out."""

    bearings_mm: tuple[float, ...]
    layout: LineBarLayout
    response: LineResponse
    coaxiality_mm: float | None
    #: Depth of the heaviest cut, and where chatter begins at the softest place; None while the cut is not known.
    depth_mm: float | None = None
    chatter: Stability | None = None
    #: Bores that are finished and guide the pilot bar.
    guides: tuple[str, ...] = ()
    #: Of a pilot bar: how far off its play in the guides lets a bore lie.
    guidance: Guidance | None = None
    #: The bar's verdict at each bore, over all passes, as (bore, verdict).
    verdicts: tuple[tuple[str, BarVerdict], ...] = ()

    def verdict_at(self, bore: str) -> BarVerdict | None:
        """The verdict at one bore; None while there is no cut."""
        return next((one for name, one in self.verdicts if name == bore), None)

    @property
    def softest(self) -> LineResponseRow:
        """The bore where the bar gives most."""
        return min(self.response.rows, key=lambda row: row.stiffness_n_mm or float("inf"))

    @property
    def worst(self) -> tuple[str, BarVerdict] | None:
        """The bore with the worst verdict; None while there is no cut."""
        return min(self.verdicts, key=lambda one: _URGENT.index(one[1].state), default=None)

    @property
    def verdict(self) -> BarVerdict | None:
        """The worst verdict of any bore; None while there is no cut."""
        return self.worst[1] if self.worst else None

    @property
    def fails_at(self) -> str:
        """The bore that says so where it does not hold; empty where it holds, or bearings or bar are wrong."""
        if self.worst is not None and self.worst[1].state == "stop":
            return self.worst[0]
        if not self.sags_little_enough:
            return max(self.response.rows, key=lambda row: abs(row.off_line_mm)).bore
        return ""

    @property
    def off_line_mm(self) -> float:
        """The largest offset from the line, by sag and by play in guides, as a diameter: what coaxiality counts."""
        return self._sagged_mm + (2 * self.guidance.worst_mm if self.guidance else 0.0)

    @property
    def _sagged_mm(self) -> float:
        return 2 * max(abs(row.off_line_mm) for row in self.response.rows)

    @property
    def straight_enough(self) -> bool:
        """Whether sag, and play in guides, keep the bores within the coaxiality that is asked."""
        return self.coaxiality_mm is None or self.off_line_mm <= self.coaxiality_mm + 1e-9

    @property
    def sags_little_enough(self) -> bool:
        """As above, by the sag alone: play in guides is measured, sag is not cured."""
        return self.coaxiality_mm is None or self._sagged_mm <= self.coaxiality_mm + 1e-9

    @property
    def holds(self) -> bool:
        """Whether nothing hard is broken: deflection, chatter, straightness, bearing spacing and bar length."""
        stands = self.layout.bearings_ok and self.long_enough
        return stands and self.sags_little_enough and not (self.verdict and self.verdict.state == "stop")

    @property
    def long_enough(self) -> bool:
        """Whether the bar covers bearings, bores and its travel."""
        return not any(n.code == "bar_too_short_for_line" for n in self.layout.notes)


def bar_in_line(bar: BarRecord) -> LineBar:
    """The crib's bar as the core lays it out; the bar travels."""
    return LineBar(diameter_mm=bar.diameter_mm, rule_ratio=bar_kind("line-bar").rule_ratio, length_mm=bar.length_mm)


def bores_in_line(at: AtBore, bearings_mm: Sequence[float]) -> tuple[BoreInLine, ...]:
    """The bores of the set-up that are to be cut: a finished one may guide a pilot bar, with a guide inside it."""
    guides = guiding_bores(at, bearings_mm)
    return tuple(bore.in_line for bore in at.setup.bores if bore.name not in guides)


def guiding_bores(at: AtBore, bearings_mm: Sequence[float]) -> tuple[str, ...]:
    """Bores of this set-up that are bored and have a guide of the pilot bar inside them."""
    if at.setup.method != "pilot":
        return ()
    found = []
    for bore in at.setup.bores:
        inside = any(bore.start_mm < place < bore.end_mm for place in bearings_mm)
        state = passes_of(replace(at, bore=bore)).state if inside else None
        if state is not None and state.phase == "done":
            found.append(bore.name)
    return tuple(found)


@lru_cache(maxsize=256)
def _worked_out(
    bar: LineBar, bores: tuple[BoreInLine, ...], bearings_mm: tuple[float, ...]
) -> tuple[LineBarLayout, LineResponse]:
    """Spans, sag, and deflection under one newton: the same for every bore's own cut, so worked out once."""
    layout = line_bar_layout(bar=bar, bores=bores, bearings_mm=bearings_mm)
    return layout, line_response(bar=bar, bores=bores, bearings_mm=bearings_mm, radial_n=1.0)


@lru_cache(maxsize=256)
def _one_more(bar: LineBar, bores: tuple[BoreInLine, ...], bearings_mm: tuple[float, ...]) -> float | None:
    return one_more_bearing_mm(bar=bar, bores=bores, bearings_mm=bearings_mm)


def response_of(at: AtBore, bar: BarRecord, bearings_mm: Sequence[float]) -> LineResponse:
    """How a bar in these bearings answers at every bore, under one newton; raises InvalidInput."""
    return _worked_out(bar_in_line(bar), bores_in_line(at, bearings_mm), tuple(bearings_mm))[1]


def line_at(passes: Passes, bearings_mm: Sequence[float]) -> Figure[Line]:
    """Spans, sag and deflection for these bearings."""
    at = passes.at
    if at.bar is None:
        return Figure(missing="bar")
    if len(bearings_mm) < 2:
        return Figure(missing="bearings")
    try:
        layout, response = _worked_out(bar_in_line(at.bar), bores_in_line(at, bearings_mm), tuple(bearings_mm))
        guidance = _guidance(at, bearings_mm)
    except InvalidInput as error:
        return Figure(refused=error)
    push = abs(passes.force.value.radial_n) if passes.force.value else 0.0
    # the deflection grows with the push
    rows = tuple(replace(row, spring_mm=push * row.spring_mm) for row in response.rows)
    line = Line(
        bearings_mm=tuple(sorted(bearings_mm)), layout=layout, response=replace(response, rows=rows),
        coaxiality_mm=at.setup.coaxiality_mm, depth_mm=passes.heaviest.depth_mm if passes.heaviest else None,
        chatter=_chatter(passes, response), guides=guiding_bores(at, bearings_mm), guidance=guidance,
        verdicts=_verdicts(passes, at.bar, response),
    )  # fmt: skip
    return Figure(line)


def _verdicts(passes: Passes, bar: BarRecord, response: LineResponse) -> tuple[tuple[str, BarVerdict], ...]:
    pair = pair_of(passes.at)
    by_name, places = {row.bore: row for row in response.rows}, {one.name: one.place for one in passes.at.setup.bores}
    found = []
    for row in response.rows:
        stiffness = row.stiffness_n_mm
        if pair is not None and row.bore in pair:
            other = by_name[pair[1] if row.bore == pair[0] else pair[0]]
            stiffness = _stiffness_of_two(stiffness, other.stiffness_n_mm)
        damping = bar_kind("line-bar").damping_ratio
        verdict = response_verdict(
            stiffness, response.natural_frequency_hz, damping, passes.carried,
            believed_damping(damping, stiffness, heard_of(passes.at, bar, bore=places[row.bore])).ratio,
        )  # fmt: skip
        if verdict is not None:
            found.append((row.bore, verdict))
    return tuple(found)


def _chatter(passes: Passes, response: LineResponse) -> Stability | None:
    """Where chatter begins at the softest place, with the heaviest cut's own chip and feed."""
    cut, edge = passes.heaviest, edge_of(passes)
    stiffness = min((row.stiffness_n_mm for row in response.rows if row.stiffness_n_mm), default=None)
    if cut is None or edge is None or stiffness is None:
        return None
    return stability(
        stiffness_n_mm=stiffness, damping_ratio=bar_kind("line-bar").damping_ratio,
        natural_frequency_hz=response.natural_frequency_hz, depth_mm=cut.depth_mm, edge=edge,
    )  # fmt: skip


def _stiffness_of_two(own_n_mm: float | None, other_n_mm: float | None) -> float | None:
    """How stiff a place is while a second bit pushes as hard at another.

    The flexibility from one place to another is at most the root of the product of their own (Cauchy-Schwarz, the
    strain energy being positive), so the place gives c + sqrt(c c') at most: the safe side.
    """
    if own_n_mm is None or other_n_mm is None:
        return own_n_mm
    return 1 / (1 / own_n_mm + 1 / sqrt(own_n_mm * other_n_mm))


def _guidance(at: AtBore, guides_mm: Sequence[float]) -> Guidance | None:
    """What the guides of a pilot bar can prove; None for plain bearings, and while the play is not known."""
    play = at.plan.guide_play_mm
    if at.setup.method != "pilot" or play is None:
        return None
    return pilot_guidance(guides_mm=guides_mm, play_mm=play, bores=bores_in_line(at, guides_mm))


def one_more(at: AtBore, bearings_mm: Sequence[float]) -> float | None:
    """Where one more bearing helps most; None where none fits or none helps."""
    if at.bar is None or len(bearings_mm) < 2:
        return None
    try:
        return _one_more(bar_in_line(at.bar), bores_in_line(at, bearings_mm), tuple(bearings_mm))
    except InvalidInput:
        return None
