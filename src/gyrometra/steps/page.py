"""Everything a step page prints from: one job assessed, at one of its bores and pieces, and the rows behind it."""

from __future__ import annotations

from dataclasses import dataclass, field, replace
from datetime import date
from functools import cached_property

from django.utils import timezone

from gyrocore import Caution, cautions
from gyrometra.bridge.units import Units
from gyrometra.crib.offered import Offered
from gyrometra.crib.records import bar_record
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.proven import Proven, proven_speeds
from gyrometra.cutting.record import CutLog
from gyrometra.jobs.models import Bore, Job, JobChange, KeptAnswer, PastSignOff, SetUp, SignOff
from gyrometra.jobs.queries import WITH_ROWS
from gyrometra.jobs.records import setup_record
from gyrometra.steps.record import Rows, read
from gyroplan.assess import (
    Assessment,
    AtBore,
    BarInWork,
    Boring,
    Checked,
    Passes,
    RoundStanding,
    Speeds,
    Truing,
    setup_summary,
)
from gyroplan.plan import BarVerdict
from gyroplan.record import BarRecord, BoreRecord, JobRecord, SetUpSummary

#: So many pieces have a tab each.
MOST_TABS = 16


@dataclass(frozen=True)
class JobPage:
    """One job as the six steps see it, at one of its bores of one of its pieces."""

    job: Job
    units: Units
    assessment: Assessment
    rows: Rows
    #: The bore's place along the axis.
    place: int
    #: Which of the pieces alike: the plan is shared, the logs are apart.
    piece: int = 1
    #: What the crib offers.
    crib: Offered = field(default_factory=Offered)
    #: A signature that was taken back: the job is looked at as it was signed then.
    past: int | None = None

    @property
    def record(self) -> JobRecord:
        """The job as it is recorded."""
        return self.assessment.record

    @property
    def today(self) -> date:
        """The shop's date."""
        return self.assessment.today

    @property
    def bore(self) -> BoreRecord:
        """The bore."""
        return self.record.bore_at(self.place, self.piece)

    @property
    def bore_row(self) -> Bore:
        """The bore's row: what was typed stands in it."""
        return self.rows.bore_at(self.place)

    @property
    def bores(self) -> tuple[BoreRecord, ...]:
        """The bores in line."""
        return self.record.setup.bores

    @property
    def boring(self) -> Boring:
        """Passes, bar and speeds of this bore."""
        return self.assessment.boring(self.piece, self.place)

    @property
    def passes(self) -> Passes:
        """The passes of this bore."""
        return self.boring.passes

    @property
    def at(self) -> AtBore:
        """What is asked of this bore: plan, machine, material, bar and cutter."""
        return self.boring.passes.at

    @property
    def bar(self) -> BarInWork:
        """The bar as it stands in this set-up."""
        return self.boring.bar

    @property
    def bar_verdict(self) -> BarVerdict | None:
        """The one verdict on the picked bar."""
        return self.boring.bar.verdict

    @property
    def speeds(self) -> Speeds:
        """Speeds and settings of its passes."""
        return self.boring.speeds

    @property
    def truing(self) -> Truing:
        """The truing of this piece."""
        return self.assessment.truing(self.piece, self.place)

    @property
    def sweeps(self) -> tuple[RoundStanding, ...]:
        """Sweeps of the finished bore, oldest first."""
        return self.assessment.sweeps(self.piece, self.place)

    @property
    def judged(self) -> Checked:
        """The finished bore judged."""
        return self.assessment.check(self.piece, self.place)

    @property
    def wanted_words(self) -> str:
        """The finished size as it was written, where that means the same to this reader; else its two limits."""
        one = self.bore
        return self.units.limits(one.wanted, one.wanted_unit, one.lower_mm, one.upper_mm)

    @property
    def query(self) -> str:
        """What an address needs to come back to this bore of this piece in this set-up."""
        return self._to()

    @property
    def and_query(self) -> str:
        """The same, to stand behind another part of a query."""
        return self.query.replace("?", "&", 1)

    def _to(self, *, bore: int | None = None, piece: int | None = None, setup: int | None = None) -> str:
        parts = [f"setup={setup or self.record.setup.place}"] if self.has_setups else []
        if self.is_several and setup is None:
            parts.append(f"bore={bore or self.place}")
        if self.job.quantity > 1:
            parts.append(f"piece={piece or self.piece}")
        if self.past is not None:
            parts.append(f"signed={self.past}")
        return f"?{'&'.join(parts)}" if parts else ""

    @property
    def has_setups(self) -> bool:
        """Whether the job has several set-ups."""
        return bool(self.record.others)

    @property
    def setups(self) -> list[SetUpSummary]:
        """All set-ups of the job in their order, as they stand."""
        return sorted((setup_summary(self.assessment), *self.record.others), key=lambda one: one.place)

    @property
    def setup_query(self) -> str:
        """What an address needs to come to this set-up, whatever its bores and pieces."""
        return f"?setup={self.record.setup.place}" if self.has_setups else ""

    def at_bore(self, place: int) -> str:
        """The query of an address at another bore of this set-up."""
        return self._to(bore=place)

    def in_setup(self, place: int) -> str:
        """The query of an address at another set-up, for the same piece."""
        return self._to(setup=place)

    @property
    def setup_tabs(self) -> list[tuple[SetUpSummary, str]]:
        """Each set-up, and where it is shown."""
        return [(one, self.in_setup(one.place)) for one in self.setups]

    @property
    def bore_tabs(self) -> list[tuple[BoreRecord, str]]:
        """Each bore in line, and where it is shown."""
        return [(one, self._to(bore=one.place)) for one in self.bores]

    @property
    def is_several(self) -> bool:
        """Whether there are several bores in line."""
        return self.record.setup.is_several

    @property
    def pieces(self) -> range:
        """The numbers of the pieces, where there are several."""
        return self.record.pieces if self.job.quantity > 1 else range(0)

    @property
    def piece_tabs(self) -> list[tuple[int, str]]:
        """The pieces to go to, and where: all of a small batch; of a large one first, last, and those about this."""
        near = range(max(1, self.piece - 3), min(self.job.quantity, self.piece + 3) + 1)
        few = len(self.pieces) <= MOST_TABS
        return [(one, self._to(piece=one)) for one in (self.pieces if few else sorted({1, *near, self.job.quantity}))]

    @property
    def each(self) -> list[JobPage]:
        """This piece at each of its bores."""
        return [replace(self, place=bore.place) for bore in self.bores]

    def at_piece(self, piece: int) -> JobPage:
        """Another piece whose logs were read with this one."""
        return replace(self, piece=piece)

    @property
    def is_end_bore(self) -> bool:
        """Whether it is the first or the last of the line: these two hold the axis."""
        return self.place in (self.bores[0].place, self.bores[-1].place)

    @property
    def own_cuts(self) -> list[CutEntry]:
        """The cutting log of this piece."""
        return [entry for entry in self.rows.cuts if entry.piece == self.piece]

    @property
    def cuts_logged(self) -> CutLog:
        """The cutting log of this bore of this piece, with the rows behind each entry."""
        return self.rows.cut_logs.get((self.place, self.piece), CutLog())

    @cached_property
    def crib_bars(self) -> list[BarRecord]:
        """The crib's bars, shortest first: of two alike the shorter is picked; of a signed job its own."""
        if self.is_signed:
            plan = self.record.setup.plan
            return [bar for bar in (plan.bar, plan.opening_bar) if bar is not None]
        return [bar_record(bar) for bar in self.crib.bars]

    @cached_property
    def proven(self) -> list[Proven]:
        """Surface speeds that cut well in this material with this cutter."""
        return proven_speeds(self.job.setup.plan)

    @cached_property
    def changes(self) -> list[JobChange]:
        """What was changed of the work and its plan, oldest first."""
        return list(self.job.changes.select_related("by"))

    @cached_property
    def past_signoffs(self) -> list[PastSignOff]:
        """Signatures that were taken back, oldest first."""
        return list(self.job.past_signoffs.select_related("by", "reopened_by").defer("record"))

    @cached_property
    def kept_answers(self) -> list[KeptAnswer]:
        """Answers of bench lines that stand with this job, oldest first."""
        if not getattr(self.job, "has_answers", True):
            return []
        return list(KeptAnswer.objects.standing().filter(job=self.job).select_related("by"))

    def replanned(self) -> JobPage:
        """This page after its plan was changed: the rows that it was read with stand, for the job is held."""
        setup = setup_record(self.job, self.rows.bores)
        record = replace(self.record, setup=setup)
        return replace(self, assessment=Assessment(record=record, today=self.today))

    @property
    def is_signed(self) -> bool:
        """Whether the lead has signed the verdict."""
        return bool(self.record.signed_by)

    @property
    def is_locked(self) -> bool:
        """Whether nothing of it is to be changed: signed, or given up, as the job or as this set-up."""
        return self.is_signed or bool(self.record.closed_reason or self.record.setup.closed_reason)

    def cautions(self, step: str) -> tuple[Caution, ...]:
        """What to look out for at this step."""
        return cautions(method=self.record.setup.method, step=step, material_key=self.job.material.family)


