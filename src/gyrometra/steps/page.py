"""Everything a step page works from: one job with its plan, logs and judgements, for one of its bores."""

from __future__ import annotations

from dataclasses import dataclass, field
from datetime import date
from functools import cached_property

from django.utils import timezone

from gyrocore import Caution, cautions
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.proven import Proven, proven_speeds
from gyrometra.cutting.record import CutLog, cuts_of, log_of
from gyrometra.inspection.judged import Judged, depths_of, sizes_of
from gyrometra.inspection.models import DepthReading, SizeReading
from gyrometra.jobs.in_bearings import Line, line_at, one_more
from gyrometra.jobs.in_centres import Centres, centres_of
from gyrometra.jobs.in_head import HoleFit, holes_of
from gyrometra.jobs.models import Bore, Job, JobChange, KeptAnswer
from gyrometra.jobs.reckon import Reckoning
from gyrometra.truing.models import Between, Round
from gyrometra.truing.rounds import RoundView, Truing, between_of, rounds_of, runout_of, truing_of
from gyroplan.plan import ROUGHING, BarVerdict

#: So many pieces have a tab each.
MOST_TABS = 16


@dataclass
class Shared:
    """What all bores of a job have in common: each log is read once, however many bores there are."""

    job: Job

    @cached_property
    def bores(self) -> list[Bore]:
        """The bores in line, in their order along the axis."""
        bores = list(self.job.setup.bores.all())
        for bore in bores:
            bore.setup = self.job.setup
        return bores

    @cached_property
    def bars(self) -> list[Bar]:
        """The crib's bars, shortest first: of two alike the shorter is picked."""
        return list(Bar.objects.filter(retired=False).order_by("length_mm", "name"))

    @property
    def tightest_runout_mm(self) -> float:
        """What the whole set-up must be trued to."""
        return min(float(bore.runout_limit_mm) for bore in self.bores)

    @cached_property
    def rounds(self) -> list[RoundView]:
        """All rounds of the set-up."""
        limits: dict[int | None, float] = {bore.pk: float(bore.runout_limit_mm) for bore in self.bores}
        return rounds_of(self.job.setup, {**limits, None: self.tightest_runout_mm})

    @cached_property
    def between(self) -> list[Between]:
        """What happened between the truing rounds."""
        return between_of(self.job.setup)

    @cached_property
    def cuts(self) -> list[CutEntry]:
        """The cutting log of the set-up."""
        return cuts_of(self.job.setup)

    @cached_property
    def proven(self) -> list[Proven]:
        """Surface speeds that cut well in this material with this cutter."""
        return proven_speeds(self.job.setup.plan)

    @cached_property
    def sizes(self) -> list[SizeReading]:
        """The sizes measured of all its bores."""
        return sizes_of(self.job.setup)

    @cached_property
    def shoulder_depths(self) -> list[DepthReading]:
        """The depths measured of all its shoulders."""
        return depths_of(self.job.setup) if any(bore.has_shoulder for bore in self.bores) else []


