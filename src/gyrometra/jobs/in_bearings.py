"""A bar in bearings: spans, sag and spring at every bore of the line, with and without one more bearing."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from functools import lru_cache

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
from gyrometra.crib.models import Bar
from gyrometra.jobs.reckon import Reckoning
from gyroplan.plan import BarVerdict, response_verdict

#: Two bits cut two bores at once where the bores stand as far apart as the bits, to this (chosen here: what the
#: overrun takes up).
PAIR_WITHIN_MM = 2


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
    #: Of a pilot bar: how far off its play in the guides lets a bore lie.
    guidance: Guidance | None = None
    #: The bar's verdict at each bore, over all passes.
    verdicts: Mapping[str, BarVerdict] = field(default_factory=dict)

    @property
    def softest(self) -> LineResponseRow:
        """The bore where the bar gives most."""
        return min(self.response.rows, key=lambda row: row.stiffness_n_mm or float("inf"))

    @property
    def verdict(self) -> BarVerdict | None:
        """The worst verdict of any bore; None while there is no cut."""
        order = ("stop", "caution", "ok")
        return min(self.verdicts.values(), key=lambda one: order.index(one.state), default=None)

    @property
    def chatters(self) -> bool:
        """Whether chatter is as good as certain at some bore."""
        return any(one.state == "stop" and one.by == "chatter" for one in self.verdicts.values())

    def springs_too_far(self) -> list[str]:
        """Bores where a pass pushes the bar off past its allowed spring."""
        return [name for name, one in self.verdicts.items() if one.state == "stop" and one.by == "deflection"]

    @property
    def off_line_mm(self) -> float:
        """The largest offset from the line, by sag and by play in guides, as a diameter: what coaxiality counts."""
        sagged = 2 * max(abs(row.off_line_mm) for row in self.response.rows)
        return sagged + (2 * self.guidance.worst_mm if self.guidance else 0.0)

    @property
    def straight_enough(self) -> bool:
        """Whether sag, and play in guides, keep the bores within the coaxiality that is asked."""
        return self.coaxiality_mm is None or self.off_line_mm <= self.coaxiality_mm + 1e-9

    @property
    def sags_little_enough(self) -> bool:
        """As above, by the sag alone: play in guides is measured, sag is not cured."""
        proved = self.off_line_mm - (2 * self.guidance.worst_mm if self.guidance else 0.0)
        return self.coaxiality_mm is None or proved <= self.coaxiality_mm + 1e-9

    @property
    def holds(self) -> bool:
        """Whether nothing hard is broken: spring, chatter, straightness, bearing spacing and bar length."""
        stands = self.layout.bearings_ok and self.long_enough
        return stands and self.sags_little_enough and not self.chatters and not self.springs_too_far()

    @property
    def long_enough(self) -> bool:
        """Whether the bar covers bearings, bores and its travel."""
        return not any(n.code == "bar_too_short_for_line" for n in self.layout.notes)


def bar_in_line(bar: Bar) -> LineBar:
    """The crib's bar as the core lays it out; the bar travels."""
    return LineBar(
        diameter_mm=float(bar.diameter_mm),
        rule_ratio=bar_kind("line-bar").rule_ratio,
        length_mm=float(bar.length_mm),
    )


def bores_in_line(reckoning: Reckoning) -> list[BoreInLine]:
    """All bores of the set-up."""
    return [bore.in_line for bore in reckoning.setup.bores.all()]


@lru_cache(maxsize=256)
def _worked_out(
    bar: LineBar, bores: tuple[BoreInLine, ...], bearings_mm: tuple[float, ...]
) -> tuple[LineBarLayout, LineResponse]:
    """Spans, sag, and spring under one newton: the same for every bore's own cut, so worked out once."""
    layout = line_bar_layout(bar=bar, bores=bores, bearings_mm=bearings_mm)
    return layout, line_response(bar=bar, bores=bores, bearings_mm=bearings_mm, radial_n=1.0)


