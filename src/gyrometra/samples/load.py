"""The demo shop, loaded through the forms and services that a person uses."""

from __future__ import annotations

import tomllib
from datetime import timedelta
from importlib.resources import files
from typing import Any
from uuid import NAMESPACE_URL, UUID, uuid5

from django.db import transaction
from django.utils import timezone

from gyrometra.accounts.models import User
from gyrometra.accounts.services import make_account
from gyrometra.bridge.units import Units
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import Bar, Cutter, Fixture, Gauge, Head, Indicator, Machine
from gyrometra.crib.services import keep_item
from gyrometra.cutting.models import CutEntry
from gyrometra.cutting.services import Header, Plan, log_act, log_note
from gyrometra.inspection.services import log_size, sign_off
from gyrometra.jobs import bushes, setups
from gyrometra.jobs import services as jobs
from gyrometra.jobs.entries import Sent
from gyrometra.jobs.features import save_feature
from gyrometra.jobs.models import Job
from gyrometra.samples.machines import load_checks
from gyrometra.steps import plates, progress
from gyrometra.steps.bush.form import BushForm, initial_of
from gyrometra.steps.forms import (
    BAR_FORMS,
    BoreForm,
    CheckSizeForm,
    CutsForm,
    PassSizeForm,
    PlanForm,
    ReadingForm,
    WorkForm,
)
from gyrometra.steps.page import open_page, page_of
from gyrometra.steps.true.tilt import WallForm
from gyrometra.steps.work.features import FeatureForm
from gyrometra.steps.work.setting_up import FORMS as SETTING_FORMS
from gyrometra.steps.work.setups import SetUpForm, found_for_next
from gyrometra.steps.work.whole import setups_of
from gyrometra.truing import services as truing
from gyrometra.truing.models import Between, Round
from gyroplan.assess import judged_and_written, seat_of
from gyroplan.loop import Act, Cut, Set

PASSWORD = "quillmoor"  # noqa: S105 - the demo's sign-in, printed on its sign-in page
UNITS = Units("mm")


class BadSample(Exception):
    """The sample data does not pass the forms."""


class Ids:
    """Entry ids that are the same at every load."""

    def __init__(self, job: str) -> None:
        self.job, self.count = job, 0

    def next(self) -> UUID:
        """The next id of this job."""
        self.count += 1
        return uuid5(NAMESPACE_URL, f"demo/{self.job}/{self.count}")


def shop_data() -> dict[str, Any]:
    """The shop as typed."""
    return tomllib.loads((files(__package__) / "data" / "shop.toml").read_text(encoding="utf-8"))


@transaction.atomic
def load_shop() -> bool:
    """Load the demo shop once; False where there are people already."""
    if User.objects.exists():
        return False
    data = shop_data()
    people = {p["username"]: make_account(**p, password=PASSWORD) for p in data["people"]}
    for kind, items in data["crib"].items():
        for item in items:
            _crib_item(people["dagny"], kind, item)
    load_checks(people)
    for job in data["jobs"]:
        _job(people, job)
    return True


def _valid(form: Any) -> Any:
    if not form.is_valid():
        raise BadSample(f"{type(form).__name__}: {form.errors.as_json()}")
    return form


def _crib_item(user: User, kind: str, item: dict[str, Any]) -> None:
    dated = _with_day(_with_day(item, "due_in_days", "due_on"), "certified_in_days", "certified_on")
    form = _valid(FORMS[kind](dated, units=UNITS))
    keep_item(user=user, item=FORMS[kind].model(), values=form.cleaned_data, typed=form.typed())


def _with_day(fields: dict[str, Any], days: str, name: str) -> dict[str, Any]:
    """A day given as so many days from today, as a date field is typed."""
    if days not in fields:
        return fields
    day = timezone.localdate() + timedelta(days=fields[days])
    return {**{key: value for key, value in fields.items() if key != days}, name: day.isoformat()}