def page_of(
    job: Job, units: Units, place: int | None = None, piece: int = 1, *, bore: int | None = None,
    setup: SetUp | None = None, whole: bool = False, past: int | None = None,
) -> JobPage:  # fmt: skip
    """A loaded job at one of its bores, by place or by its key, else the first; at one of its pieces and set-ups.

    Without a set-up that in hand is meant. `whole` reads the logs of every piece of a batch, however large. `past` is a
    signature that was taken back; raises PastSignOff.DoesNotExist.
    """
    if past is not None:
        look_back(job, past)
    if setup is not None and setup.pk != job.setup_id:
        take_up(job, setup)
    piece = min(max(1, piece), job.quantity)
    today = timezone.localdate()
    record, rows = read(job, piece, today, whole=whole)
    places = [one.place for one in record.setup.bores]
    if bore is not None:
        place = next((row.place for row in rows.bores if row.pk == bore), None)
    at = place if place in places else places[0]
    return JobPage(job, units, Assessment(record=record, today=today), rows, at, piece, past=past)


def look_back(job: Job, past: int) -> None:
    """Look at a loaded job as it was signed before it was reopened; nothing of it is stored."""
    then = job.past_signoffs.select_related("by").get(pk=past)
    kept = {name: getattr(then, name) for name in ("by", "at", "verdict", "record", "calculations")}
    SignOff(job=job, **kept)  # a row's one-to-one is what was last made of it, stored or not


def take_up(job: Job, setup: SetUp) -> None:
    """Look at another set-up of a loaded job than that in hand; nothing of it is stored."""
    setup.job, job.setup = job, setup
    for name in WITH_ROWS:
        setattr(job, name, getattr(setup, name))


def open_page(
    number: str, units: Units, place: int | None = None, piece: int = 1, *, setup: int | None = None,
    whole: bool = False, past: int | None = None,
) -> JobPage:  # fmt: skip
    """Load a job for its pages, at a set-up by its number; raises Job.DoesNotExist, SetUp.DoesNotExist."""
    job = Job.objects.whole().get(number=number)
    at = None if setup is None or setup == job.setup.place else SetUp.objects.whole().get(job=job, place=setup)
    return page_of(job, units, place, piece, setup=at, whole=whole, past=past)


def other_pages(page: JobPage) -> list[JobPage]:
    """Every other set-up of the job, read whole: for what is decided on all of them."""
    return [
        open_page(page.job.number, page.units, setup=one.place, whole=True, past=page.past)
        for one in page.job.setups.all() if one.place != page.record.setup.place
    ]  # fmt: skip
