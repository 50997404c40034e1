"""The whole part as Work shows it: the bores of every set-up that stands, numbered once, and which set-up cuts them."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations
from typing import Any

from django.db.models import Prefetch

from gyrometra.jobs.models import Bore, SetUp
from gyrometra.jobs.records import bore_record, feature_records
from gyrometra.steps.page import JobPage
from gyroplan.record import BoreRecord, FeatureRecord, letter_of


@dataclass(frozen=True, slots=True, kw_only=True)
class PlacedBore:
    """A bore of the part: in which set-up it is cut, and what it must become [mm]."""

    number: int
    setup: int
    place: int
    name: str
    turned: bool
    start_mm: float
    length_mm: float
    ends: str
    lower_mm: float
    upper_mm: float
    aim_mm: float
    wanted: str
    found_mm: float | None
    matters: str
    here: bool = False
    #: 0 for the part's first axis; a set-up that says how far its axis lies from another has its own.
    axis: int = 0
    #: Nothing of it is cut: it is the surface that is read.
    only_trued: bool = False
    runout_mm: float = 0.0

    @property
    def letter(self) -> str:
        """The letter of its set-up."""
        return letter_of(self.setup)

    @property
    def now_mm(self) -> float:
        """The smallest size found, else the one aimed at."""
        return self.aim_mm if self.found_mm is None else self.found_mm


def clashes(bores: Sequence[PlacedBore]) -> list[tuple[PlacedBore, PlacedBore]]:
    """Bores of two set-ups that stand in one another's place from the same side: both would finish it."""
    return [
        (one, other) for one, other in combinations(bores, 2)
        if one.setup != other.setup and one.turned == other.turned and one.axis == other.axis
        and not one.only_trued and not other.only_trued
        and one.start_mm < other.start_mm + other.length_mm and other.start_mm < one.start_mm + one.length_mm
    ]  # fmt: skip


def setups_of(page: JobPage) -> list[SetUp]:
    """Every set-up of the job in order, with its bores."""
    if not page.has_setups:
        return [page.job.setup]
    bores = Bore.objects.with_rows().select_related("follows__setup")
    setups = page.job.setups.with_features().select_related("machine", "closed_by")
    return list(setups.prefetch_related(Prefetch("bores", bores)))


def features_of(page: JobPage, setup: SetUp) -> tuple[FeatureRecord, ...]:
    """What a set-up makes beside its bores, of one that was read by `setups_of`."""
    if setup.place == page.record.setup.place:
        return page.record.setup.features
    return () if setup.closed_reason else feature_records(getattr(setup, "feature_rows", ()))


def _axis(page: JobPage, setup: SetUp) -> int:
    """Its own where a distance of it is taken from another axis."""
    return setup.place if any(one.kind == "distance" for one in features_of(page, setup)) else 0


def placed_bores(page: JobPage, setups: Sequence[SetUp]) -> list[PlacedBore]:
    """The bores of the part in the order of their set-ups; one that another set-up went on with stands once."""
    own, found = page.record.setup.place, list[dict[str, Any]]()
    gone_on = {bore.follows_id for one in setups if page.has_setups and not one.closed_reason
               for bore in one.bores.all()}  # fmt: skip
    for one in setups:
        if one.place == own:
            found += [{**_of_record(page, bore), "setup": own, "turned": one.side == SetUp.Side.OTHER,
                       "axis": _axis(page, one), "only_trued": one.only_trued,
                       "here": bore.place == page.place} for bore in page.bores]  # fmt: skip
        elif not one.closed_reason:
            found += [{**_of_record(page, bore_record(bore)), "setup": one.place, "axis": _axis(page, one),
                       "only_trued": one.only_trued,
                       "turned": one.side == SetUp.Side.OTHER}
                      for bore in one.bores.all() if bore.pk not in gone_on]  # fmt: skip
    return [PlacedBore(number=number + 1, **values) for number, values in enumerate(found)]


def _of_record(page: JobPage, bore: BoreRecord) -> dict[str, Any]:
    units, own = page.units, bore.of_piece(page.piece)
    return {
        "place": bore.place, "name": bore.name, "start_mm": bore.start_mm, "length_mm": bore.length_mm,
        "ends": bore.ends, "lower_mm": bore.lower_mm, "upper_mm": bore.upper_mm, "aim_mm": bore.aim_mm,
        "wanted": units.limits(bore.wanted, bore.wanted_unit, bore.lower_mm, bore.upper_mm),
        "found_mm": own.smallest_found_mm, "matters": bore.inspection, "runout_mm": bore.runout_limit_mm,
    }  # fmt: skip