@dataclass
class JobPage:
    """One job as the six steps see it, at one of its bores."""

    shared: Shared
    units: Units
    bore: Bore
    #: Which of the pieces alike: the plan is shared, the logs are apart.
    piece: int = 1
    cut_log: CutLog = field(default_factory=CutLog)

    @property
    def job(self) -> Job:
        """The job."""
        return self.shared.job

    @property
    def bores(self) -> list[Bore]:
        """The bores in line."""
        return self.shared.bores

    def wanted_words(self, bore: Bore | None = None) -> str:
        """The finished size as it was written, where that means the same to this reader; else its two limits."""
        one = bore or self.bore
        typed = one.typed.get("wanted") if one.play_least_mm is None else None
        return self.units.limits(one.wanted, typed, float(one.lower_mm), float(one.upper_mm))

    @property
    def target_words(self) -> str:
        """The owner's own target; empty without one."""
        one = self.bore
        if not one.target or one.target_lower_mm is None or one.target_upper_mm is None:
            return ""
        return self.units.limits(
            one.target, one.typed.get("target"), float(one.target_lower_mm), float(one.target_upper_mm)
        )  # fmt: skip

    @property
    def query(self) -> str:
        """What an address needs to come back to this bore of this piece."""
        return f"?{self.and_query[1:]}" if self.and_query else ""

    @property
    def and_query(self) -> str:
        """The same, to stand behind another part of a query."""
        bore = f"&bore={self.bore.place}" if self.is_several else ""
        return bore + (f"&piece={self.piece}" if self.job.quantity > 1 else "")

    @property
    def is_several(self) -> bool:
        """Whether there are several bores in line."""
        return len(self.bores) > 1

    @property
    def pieces(self) -> range:
        """The numbers of the pieces, where there are several."""
        return range(1, self.job.quantity + 1) if self.job.quantity > 1 else range(0)

    @property
    def piece_tabs(self) -> list[int]:
        """The pieces to go to: all of a small batch; of a large one the first, the last, and those about this one."""
        if len(self.pieces) <= MOST_TABS:
            return list(self.pieces)
        near = range(max(1, self.piece - 3), min(self.job.quantity, self.piece + 3) + 1)
        return sorted({1, *near, self.job.quantity})

    def at_piece(self, piece: int) -> JobPage:
        """The same bore of another piece; of this one, this page itself."""
        return self if piece == self.piece else JobPage(self.shared, self.units, self.bore, piece)

    @cached_property
    def begun_pieces(self) -> list[int]:
        """Pieces that have anything in their logs."""
        found = {entry.piece for entry in self.shared.cuts} | {size.piece for size in self.shared.sizes}
        return sorted(found | {view.round.piece for view in self.shared.rounds})

    @cached_property
    def own_cuts(self) -> list[CutEntry]:
        """The cutting log of this piece."""
        return [entry for entry in self.shared.cuts if entry.piece == self.piece]

    @cached_property
    def each(self) -> list[JobPage]:
        """This job at each of its bores; this page itself stands at its own place."""
        return [
            self if bore.pk == self.bore.pk else JobPage(self.shared, self.units, bore, self.piece)
            for bore in self.bores
        ]

    @property
    def bars(self) -> list[Bar]:
        """The crib's bars."""
        return self.shared.bars

    @cached_property
    def truing(self) -> Truing:
        """The truing of this piece: of the set-up, or at this bore where the bar is trued bore by bore."""
        at = (None, self.bore.pk)
        views = [v for v in self._rounds(Round.Purpose.TRUE) if v.round.bore_id in at]
        happened = [one for one in self.shared.between if one.piece == self.piece and one.bore_id in at]
        return truing_of(views, happened, self.runout_to_true_mm, "to-bore")

    @property
    def runout_to_true_mm(self) -> float:
        """The run-out limit that this truing is for."""
        return float(self.bore.runout_limit_mm) if self.job.setup.way.several else self.shared.tightest_runout_mm

    @property
    def rounds(self) -> list[RoundView]:
        """Truing rounds, oldest first."""
        return self.truing.rounds

    def _rounds(self, purpose: str) -> list[RoundView]:
        """Rounds of this piece."""
        return [v for v in self.shared.rounds if v.round.purpose == purpose and v.round.piece == self.piece]

    @property
    def is_end_bore(self) -> bool:
        """Whether it is the first or the last of the line: these two hold the axis."""
        return self.bore.pk in (self.bores[0].pk, self.bores[-1].pk)

    @property
    def trued(self) -> RoundView | None:
        """The round whose figures stand: closed, valid, and nothing moved or disturbed since."""
        return self.truing.standing

    @cached_property
    def swept(self) -> RoundView | None:
        """The sweep of the finished bore that counts."""
        views = [v for v in self._rounds(Round.Purpose.CHECK) if v.round.bore_id == self.bore.pk]
        return runout_of(views, float(self.bore.runout_limit_mm))

    @property
    def sweeps(self) -> list[RoundView]:
        """Sweeps of the finished bore, oldest first."""
        _ = self.swept
        return [v for v in self._rounds(Round.Purpose.CHECK) if v.round.bore_id == self.bore.pk]

    @cached_property
    def reckoning(self) -> Reckoning:
        """The plan worked out with its log; off centre as trued, where it is."""
        off = self.trued.off_centre_mm if self.trued and self._old_bore else None
        found = Reckoning(self.job, self.bore, bars=self.bars, off_centre_mm=off)
        self.cut_log = log_of(self.own_cuts, self.bore, self.piece, found.way_and_missing[0])
        found.log = self.cut_log.log
        return found

    @property
    def cuts_logged(self) -> CutLog:
        """The cutting log of this bore of this piece, with the rows behind each entry."""
        _ = self.reckoning
        return self.cut_log

    @property
    def _old_bore(self) -> bool:
        """Only a sweep of the old bore says how far the old bore lies off."""
        return self.job.setup.surface == "inside"

    @cached_property
    def line(self) -> Line | None:
        """The bar in its bearings as they stand; None while bar or bearings are missing or refused."""
        return line_at(self.reckoning, self.job.setup.plan.bearings_mm)

    @cached_property
    def better_line(self) -> Line | None:
        """With one more bearing where it helps most; None where the line holds as it is, or none fits."""
        if self.line is not None and self.line.holds and self.line.layout.ok:
            return None
        stand = self.job.setup.plan.bearings_mm
        place = one_more(self.reckoning, stand)
        return None if place is None else line_at(self.reckoning, [*stand, place])

    @cached_property
    def centres(self) -> Centres | None:
        """The bar between its centres; None while it is not picked, or refused."""
        return centres_of(self.reckoning)

    @property
    def bar_verdict(self) -> BarVerdict | None:
        """The one verdict on the picked bar that list, plate, drawing, rail, sheet and Bore show."""
        way = self.job.setup.way.bar_in
        if way == "bearings":
            return self.line.verdict if self.line else None
        if way == "centres":
            return self.centres.verdict if self.centres else None
        return self.reckoning.overhung

    @cached_property
    def holes(self) -> list[HoleFit]:
        """The boring head's holes against the sizes of the plan."""
        return holes_of(self.reckoning)

    @property
    def pass_count(self) -> int:
        """Passes in all: cut, and left as things stand."""
        reckoning = self.reckoning
        return len(reckoning.done) + len(reckoning.left)

    @property
    def rests_until(self) -> date | None:
        """The day that roughed work waits for, while it does: before it, no finish pass is set."""
        until: date | None = self.job.setup.plan.rest_until
        state = self.reckoning.state
        if until is None or until <= self.today or state is None or state.phase != "set" or state.hand is None:
            return None
        return None if state.hand.kind in ROUGHING else until

    @cached_property
    def judged(self) -> Judged:
        """The finished bore judged."""
        of = (self.bore.pk, self.piece)
        sizes = [s for s in self.shared.sizes if (s.bore_id, s.piece) == of]
        depths = [d for d in self.shared.shoulder_depths if (d.bore_id, d.piece) == of]
        return Judged(self.bore, self.reckoning.material, sizes, depths, self.swept, self.today)

    @property
    def proven(self) -> list[Proven]:
        """Surface speeds that cut well in this material with this cutter."""
        return self.shared.proven

    @cached_property
    def changes(self) -> list[JobChange]:
        """What was changed of the work and its plan, oldest first."""
        return list(self.job.changes.select_related("by"))

    @cached_property
    def kept_answers(self) -> list[KeptAnswer]:
        """Answers of bench lines that stand with this job, oldest first."""
        return list(KeptAnswer.objects.standing().filter(job=self.job).select_related("by"))

    @property
    def today(self) -> date:
        """The shop's date."""
        return timezone.localdate()

    @property
    def is_signed(self) -> bool:
        """Whether the lead has signed the verdict."""
        return hasattr(self.job, "signoff")

    def cautions(self, step: str) -> tuple[Caution, ...]:
        """What to look out for at this step."""
        return cautions(method=self.job.setup.method, step=step, material_key=self.job.material.family)


def page_of(job: Job, units: Units, place: int | None = None, piece: int = 1) -> JobPage:
    """A loaded job at one of its bores, the one at that place, else the first; and at one of its pieces."""
    shared = Shared(job)
    bore = next((bore for bore in shared.bores if bore.place == place), shared.bores[0])
    return JobPage(shared, units, bore, min(max(1, piece), job.quantity))


def open_page(number: str, units: Units, place: int | None = None, piece: int = 1) -> JobPage:
    """Load a job for its pages; raises Job.DoesNotExist."""
    return page_of(Job.objects.whole().get(number=number), units, place, piece)
