"""Rounds with their readings, and what happened between them, as frozen records; nothing is decided."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from typing import Literal, cast

from django.db.models import Exists, OuterRef

from gyrometra.crib.records import maybe
from gyrometra.jobs.models import SetUp
from gyrometra.jobs.queries import rows_of
from gyrometra.truing.models import Between, Reading, Round
from gyroplan.record import BetweenRecord, ReadingRecord, RoundRecord

Purpose = Literal["true", "check"]
HowRead = Literal["sweep", "flats"]
Surface = Literal["inside", "outside"]
Happened = Literal["moved", "disturbed"]


def rounds_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[Round]:
    """The rounds of a set-up, oldest first, of some pieces or all, with what stands in each; one query."""
    standing = Reading.objects.filter(
        ~Exists(Reading.objects.filter(supersedes=OuterRef("pk"))), round=OuterRef("pk"), withdrawn=False
    ).order_by("pk")  # fmt: skip
    rounds = setup.rounds.select_related("indicator").annotate(
        reading_rows=rows_of(standing, "id", "place", "value_mm", "text")
    )
    return list(rounds if pieces is None else rounds.filter(piece__in=pieces))


def between_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[Between]:
    """What happened between the rounds of a set-up; one query."""
    happened = Between.objects.standing().filter(setup=setup)
    return list(happened if pieces is None else happened.filter(piece__in=pieces))


def round_record(row: Round, places: Mapping[int, int]) -> RoundRecord:
    """A round with what stands in it; `places` gives the place of each bore along the axis by its key."""
    return RoundRecord(
        key=row.pk, number=row.number, purpose=cast(Purpose, row.purpose), method=cast(HowRead, row.method),
        places=row.places, surface=cast(Surface, row.surface),
        bore=None if row.bore_id is None else places[row.bore_id], piece=row.piece,
        indicator_step_mm=float(row.indicator.step_mm), closing_mm=maybe(row.closing_mm),
        readings=tuple(
            ReadingRecord(key=one["id"], place=one["place"], value_mm=maybe(one["value_mm"]), text=one["text"])
            for one in row.reading_rows  # type: ignore[attr-defined]
        ),
    )  # fmt: skip


def between_record(row: Between, places: Mapping[int, int]) -> BetweenRecord:
    """What happened after a round."""
    return BetweenRecord(
        kind=cast(Happened, row.kind), after_round=row.after_round, piece=row.piece,
        bore=None if row.bore_id is None else places[row.bore_id],
    )  # fmt: skip