@lru_cache(maxsize=256)
def _one_more(bar: LineBar, bores: tuple[BoreInLine, ...], bearings_mm: tuple[float, ...]) -> float | None:
    return one_more_bearing_mm(bar=bar, bores=bores, bearings_mm=bearings_mm)


def _under(response: LineResponse, push_n: float) -> LineResponse:
    """The spring grows with the push."""
    return replace(response, rows=tuple(replace(row, spring_mm=push_n * row.spring_mm) for row in response.rows))


def line_at(reckoning: Reckoning, bearings_mm: Sequence[float]) -> Line | None:
    """Spans, sag and spring for these bearings; a refusal is kept as the problem `bearings`."""
    bar = reckoning.bar
    if bar is None or len(bearings_mm) < 2:
        return None
    push = abs(reckoning.force.radial_n) if reckoning.force else 0.0
    try:
        layout, response = _worked_out(bar_in_line(bar), tuple(bores_in_line(reckoning)), tuple(bearings_mm))
    except InvalidInput as error:
        reckoning.problems["bearings"] = error
        return None
    asked, cut = reckoning.setup.coaxiality_mm, reckoning.heaviest_cut
    line = Line(
        bearings_mm=tuple(sorted(bearings_mm)), layout=layout, response=_under(response, push),
        coaxiality_mm=None if asked is None else float(asked), depth_mm=cut.depth_mm if cut else None,
        guidance=_guidance(reckoning, bearings_mm),
    )  # fmt: skip
    return replace(line, chatter=_chatter(reckoning, line), verdicts=_verdicts(reckoning, line))


def _verdicts(reckoning: Reckoning, line: Line) -> dict[str, BarVerdict]:
    found = {}
    for row in line.response.rows:
        verdict = response_verdict(
            row.stiffness_n_mm, line.response.natural_frequency_hz, bar_kind("line-bar").damping_ratio,
            reckoning.carried,
        )  # fmt: skip
        if verdict is not None:
            found[row.bore] = verdict
    return found


def _guidance(reckoning: Reckoning, guides_mm: Sequence[float]) -> Guidance | None:
    """What the guides of a pilot bar can prove; None for plain bearings, and while the play is not known."""
    play = reckoning.plan.guide_play_mm
    if reckoning.setup.method != "pilot" or play is None:
        return None
    return pilot_guidance(guides_mm=guides_mm, play_mm=float(play), bores=bores_in_line(reckoning))


def _chatter(reckoning: Reckoning, line: Line) -> Stability | None:
    """Where chatter begins at the softest place, with the heaviest cut's own chip and feed."""
    cut, edge, stiffness = reckoning.heaviest_cut, reckoning.edge, line.softest.stiffness_n_mm
    if cut is None or edge is None or stiffness is None:
        return None
    return stability(
        stiffness_n_mm=stiffness,
        damping_ratio=bar_kind("line-bar").damping_ratio,
        natural_frequency_hz=line.response.natural_frequency_hz,
        depth_mm=cut.depth_mm,
        edge=edge,
    )


def pair_of(reckoning: Reckoning) -> tuple[str, str] | None:
    """Two bores that the two bits of the picked bar cut at once: as far apart as the bits, and of one size."""
    bar = reckoning.bar
    if bar is None or bar.bits_apart_mm is None:
        return None
    bores = list(reckoning.setup.bores.all())
    for place, first in enumerate(bores):
        for second in bores[place + 1 :]:
            apart = abs(abs(second.start_mm - first.start_mm) - bar.bits_apart_mm)
            if apart <= PAIR_WITHIN_MM and abs(first.aim_mm - second.aim_mm) < 1e-9:
                return first.name, second.name
    return None


def one_more(reckoning: Reckoning, bearings_mm: Sequence[float]) -> float | None:
    """Where one more bearing helps most; None where none fits or none helps."""
    if reckoning.bar is None or len(bearings_mm) < 2:
        return None
    try:
        return _one_more(bar_in_line(reckoning.bar), tuple(bores_in_line(reckoning)), tuple(bearings_mm))
    except InvalidInput:
        return None
