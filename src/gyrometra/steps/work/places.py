"""The places of the part: the list beside the drawing, and which fields a place opens."""

from __future__ import annotations

import hashlib
import json
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from django.http import HttpRequest, QueryDict

from gyrometra.jobs.models import Feature, Interruption, SetUp
from gyrometra.steps.page import JobPage
from gyrometra.steps.shared.view import version_of
from gyrometra.steps.work.breaks import BREAK_ROWS
from gyrometra.steps.work.features import FORM_OF, angle_words, size_words
from gyrometra.steps.work.form import FOUND_ROWS, OUTSIDE_ROWS, WorkForm
from gyrometra.steps.work.shown import work_initial
from gyrometra.steps.work.there import THERE_ROWS
from gyrometra.steps.work.whole import PlacedBore, features_of
from gyroplan.record import FeatureRecord, letter_of


def _rows(names: Sequence[str], count: int) -> tuple[str, ...]:
    return tuple(f"{name}_{row}" for row in range(count) for name in names)


#: What can be opened: its title, and the fields of the Work form that stand there.
PANELS: dict[str, tuple[str, tuple[str, ...]]] = {
    "bore": ("Bore", (
        "wanted", "length_mm", "ends", "depth_wanted", "runout_limit_mm", "roundness_limit_mm", "taper_limit_mm",
        "matters", "name", "start_mm",
    )),
    "found": ("Bore as found", (*_rows(("found_z", "found_d", "found_a"), FOUND_ROWS), "found_alone")),
    "outside": ("Outside", _rows(("outside_l", "outside_d"), OUTSIDE_ROWS)),
    "breaks": ("Keyways, ports and slots", _rows(
        ("break_kind", "break_from", "break_to", "break_width", "break_angle"), BREAK_ROWS)),
    "there": ("Only there, not cut", _rows(("there_name", "there_from", "there_to", "there_d"), THERE_ROWS)),
    "fit": ("Fit and target", ("mate_mm", "mate_feature", "play_mm", "target", "match_mm")),
    "part": ("Part", ("number", "part", "material", "quantity", "due_on", "notes")),
    "setup": ("Set-up", ("method", "machine", "holding", "reference", "room_behind_mm", "coaxiality_mm", "fixtures",
                         "only_trued")),
}  # fmt: skip
#: Words of a link where the title of the place is too long for one.
LINK_WORDS = {"breaks": "Keyways, ports, slots", "there": "Only there"}
#: What stands under the drawing instead of the list of places.
VIEWS = ("add", "methods", "more", "feature")


def opened(request: HttpRequest, form: WorkForm) -> str:
    """What is open: of a form that was sent, of the address; else where something is refused, else the bore."""
    asked = request.POST.get("at") or request.GET.get("at") or ""
    if asked in PANELS or asked in VIEWS:
        return asked
    refused = form.errors if form.is_bound else {}
    return next((key for key, (_, names) in PANELS.items() if set(names) & set(refused)), "bore")


def panel_of(form: WorkForm, at: str) -> list[Any]:
    """The fields that stand in an open place."""
    return [form[name] for name in PANELS[at][1] if name in form.fields]


def errors_elsewhere(form: WorkForm, at: str) -> list[tuple[str, str, str]]:
    """What is refused at a field that is not open: the place it stands in, its label, and why."""
    where = {name: key for key, (_, names) in PANELS.items() for name in names}
    return [
        (where[name], str(form.fields[name].label), str(errors[0])) for name, errors in form.errors.items()
        if name in where and where[name] != at
    ]  # fmt: skip


def as_sent(request: HttpRequest, page: JobPage) -> QueryDict:
    """The Work form whole: what was sent of one place, the rest as it stands stored."""
    at = request.POST.get("at", "")
    if at not in PANELS:
        return request.POST
    whole, own = request.POST.copy(), PANELS[at][1]
    for name, value in work_initial(page.bore_row, page.units, page.piece).items():
        if name in own or (name in ("found_alone", "only_trued") and not value):
            continue
        whole.setlist(name, [str(one) for one in value] if isinstance(value, list) else ["" if value is None
                                                                                       else str(value)])  # fmt: skip
    return whole


def place_digest(page: JobPage, at: str) -> str:
    """Of all that an open place shows: two people at two places of one job are no conflict."""
    values = work_initial(page.bore_row, page.units, page.piece)
    own = {name: values.get(name) for name in PANELS[at][1]}
    return hashlib.sha256(json.dumps(own, default=str, sort_keys=True).encode()).hexdigest()[:16]


def version_sent(request: HttpRequest, page: JobPage) -> int:
    """The version that was seen; another's change of another place since is none of this one."""
    at, seen = request.POST.get("at", ""), version_of(request)
    if at in PANELS and seen and request.POST.get("was") == place_digest(page, at):
        return page.job.version
    return seen


@dataclass(frozen=True, slots=True, kw_only=True)
class PlaceRow:
    """A row of the list: what it is, what it must become, what is there, what comes off."""

    number: str
    letter: str
    name: str
    finished: str
    found: str
    off: str
    inspection: str
    query: str
    found_query: str = ""
    here: bool = False