def _job(people: dict[str, User], data: dict[str, Any]) -> None:
    user, number = people[data["by"]], data["number"]
    ids = Ids(number)
    jobs.create_job(user=user, work=_valid(WorkForm(_work_fields(data), units=UNITS)).work())
    for more in data.get("bores", []):
        _bore(user, number, data, more)
    if "bar" in data:
        _pick_bar(user, number, data.get("method", "lathe-bar"), data["bar"])
    _plans(user, number, data)
    _features(user, number, data, 1)
    for turn in data.get("rounds", []):
        _round(people[turn["by"]], number, ids, turn)
    for place, cut in enumerate(data.get("cut", [])):
        _cut(user, number, ids, place + 1, cut)
    if "check" in data:
        _check(people, number, ids, data["check"])
    progress.keep(open_page(number, UNITS))
    for more in data.get("setups", []):
        _setup(user, number, data, more)
    if "bush" in data:
        _bush(user, number, data["bush"])


def _features(user: User, number: str, data: dict[str, Any], setup: int) -> None:
    """What a set-up makes beside its bores."""
    for typed in data.get("features", []):
        page = open_page(number, UNITS, setup=setup)
        form = _valid(FeatureForm(typed, page=page, kind=typed["kind"], setups=setups_of(page)))
        save_feature(
            user=user, setup=page.job.setup, version=page.job.version, place=None, data=form.data_of()
        )  # fmt: skip


def _bush(user: User, number: str, data: dict[str, Any]) -> None:
    """A bush to suit the bore, and the job that makes it."""
    page = open_page(number, UNITS, whole=True)
    seat = seat_of(page.assessment, 1, page.place)
    form = _valid(BushForm({**initial_of(None, seat, UNITS), **data}, page=page, seat=seat))
    kept = bushes.keep_bush(user=user, seat=page.bore_row, piece=1, values=form.values(),
                            finish=form.cleaned_data["finish"], typed=form.typed())  # fmt: skip
    plan = form.plan
    made = bushes.make_job(user=user, bush=kept, number=data["number"], lower_mm=plan.outside.lower_mm,
                           upper_mm=plan.outside.upper_mm, turned_mm=plan.turned_mm, unit=UNITS.unit)  # fmt: skip
    progress.refresh(made)


def _plans(user: User, number: str, data: dict[str, Any]) -> None:
    """Cuts, and what is set up before anything is clamped."""
    if "cuts" in data:
        _plan(user, number, CutsForm, _with_day(data["cuts"], "rest_in_days", "rest_until"))
    for what, typed in data.get("setting", {}).items():
        _plan(user, number, SETTING_FORMS[what], typed)
    if "true" in data:
        _plan(user, number, WallForm, data["true"])


def _pick_bar(user: User, number: str, method: str, data: dict[str, Any]) -> None:
    head = {"head": Head.objects.get(name=data["head"]).pk} if "head" in data else {}
    bar, cutter = Bar.objects.get(name=data["bar"]).pk, Cutter.objects.get(name=data["cutter"]).pk
    _plan(user, number, BAR_FORMS[method], {**data, **head, "bar": bar, "cutter": cutter})


def _setup(user: User, number: str, data: dict[str, Any], more: dict[str, Any]) -> None:
    """One more set-up: going on with the bores of the one before, or with a bore of its own."""
    page = open_page(number, UNITS, whole=True)
    chosen = {**more, "machine": Machine.objects.get(name=more["machine"]).pk}
    form = _valid(SetUpForm(chosen, page=page))
    of: dict[str, Any] = {"user": user, "version": page.job.version, "new": form.new(), "unit": UNITS.unit}
    if form.goes_on:
        made = setups.go_on(after=page.job.setup, found=found_for_next(page, more["side"]), reason=more["reason"], **of)
    else:
        made = setups.add_setup(like=page.job.setup, **of)
        bore = open_page(number, UNITS, setup=made.place).bore_row
        work = _valid(WorkForm(_work_fields({**data, **more}), units=UNITS, bore=bore)).work()
        jobs.change_work(user=user, bore=bore, version=bore.setup.job.version, work=work)
    if "bar" in more:
        _pick_bar(user, number, more["method"], more["bar"])
    _features(user, number, more, made.place)
    progress.refresh(Job.objects.select_related("setup").get(number=number))


