"""The bench lines of a page, and keeping an answer with a job."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any
from uuid import UUID

from gyrometra.accounts.models import User
from gyrometra.bench.lines import LINES, Line
from gyrometra.bench.lines.cutting import MachineLine
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.jobs import services
from gyrometra.jobs.models import Job


@dataclass(frozen=True, kw_only=True)
class Sheet:
    """Lines with their fields empty, the machines they offer, and the jobs that can keep an answer."""

    forms: Sequence[Line]
    machines: Sequence[Machine]
    jobs: Sequence[Job]

    class CannotKeep(Exception):
        """There is no answer to keep, or no job to keep it in."""


def sheet(keys: Sequence[str], units: Units) -> Sheet:
    """The lines of a page; machines are read once for all of them."""
    machines = Machine.objects.filter(retired=False)
    forms = [line_form(key, units, machines=machines) for key in keys]
    return Sheet(forms=forms, machines=list(machines), jobs=list(Job.objects.still_open()[:50]))


def line_form(key: str, units: Units, *, data: Any = None, machines: Any = None) -> Line:
    """One line, with machines where it offers them."""
    line = LINES[key]
    if issubclass(line, MachineLine):
        return line(data, units=units, machines=machines)
    return line(data, units=units)


def keep(*, user: User, key: str, data: Any, units: Units) -> Job:
    """Work the line out once more, from what was typed, and keep it with the job."""
    form = line_form(key, units, data=data)
    found = form.answered()
    if found is None:
        raise Sheet.CannotKeep("There is no answer to keep yet.")
    job: Job | None = Job.objects.still_open().filter(number=data.get("job", "")).first()
    if job is None:
        raise Sheet.CannotKeep("Choose an open job to keep it in.")
    try:
        client_id = UUID(str(data.get("client_id", "")))
    except ValueError:
        raise Sheet.CannotKeep("This answer was sent without its mark; type a figure again.") from None
    typed = {name: str(data.get(form.add_prefix(name), "")) for name in form.fields}
    services.keep_answer(
        user=user, job=job, client_id=client_id, line=key, title=form.title, typed=typed, answer=found.text[:400]
    )
    return job
