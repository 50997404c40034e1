"""A job read from the database once, and made into the frozen record that all its pages are worked out from."""

from __future__ import annotations

import json
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any

from django.conf import settings
from pydantic import TypeAdapter

from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.record import CutLog, cuts_of, log_of, log_record
from gyrometra.inspection.models import DepthReading, FeatureReading, PlugReading, SizeReading
from gyrometra.inspection.records import (
    depth_record,
    depths_of,
    feature_reading_record,
    feature_readings_of,
    plug_record,
    plugs_of,
    size_record,
    sizes_of,
)
from gyrometra.jobs.models import Bore, Job
from gyrometra.jobs.records import setup_record
from gyrometra.truing.models import Round
from gyrometra.truing.records import between_records, is_taken_back, round_record, rounds_of
from gyroplan.assess import AtBore, set_by
from gyroplan.loop import Way
from gyroplan.record import JobRecord, PieceSummary, SetUpRecord, SetUpSummary, record_from_json

#: Of a batch larger than this only the logs of the piece that is shown are read; of the others what they came to.
SMALL_BATCH = 8
_SUMMARIES: TypeAdapter[list[PieceSummary]] = TypeAdapter(list[PieceSummary])
_SETUPS: TypeAdapter[list[SetUpSummary]] = TypeAdapter(list[SetUpSummary])


@dataclass(frozen=True, slots=True, kw_only=True)
class Rows:
    """The rows behind a record: who logged what, and when, is printed from them."""

    bores: list[Bore]
    rounds: dict[int, Round] = field(default_factory=dict)
    cuts: list[CutEntry] = field(default_factory=list)
    #: By place of the bore and piece.
    cut_logs: dict[tuple[int, int], CutLog] = field(default_factory=dict)
    sizes: dict[int, SizeReading] = field(default_factory=dict)
    depths: dict[int, DepthReading] = field(default_factory=dict)
    features: dict[int, FeatureReading] = field(default_factory=dict)
    plugs: dict[int, PlugReading] = field(default_factory=dict)

    def bore_at(self, place: int) -> Bore:
        """The bore at a place along the axis."""
        return next(bore for bore in self.bores if bore.place == place)


def read(job: Job, piece: int, today: date, *, whole: bool = False) -> tuple[JobRecord, Rows]:
    """Read a job that was loaded whole: the record, and the rows behind it.

    The queries do not grow with its bores, its pieces or its logs; of a large batch the other pieces are read only
    where `whole` asks for it, or where nothing is kept of them.
    """
    job.setup.job = job  # one job, not a second one read anew by whoever comes from the set-up
    bores = list(Bore.objects.filter(setup=job.setup).with_rows())
    for bore in bores:
        bore.setup = job.setup
    kept = [] if whole or job.quantity <= SMALL_BATCH else kept_summaries(job, piece, today)
    pieces = None if not kept else sorted(set(range(1, job.quantity + 1)) - {one.piece for one in kept})
    places = {bore.pk: bore.place for bore in bores}
    setup = setup_record(job, bores)
    rounds = rounds_of(job.setup, pieces)
    cuts, sizes = cuts_of(job.setup, pieces), sizes_of(job.setup, pieces)
    depths = depths_of(job.setup, pieces) if any(bore.has_shoulder for bore in bores) else []
    features = feature_readings_of(job.setup, pieces) if setup.features else []
    plugs = plugs_of(job.setup, pieces)
    logs = _cut_logs(job, setup, bores, cuts)
    record = JobRecord(
        number=job.number, part=job.part, material=job.material.data, setup=setup, quantity=job.quantity,
        due_on=job.due_on, closed_reason=job.closed_reason, rule=settings.JUDGE_RULE,
        cuts=tuple(log_record(log, place, piece) for (place, piece), log in logs.items() if log.rows or log.remarks
                   or log.log.first),
        rounds=tuple(round_record(row, places) for row in rounds if not is_taken_back(row)),
        between=tuple(one for row in rounds for one in between_records(row, places)),
        sizes=tuple(size_record(row, places) for row in sizes),
        depths=tuple(depth_record(row, places) for row in depths),
        feature_readings=tuple(feature_reading_record(row) for row in features),
        plugs=tuple(plug_record(row, places) for row in plugs),
        summaries=tuple(kept), others=tuple(kept_setups(job, today)), **_signed(job),
    )  # fmt: skip
    return _as_signed(job, record), Rows(
        bores=bores, rounds={row.pk: row for row in rounds}, cuts=cuts, cut_logs=logs,
        sizes={row.pk: row for row in sizes}, depths={row.pk: row for row in depths},
        features={row.pk: row for row in features}, plugs={row.pk: row for row in plugs},
    )  # fmt: skip


def _as_signed(job: Job, record: JobRecord) -> JobRecord:
    """A signed job as it was judged: whatever became of the crib since, its pages say what was signed."""
    signoff = getattr(job, "signoff", None)
    if signoff is None or signoff.record is None:
        return record
    signed: dict[str, Any] = _signed(job)
    written = signoff.record.get("setups", [signoff.record])
    own = next((one for one in written if one["setup"].get("place", 1) == job.setup.place), written[0])
    return replace(record_from_json(json.dumps(own)), **signed)


def kept_setups(job: Job, today: date) -> list[SetUpSummary]:
    """What is kept of the job's other set-ups, in their order."""
    own = str(job.setup.pk)
    kept = {key: one["summary"] for key, one in job.setup_summaries.items() if key != own}
    found = _SETUPS.validate_python(list(kept.values()))
    return sorted(found, key=lambda one: one.place)


def kept_summaries(job: Job, piece: int, today: date) -> list[PieceSummary]:
    """What is kept of the other pieces of a batch, as far as it still holds."""
    found = _SUMMARIES.validate_python(job.piece_summaries.get(str(job.setup.pk), []))
    return [
        one for one in found
        if one.piece != piece and one.piece <= job.quantity and (one.good_until is None or today <= one.good_until)
    ]  # fmt: skip


def setup_values(summary: SetUpSummary) -> object:
    """What a set-up came to, as it is kept with its job."""
    return _SETUPS.dump_python([summary], mode="json")[0]


def summaries_values(summaries: Sequence[PieceSummary]) -> object:
    """What pieces came to, as it is kept with their job."""
    return _SUMMARIES.dump_python(list(summaries), mode="json")


def _signed(job: Job) -> dict[str, Any]:
    signoff = getattr(job, "signoff", None)
    if signoff is None:
        return {}
    return {"signed_by": signoff.by.username, "signed_word": str(signoff.verdict.get("word", ""))}


def _cut_logs(
    job: Job, setup: SetUpRecord, bores: Iterable[Bore], cuts: Sequence[CutEntry]
) -> dict[tuple[int, int], CutLog]:  # fmt: skip
    bare = JobRecord(number=job.number, part=job.part, material=job.material.data, setup=setup, quantity=job.quantity)

    def way(bore: Bore) -> Way:
        return set_by(AtBore(record=bare, bore=bare.bore_at(bore.place))).way

    pieces = sorted({row.piece for row in cuts})
    return {
        (bore.place, piece): log_of(cuts, bore, piece, lambda bore=bore: way(bore))  # type: ignore[misc]
        for piece in pieces for bore in bores
    }  # fmt: skip
