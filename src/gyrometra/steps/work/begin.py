"""A new job from six answers: what is not said follows from the machine, the last job there, and the shop's rules."""

from __future__ import annotations

import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from django.db import IntegrityError, transaction
from django.db.models import Case, When
from django.http import QueryDict

from gyrocore import InvalidInput, method, methods
from gyrodraw import Scene
from gyrometra.accounts.models import User
from gyrometra.bridge.units import Units
from gyrometra.crib.models import Machine
from gyrometra.jobs import services as jobs
from gyrometra.jobs.models import Job, SetUp
from gyrometra.steps.bar.plates import bar_list
from gyrometra.steps.page import JobPage, page_of
from gyrometra.steps.shared.plate import Because, Plate
from gyrometra.steps.work.form import WorkForm
from gyrometra.steps.work.plates import work
from gyrometra.steps.work.scene import work_scenes

#: The six, in the order in which they are asked, with the words of each.
ANSWERS = (
    ("part", "Part"), ("material", "Material"), ("machine", "Machine"), ("found_d_0", "Bore now, on Ø"),
    ("wanted", "Finished size, on Ø"), ("length_mm", "Length"),
)  # fmt: skip
#: What more can be asked, by the number of its place in the drawing: the next after the six answers.
ASKS = {"form": "7", "found": "8", "outside": "9", "breaks": "10", "holding": "11"}
_END = re.compile(r"^(.*?)(\d+)(\D*)$")
#: So many numbers are tried for one that is free.
_TRIES = 500


def next_number() -> str:
    """The number after that of the newest job, as it counts on there; the first free one."""
    newest = Job.objects.order_by("-pk").values_list("number", flat=True).first()
    counted = _END.match(newest or "0")
    if counted is None:
        return ""
    before, figures, after = counted.groups()
    taken = {number.upper() for number in Job.objects.values_list("number", flat=True)}
    tried = (f"{before}{int(figures) + n:0{len(figures)}d}{after}" for n in range(1, _TRIES))
    return next((number for number in tried if number.upper() not in taken), "")


@dataclass(frozen=True, kw_only=True)
class Follows:
    """How a machine bores: as it did for the last job there, else as its kind can."""

    method: str
    reference: str
    from_last: bool

    @property
    def words(self) -> str:
        """As it is said beside the answers."""
        why = "as the last job there" if self.from_last else "the usual way there"
        return f"{method(self.method).label}, set true to {SetUp.Reference(self.reference).label}: {why}"


def follows_from(machine: Machine | None) -> Follows | None:
    """Boring method and what is set true."""
    if machine is None:
        return None
    last = SetUp.objects.filter(machine=machine).order_by("-pk").first()
    if last is not None and machine.kind in last.way.machines:
        return Follows(method=last.method, reference=last.reference, from_last=True)
    able = next((key for key, way in methods().items() if machine.kind in way.machines), None)
    return None if able is None else Follows(method=able, reference=SetUp.Reference.OLD_BORE, from_last=False)


def last_choices(user: User) -> dict[str, Any]:
    """Machine and material of the last job of this person, else of anybody; and a number that is free."""
    rows = Job.objects.select_related("material", "setup__machine").order_by("-pk")
    last = rows.filter(made_by=user).first() or rows.first()
    found: dict[str, Any] = {"number": next_number(), "quantity": 1}
    if last is not None and not last.setup.machine.retired:
        found["machine"] = last.setup.machine_id
    if last is not None and not last.material.retired:
        found["material"] = last.material.name
    return found


def completed(posted: QueryDict, user: User, units: Units) -> QueryDict:
    """What was posted, with what follows for each thing that was not said."""
    data = posted.copy()
    follows: dict[str, Any] = {**last_choices(user), "found_z_0": "0", "runout_limit_mm": _runout(posted, units)}
    bores_so = follows_from(_machine(str(posted.get("machine") or follows.get("machine", ""))))
    if bores_so is not None:
        follows |= {"method": bores_so.method, "reference": bores_so.reference}
    follows["ends"] = "through"
    for name, value in follows.items():
        if not str(data.get(name) or "").strip() and value not in (None, ""):
            data[name] = str(value)
    if not str(posted.get("found_d_0") or "").strip() and not str(posted.get("found_z_0") or "").strip():
        data["found_z_0"] = ""  # nothing was found yet
    return data


