"""Rounds with their readings, and what happened between them, as frozen records; nothing is decided."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from datetime import datetime
from math import cos, radians, sin
from typing import Any, Literal, cast

from django.db.models import Exists, OuterRef, QuerySet

from gyrometra.crib.records import indicator_record, maybe
from gyrometra.jobs.models import LogEntry, SetUp
from gyrometra.jobs.queries import rows_of
from gyrometra.truing.models import Between, Reading, Round
from gyroplan.record import BetweenRecord, ReadingRecord, RoundRecord

Purpose = Literal["true", "check"]
HowRead = Literal["sweep", "flats", "walls", "eye", "plug", "coaxial", "edge"]
Surface = Literal["inside", "outside", "face"]
Happened = Literal["moved", "disturbed"]


#: Of a centring without an indicator: it is never counted in divisions [mm].
_FINE_MM = 0.001


def rounds_of(setup: SetUp, pieces: Iterable[int] | None = None) -> list[Round]:
    """The rounds of a set-up, oldest first, of some pieces or all: what stands in each, what happened after it.

    One query, however many.
    """
    readings = _standing(Reading).filter(round=OuterRef("pk"))
    happened = _standing(Between).filter(
        setup=OuterRef("setup"), piece=OuterRef("piece"), after_round=OuterRef("number")
    )  # fmt: skip
    rounds = setup.rounds.select_related("indicator").annotate(
        reading_rows=rows_of(readings),
        between_rows=rows_of(happened),
    )
    return list(rounds if pieces is None else rounds.filter(piece__in=pieces))


def _standing(log: type[LogEntry]) -> QuerySet[Any]:
    """Entries that no later one has replaced, in their order."""
    rows: Any = log
    later = rows.objects.filter(supersedes=OuterRef("pk"))
    standing: QuerySet[Any] = rows.objects.filter(~Exists(later), withdrawn=False).order_by("pk")
    return standing


def round_record(row: Round, places: Mapping[int, int]) -> RoundRecord:
    """A round with what stands in it; `places` gives the place of each bore along the axis by its key."""
    return RoundRecord(
        key=row.pk, number=row.number, purpose=cast(Purpose, row.purpose), method=cast(HowRead, row.method),
        places=row.places, surface=cast(Surface, row.surface),
        bore=None if row.bore_id is None else places[row.bore_id], piece=row.piece, plane_mm=maybe(row.plane_mm),
        depths_mm=tuple(float(one) for one in row.depths_mm), plus_out=row.plus_out, bound_mm=maybe(row.bound_mm),
        target_mm=_target(row), seen_other=row.seen_other,
        indicator_step_mm=float(row.rests_on.get("step_mm") or getattr(row.indicator, "step_mm", _FINE_MM)),
        closing_mm=maybe(row.closing_mm),
        indicator=indicator_record(row.indicator) if row.indicator is not None else None,
        readings=tuple(
            ReadingRecord(key=one["id"], place=one["place"], value_mm=maybe(one["value_mm"]), text=one["text"])
            for one in row.reading_rows  # type: ignore[attr-defined]
        ),
    )  # fmt: skip


def _target(row: Round) -> tuple[float, float]:
    """The offset that is wanted, along 0 and along 90 degrees."""
    if row.target_mm is None:
        return 0.0, 0.0
    angle, size = radians(float(row.target_deg or 0)), float(row.target_mm)
    return size * cos(angle), size * sin(angle)


def is_taken_back(row: Round) -> bool:
    """Whether a centring without a round was withdrawn."""
    happened: list[dict[str, Any]] = row.between_rows  # type: ignore[attr-defined]
    return any(one["kind"] == Between.Kind.WITHDRAWN and one["bore_id"] == row.bore_id for one in happened)


def between_records(row: Round, places: Mapping[int, int]) -> list[BetweenRecord]:
    """What happened after a truing round, in its order."""
    if row.purpose != Round.Purpose.TRUE:
        return []
    bore = None if row.bore_id is None else places[row.bore_id]
    return [
        BetweenRecord(
            kind=cast(Happened, one["kind"]),
            after_round=row.number,
            piece=row.piece,
            bore=bore,
            how=one["how"],
            really_mm=tuple(one["really_mm"]) if one["really_mm"] else None,
            at=datetime.fromisoformat(one["typed_at"] or one["at"]),
        )
        for one in row.between_rows  # type: ignore[attr-defined]
        if one["bore_id"] == row.bore_id and one["kind"] != Between.Kind.WITHDRAWN
    ]