def place_rows(
    page: JobPage, bores: Sequence[PlacedBore], at: str, setups: Sequence[SetUp] = ()
) -> list[PlaceRow]:  # fmt: skip
    """Bores of every set-up, then the outside and what breaks the wall of the bore that is shown."""
    rows = [_bore_row(page, one, at) for one in bores]
    count, units, bore = len(rows), page.units, page.bore
    if bore.outside_mm:
        steps = ", ".join(f"Ø{units.plain(d)} x {units.length(length)}" for length, d in bore.outside_mm)
        count += 1
        rows.append(PlaceRow(number=f"{count}", letter="", name="Outside", finished=steps, found="there", off="not cut",
                             inspection="", query=at_query(page, "outside"), here=at == "outside"))  # fmt: skip
    for there in bore.there:
        count += 1
        rows.append(PlaceRow(
            number=f"{count}", letter="", name=there.name[:1].upper() + there.name[1:],
            finished=f"{units.length(there.from_mm)} to {units.length(there.to_mm)}",
            found=units.plain(there.diameter_mm), off="not cut", inspection="the bar must pass it",
            query=at_query(page, "there"), here=at == "there",
        ))  # fmt: skip
    for broken in bore.breaks:
        count += 1
        rows.append(PlaceRow(
            number=f"{count}", letter="", name=str(Interruption.Kind(broken.kind).label).capitalize(),
            finished=f"{units.length(broken.from_mm)} to {units.length(broken.to_mm)}, "
                     f"{units.plain(broken.width_mm)} wide", found="there", off="not cut",
            inspection=f"skipped at {broken.angle_deg:g}°", query=at_query(page, "breaks"), here=at == "breaks",
        ))  # fmt: skip
    own = [(page.record.setup.place, one) for one in page.record.setup.features]
    others = [(setup.place, one) for setup in setups if setup.place != page.record.setup.place
              for one in features_of(page, setup)]  # fmt: skip
    numbered = enumerate([*own, *others], count + 1)
    return rows + [_feature_row(page, one, of, number, at) for number, (of, one) in numbered]


def first_feature(page: JobPage, bores: int) -> int:
    """The number of the first feature in the drawing: after all that is there already."""
    bore = page.bore
    return bores + (1 if bore.outside_mm else 0) + len(bore.there) + len(bore.breaks) + 1


def _feature_row(page: JobPage, one: FeatureRecord, of: int, number: int, at: str) -> PlaceRow:
    units = page.units
    asked = [size_words(page, one)]
    if one.angle_lower_deg is not None and one.angle_upper_deg is not None:
        asked.append(angle_words(one.angle_lower_deg, one.angle_upper_deg))
    if one.runout_limit_mm is not None:
        asked.append(f"run-out {units.fine(one.runout_limit_mm)}")
    if one.form_limit_mm is not None:
        asked.append(f"{FORM_OF[one.kind]} {units.fine(one.form_limit_mm)}")
    if one.to_setup is not None:
        asked.append(f"to the axis of {letter_of(one.to_setup)}")
    own = of == page.record.setup.place
    query = at_query(page, "feature") if own else with_at(page.in_setup(of), "feature")
    off = "" if not one.stock_mm else f"{units.planned(one.stock_mm)}{' on Ø' if one.kind == 'outside' else ''}"
    return PlaceRow(
        number=f"{number}", letter=letter_of(of), name=one.name,
        finished=", ".join(words for words in asked if words), found=_kind_words(one.kind), off=off,
        inspection=one.inspection,
        query=f"{query}&feature={one.place}", here=own and at == f"feature {one.place}",
    )  # fmt: skip


def _kind_words(kind: str) -> str:
    return str(Feature.Kind(kind).label)


def _bore_row(page: JobPage, one: PlacedBore, at: str) -> PlaceRow:
    units = page.units
    if one.only_trued:
        return PlaceRow(
            number=f"{one.number}", letter=one.letter, name="Surface that is read",
            finished=f"set true within {units.planned(one.runout_mm)}", off="not cut", inspection="",
            found="" if one.found_mm is None else units.planned(one.found_mm), query=_to(page, one, "bore"),
            found_query=_to(page, one, "found"), here=one.here and at in ("bore", "found", "fit"),
        )  # fmt: skip
    ends = {"through": "through", "shoulder": "to a shoulder", "blind": "blind"}[one.ends]
    own = one.setup == page.record.setup.place
    off = "" if one.found_mm is None else f"{units.planned(one.aim_mm - one.found_mm)} on Ø"
    return PlaceRow(
        number=f"{one.number}", letter=one.letter, name=one.name[:1].upper() + one.name[1:],
        finished=f"Ø{one.wanted}, {units.length(one.length_mm)} {ends}",
        found="not measured" if one.found_mm is None else units.planned(one.found_mm), off=off,
        inspection=one.matters, query=_to(page, one, "bore"),
        found_query=_to(page, one, "found"), here=own and one.here and at in ("bore", "found", "fit"),
    )  # fmt: skip


def _to(page: JobPage, one: PlacedBore, at: str) -> str:
    if one.setup == page.record.setup.place:
        return with_at(page.at_bore(one.place), at)
    return with_at(page.in_setup(one.setup) if one.place == 1 else f"{page.in_setup(one.setup)}&bore={one.place}", at)


def with_at(query: str, at: str) -> str:
    """An address's query with what is to be open."""
    return f"{query}{'&' if query else '?'}at={at}"


def at_query(page: JobPage, at: str) -> str:
    """Where another place of what is shown opens."""
    return with_at(page.query, at)


def place_links(page: JobPage, at: str) -> Iterator[tuple[str, str, bool]]:
    """Each place that can be opened: its words, where, and whether it is open."""
    for key, (title, _) in PANELS.items():
        if key not in ("setup", "bore"):
            yield LINK_WORDS.get(key, title), at_query(page, key), key == at
