"""Everything a step page works from: one job with its plan, logs and judgements."""

from __future__ import annotations

from dataclasses import dataclass
from datetime import date
from functools import cached_property

from django.utils import timezone

from gyrocore import Caution, cautions
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar
from gyrometra.cutting.ledger import Ledger, ledger_of
from gyrometra.inspection.judged import Judged, judge
from gyrometra.jobs.models import Job, KeptAnswer
from gyrometra.jobs.reckon import Reckoning
from gyrometra.truing.models import Round
from gyrometra.truing.rounds import RoundView, last_standing, rounds_of


@dataclass
class JobPage:
    """One job as the six steps see it."""

    job: Job
    units: Units

    @cached_property
    def bars(self) -> list[Bar]:
        """The crib's bars, shortest first: of two alike the shorter is picked."""
        return list(Bar.objects.filter(retired=False).order_by("length_mm", "name"))

    @cached_property
    def _all_rounds(self) -> list[RoundView]:
        return rounds_of(self.job.setup, float(self.job.setup.bore.runout_limit_mm))

    @property
    def rounds(self) -> list[RoundView]:
        """Truing rounds, oldest first."""
        return [view for view in self._all_rounds if view.round.purpose == Round.Purpose.TRUE]

    @cached_property
    def trued(self) -> RoundView | None:
        """The newest round that decides."""
        return last_standing(self.rounds)

    @cached_property
    def reckoning(self) -> Reckoning:
        """The plan worked out; off centre as trued, where it is."""
        off = self.trued.off_centre_mm if self.trued and self._old_bore else None
        return Reckoning(self.job, bars=self.bars, off_centre_mm=off)

    @property
    def _old_bore(self) -> bool:
        """Only a sweep of the old bore says how far the old bore lies off."""
        return self.job.setup.surface == "inside"

    @cached_property
    def ledger(self) -> Ledger:
        """The passes with what was set and what came out."""
        return ledger_of(self.job.setup, self.reckoning)

    @cached_property
    def judged(self) -> Judged:
        """The finished bore judged."""
        swept = [view for view in self._all_rounds if view.round.purpose == Round.Purpose.CHECK]
        return judge(self.job.setup, swept, self.today)

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
        return cautions(method=self.job.setup.holding, step=step, material_key=self.job.material)


def open_page(number: str, units: Units) -> JobPage:
    """Load a job for its pages; raises Job.DoesNotExist."""
    return JobPage(Job.objects.whole().get(number=number), units)
