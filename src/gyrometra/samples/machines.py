"""The demo shop's checks of its machines, through the forms that a person uses."""

from __future__ import annotations

import tomllib
from collections.abc import Mapping
from datetime import timedelta
from importlib.resources import files
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

from django.utils import timezone

from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.health import services
from gyrometra.health.forms import ChangedForm, CheckForm, LimitForm, check_form
from gyrometra.health.models import CHANGED
from gyrometra.jobs.entries import Sent
from gyroplan.machine import KINDS

UNITS = Units("mm")


def load_checks(people: Mapping[str, User]) -> None:
    """Limits first, then the checks, oldest first."""
    data = tomllib.loads((files(__package__) / "data" / "machines.toml").read_text(encoding="utf-8"))
    machines = {one.name: one for one in Machine.objects.all()}
    for one in data["limits"]:
        form = LimitForm(one, units=UNITS)
        _require(form)
        services.set_limit(
            user=people["dagny"], machine=machines[one["machine"]], kind=one["kind"], limit_mm=form.limit(),
            every_days=form.cleaned_data["every_days"], typed=dict(form.typed()),
        )  # fmt: skip
    for number, one in enumerate(data["checks"]):
        _check(people[one["by"]], machines[one["machine"]], one, uuid5(NAMESPACE_URL, f"demo/machine/{number}"))


def _check(user: User, machine: Machine, one: dict[str, Any], client_id: UUID) -> None:
    fields = {**one, "client_id": client_id, "day": timezone.localdate() - timedelta(days=one["days_ago"])}
    kind, sent = one["kind"], Sent(user=user, client_id=client_id)
    if kind == CHANGED:
        changed = ChangedForm(fields, units=UNITS)
        _require(changed)
        values = changed.cleaned_data
        services.log_changed(
            sent=sent, machine=machine, day=values["day"], changed=values["changed"], note=values["note"]
        )
        return
    form: CheckForm = check_form(KINDS[kind])(fields, units=UNITS, kind=KINDS[kind])
    _require(form)
    services.log_check(
        sent=sent, machine=machine, kind=kind, day=form.cleaned_data["day"], values=form.readings(), typed=form.typed(),
        indicator=form.cleaned_data["indicator"], note=form.cleaned_data["note"],
    )  # fmt: skip


def _require(form: Any) -> None:
    if not form.is_valid():
        raise ValueError(f"{type(form).__name__}: {form.errors.as_json()}")