def _machine(key: str) -> Machine | None:
    return Machine.objects.filter(pk=int(key), retired=False).first() if key.isdecimal() and len(key) < 10 else None


def _runout(posted: QueryDict, units: Units) -> str:
    """The run-out limit of a bore where none is given: the whole tolerance of its size.

    Chosen here: the size alone allows no more, and a closer one is said by the drawing.
    """
    try:
        return units.plain(units.read_limits(str(posted.get("wanted") or "")).tolerance_mm)
    except InvalidInput:
        return units.plain(0.02)


def new_form(posted: QueryDict, user: User, units: Units) -> WorkForm:
    """The Work form of what was posted and what follows; a method that follows is shown as following still."""
    form = WorkForm(completed(posted, user, units), units=units)
    form.is_valid()
    for name in _FOLLOWS:
        form.data[name] = posted.get(name, "")  # type: ignore[index]
    let_follow(form)
    return form


#: Choices that follow from the machine while nobody makes them.
_FOLLOWS = ("method", "reference")


#: The fields of each place by how their names begin.
_AT = {
    "found": ("found_",), "outside": ("outside_",), "breaks": ("break_",),
    "holding": ("method", "holding", "reference", "room_", "name", "start_", "coax", "only_", "notes"),
    "form": ("ends", "depth_", "runout_", "roundness_", "taper_", "matters", "target", "mate_", "play_", "match_"),
}  # fmt: skip


def refused_places(form: WorkForm) -> dict[str, bool]:
    """Places where something is refused, to be opened; nothing before anything was typed."""
    wrong = [name for name in form.errors if name != "found_d_0"] if form.is_bound else []
    return {place: any(name.startswith(begins) for name in wrong) for place, begins in _AT.items()}


def let_follow(form: WorkForm) -> None:
    """Offer, before the choices, that they follow from the machine."""
    for name in _FOLLOWS:
        field: Any = form.fields[name]
        field.choices = [("", "from the machine"), *field.choices]


@dataclass(frozen=True, kw_only=True)
class Look:
    """What the answers come to so far: nothing of it is stored."""

    plates: Sequence[Plate]
    bands: Sequence[tuple[str, Scene]]
    #: How the machine bores, and what was taken for the run-out.
    says: str = ""
    answered: int = 0


def look(posted: QueryDict, user: User, units: Units) -> tuple[WorkForm, Look]:
    """The form as completed, and what follows from it: worked out as the job would be, then taken back."""
    form, data = new_form(posted, user, units), completed(posted, user, units)
    answered = sum(bool(str(data.get(name) or "").strip()) for name, _ in ANSWERS)
    follows = follows_from(form.cleaned_data.get("machine"))
    says = f"{follows.words}." if follows else ""
    whole = form if form.is_valid() else WorkForm(_stood_in(data, units), units=units)
    page = None
    has_length = bool(str(posted.get("length_mm") or "").strip())
    if whole.is_valid():
        with transaction.atomic():
            page = _made(whole, user, units)
            if page is not None:
                shown = _shown(page, has_length)
            transaction.set_rollback(True)
    if page is None:
        return form, Look(plates=_waiting(data), bands=(), says=says, answered=answered)
    return form, Look(plates=shown[0], bands=shown[1], says=says, answered=answered)


def _stood_in(data: QueryDict, units: Units) -> QueryDict:
    """With something in place of a part and a length that are not given yet: the other figures do not rest on them."""
    filled = data.copy()
    for name, value in (("part", "new"), ("length_mm", _plain_size(str(data.get("wanted") or ""), units))):
        if not str(filled.get(name) or "").strip():
            filled[name] = value
    return filled


def _plain_size(text: str, units: Units) -> str:
    try:
        return units.plain(units.read_limits(text).middle_mm)
    except InvalidInput:
        return text