def _bore(user: User, number: str, data: dict[str, Any], more: dict[str, Any]) -> None:
    """One more bore in line: like the first, at its own place, with its own sizes."""
    first = open_page(number, UNITS).bore_row
    form = _valid(BoreForm(more, units=UNITS, like=first))
    job = first.setup.job
    made = jobs.add_bore(user=user, like=first, version=job.version, typed=form.typed(), **form.cleaned_data)
    bore = open_page(number, UNITS, made.place).bore_row
    work = _valid(WorkForm(_work_fields({**data, **more}), units=UNITS, bore=bore)).work()
    jobs.change_work(user=user, bore=bore, version=bore.setup.job.version, work=work)


def _work_fields(data: dict[str, Any]) -> dict[str, Any]:
    data = _with_day(data, "due_in_days", "due_on")
    fields: dict[str, Any] = {"method": "lathe-bar", "ends": "through"}
    fields |= {key: value for key, value in data.items() if isinstance(value, str)}
    fields["machine"] = Machine.objects.get(name=data["machine"]).pk
    for place, (z, d, *angle) in enumerate(data["found"]):
        fields |= {f"found_z_{place}": z, f"found_d_{place}": d, f"found_a_{place}": angle[0] if angle else ""}
    fields["fixtures"] = [Fixture.objects.get(name=name).pk for name in data.get("fixtures", [])]
    for place, broken in enumerate(data.get("breaks", [])):
        names = ("kind", "from", "to", "width", "angle")
        fields |= {f"break_{name}_{place}": text for name, text in zip(names, broken, strict=True)}
    for place, (length, d) in enumerate(data["outside"]):
        fields |= {f"outside_l_{place}": length, f"outside_d_{place}": d}
    return fields


def _plan(user: User, number: str, form_class: type[PlanForm], typed: dict[str, Any]) -> None:
    """As a page does: the shown values, with what was typed over them."""
    page = page_of(jobs.hold(number=number), UNITS)
    job = page.job
    form = form_class(units=UNITS, bore=page.bore_row, at=page.at)
    shown = {name: value for name, value in form.initial_for().items() if value is not None}
    form = _valid(form_class({**shown, **typed}, units=UNITS, bore=page.bore_row, at=page.at))
    jobs.change_plan(user=user, job=job, version=job.version, values=form.plan_values(),
        typed=form.typed(), keep=lambda _: None,
    )  # fmt: skip


def _log_round(user: User, made: Round, ids: Ids, readings: list[str], slip: list[str] | None) -> None:
    for place, text in enumerate(readings):
        if slip and int(slip[0]) == place:
            slip_id = _reading(user, made, place, slip[1], ids)
            truing.take_back(sent=Sent(user=user, client_id=ids.next()), round=made, undo=slip_id)
        _reading(user, made, place, text, ids)


def _reading(user: User, made: Round, place: int, text: str, ids: Ids) -> UUID:
    entry = ids.next()
    fields = {"value": text, "place": place, "client_id": str(entry), "source": "keypad"}
    form = _valid(ReadingForm(fields, units=UNITS, round=made))
    truing.log_reading(
        sent=Sent(user=user, client_id=entry, source=form.cleaned_data["source"], text=text),
        round=made, place=place, value_mm=form.cleaned_data["value"],
    )  # fmt: skip
    return entry