def _made(form: WorkForm, user: User, units: Units) -> JobPage | None:
    try:
        with transaction.atomic():
            job = jobs.create_job(user=user, work=form.work(), unit=units.unit)
    except IntegrityError:
        return None  # in the same moment another looks at that number
    return page_of(Job.objects.whole().get(pk=job.pk), units)


def _shown(page: JobPage, has_length: bool) -> tuple[list[Plate], Sequence[tuple[str, Scene]]]:
    bands = work_scenes(page, ASKS) if has_length else ()
    return [work(page)[0], _passes(page), _overhang(page) if has_length else _MISSING_LENGTH], bands


_MISSING_LENGTH = Plate(label="Bar overhang", governs="Missing:", reason="the length")


def _waiting(data: QueryDict) -> list[Plate]:
    given = {name for name, _ in ANSWERS if str(data.get(name) or "").strip()}
    lacking = ", ".join(words.partition(",")[0].lower() for name, words in ANSWERS if name not in given)
    reason = lacking or "see what is refused above"
    labels = ("Stock to remove, on diameter", "Passes", "Bar overhang")
    return [Plate(label=label, governs="Missing:", reason=reason) for label in labels]


def _passes(page: JobPage) -> Plate:
    every, units, plan = page.passes.every, page.units, page.at.plan
    if not every:
        return Plate(label="Passes", governs="Missing:", reason="a pass plan that holds: see Cuts")
    kinds = Counter(cut.kind for cut in every)
    return Plate(
        label="Passes", number=str(len(every)), words=(", ".join(f"{count} {kind}" for kind, count in kinds.items()),),
        governs="Limited by the roughing depth:", reason=f"{units.plain(plan.rough_depth_mm)} on radius",
        because=Because(
            formula="equal roughing passes no deeper than this, a test cut, then the finish passes",
            inputs=[("finish passes", f"{plan.finish_passes} of {units.plain(plan.finish_depth_mm)} on radius")],
            source="Depths a new plan begins with: chosen here after shop practice, to be changed on Cuts.",
        ),
    )  # fmt: skip


def _overhang(page: JobPage) -> Plate:
    units, reach = page.units, page.bar.reach.value
    if reach is None or page.record.setup.way.bar_in in ("bearings", "centres"):
        return Plate(label="Bar", governs="Next:", reason="the bar and what holds it, on Bar")
    best = next((row for row in bar_list(page).rows if row.state in ("ok", "caution")), None)
    words = (best.words, best.tag) if best else ("no bar of the crib fits and reaches",)
    return Plate(
        label="Bar overhang", number=units.length(reach.reach_mm), unit=units.label,
        words=tuple(word for word in words if word), governs="From the length:",
        reason=f"{units.length(page.bore.length_mm)} and room at both ends",
        because=Because(
            formula="overhang = length + what the cutter runs past + clear of the face",
            inputs=[("past the end", f"{units.length(page.at.overrun_mm)} {units.label}"),
                    ("clear of the face", f"{units.length(page.at.plan.clear_mm)} {units.label}")],
            source="Derived; the bar is picked on Bar.",
        ),
    )  # fmt: skip


#: What an example is made of: a bearing housing of a size that most shops have bored.
_EXAMPLE = {"part": "Example: bearing housing", "material": "grey iron", "found_d_0": "62.10", "wanted": "65 H7",
            "length_mm": "85"}  # fmt: skip


def has_jobs() -> bool:
    """Whether there is any job: an example is for a shop that has none yet."""
    return Job.objects.exists()


def example_form(user: User) -> WorkForm:
    """The six answers of an example, on a lathe where there is one."""
    lathe = (
        Machine.objects.filter(retired=False).order_by(Case(When(kind=Machine.Kind.LATHE, then=0), default=1)).first()
    )
    posted = QueryDict(mutable=True)
    posted.update({**_EXAMPLE, "machine": "" if lathe is None else str(lathe.pk)})
    return new_form(posted, user, Units("mm"))