def _round(user: User, number: str, ids: Ids, data: dict[str, Any]) -> None:
    page, purpose = open_page(number, UNITS), data.get("purpose", Round.Purpose.TRUE)
    if data.get("moved"):
        truing.log_between(sent=Sent(user=user, client_id=ids.next()), setup=page.job.setup, kind=Between.Kind.MOVED)
    made = truing.open_round(
        sent=Sent(user=user, client_id=ids.next()),
        setup=page.job.setup,
        bore=page.bore_row if purpose == Round.Purpose.CHECK else None,
        indicator=Indicator.objects.get(name="Indicator 1"),
        places=len(data["readings"]),
        method=data.get("method", Round.Method.SWEEP),
        purpose=purpose,
        plane_mm=UNITS.read(data["plane_mm"]) if "plane_mm" in data else None,
        depths_mm=[float(UNITS.read(text)) for text in data.get("depths", [])],
    )
    _log_round(user, made, ids, [*data["readings"], data["again"]], data.get("slip"))


def _cut(user: User, number: str, ids: Ids, place: int, data: dict[str, Any]) -> None:
    """One pass as it is tapped: set, cut, measured, remarked on."""
    page = open_page(number, UNITS)

    def header(text: str = "") -> Header:
        return Header(sent=Sent(user=user, client_id=ids.next(), text=text), bore=page.bore_row)

    def planned() -> Plan:
        now = open_page(number, UNITS)
        return now.passes.work, now.at.log.planned_last

    def log(act: Act, values: dict[str, Any], text: str = "") -> None:
        log_act(header=header(text), act=act, planned=planned, values=values)

    if place == 1:
        log_note(header=header("locked, cleared, swung"), kind=CutEntry.Kind.GUARD, text="locked, cleared, swung")
    state = page.passes.state
    kept = plates.rests_on(page, place)
    if state is not None and state.phase == "set":
        log(Set(number=place), kept)
    log(Cut(number=place), kept)
    wanted = page.bore
    gauges = Gauge.objects.reading().filter(range_low_mm__lte=wanted.lower_mm, range_high_mm__gte=wanted.upper_mm)
    for text in data["sizes"]:
        fields = {"value": text, "client_id": str(ids.next()), "gauge": gauges.order_by("resolution_mm")[0].pk}
        after = open_page(number, UNITS)
        form = _valid(PassSizeForm(fields, units=UNITS, bore=page.bore, expected_mm=after.passes.known_mm))
        log(*plates.size_act(after, form.cleaned_data, user.username), text)
    if "remark" in data:
        sound, look = data["remark"]
        log_note(header=header(), kind=CutEntry.Kind.REMARK, number=place, sound=sound, look=look)


def _check(people: dict[str, User], number: str, ids: Ids, data: dict[str, Any]) -> None:
    user = people[data["by"]]
    page = open_page(number, UNITS)
    gauge = Gauge.objects.get(name=data["gauge"])
    for z, angle, text in data["sizes"]:
        entry = ids.next()
        fields = {"z": z, "angle_deg": angle, "value": text, "gauge": gauge.pk,
                  "part_temp_c": data["temp"], "gauge_temp_c": data["temp"], "client_id": str(entry)}  # fmt: skip
        values = _valid(CheckSizeForm(fields, units=UNITS, bore=page.bore)).cleaned_data
        log_size(
            sent=Sent(user=user, client_id=entry, source=values["source"], text=text),
            bore=page.bore_row, gauge=gauge, z_mm=values["z"], angle_deg=values["angle_deg"],
            value_mm=values["value_mm"], part_temp_c=values["part_temp_c"], gauge_temp_c=values["gauge_temp_c"],
            temp_u_c=values["temp_u_c"],
        )  # fmt: skip
    _round(user, number, ids, {"readings": data["runout"], "again": data["runout_again"],
                               "purpose": Round.Purpose.CHECK})  # fmt: skip
    if "signed_by" in data:
        page = open_page(number, UNITS)
        digest, _, _ = judged_and_written(page.assessment)
        sign_off(
            user=people[data["signed_by"]], job=page.job, shown=digest,
            judge=lambda: judged_and_written(page.assessment),
        )  # fmt: skip
