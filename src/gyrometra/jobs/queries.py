"""Reads of jobs, by name."""

from __future__ import annotations

from datetime import date
from typing import Any

from django.contrib.postgres.expressions import ArraySubquery
from django.db import models
from django.db.models.functions import JSONObject
from django.db.models.sql.compiler import SQLCompiler

from gyrometra.crib.models import Bar, CribItem, Cutter, Fixture, Gauge, Head, Hole, Machine, MachineSpeed, Material

_OPEN = models.Q(signoff__isnull=True, closed_reason="")
#: Words of the bench's search that name a state.
_STATES = {
    "open": _OPEN,
    "signed": models.Q(signoff__isnull=False),
    "closed": ~models.Q(closed_reason=""),
    "settling": models.Q(stations__next__code="settling", signoff__isnull=True, closed_reason=""),
    "waiting": models.Q(stations__next__code="sign") & _OPEN,
    "over": models.Q(stations__next__code__in=["over_stop", "way_over"]) & _OPEN,
    "due": models.Q(due_on__isnull=False) & _OPEN,
}


class WholeRow(models.Func):
    """A row of the table that a column stands in, as one JSON object by its columns: PostgreSQL's `to_jsonb`.

    A page asks for nine child tables: naming their columns one by one took Django longer than the database.
    """

    output_field = models.JSONField()

    def as_sql(self, compiler: SQLCompiler, *_: Any, **__: Any) -> tuple[str, list[Any]]:
        column: Any = self.source_expressions[0]
        return f"to_jsonb({compiler.quote_name_unless_alias(column.alias)})", []


def rows_of(rows: models.QuerySet[Any], **joined: str) -> ArraySubquery:
    """The rows of a child table as an array of JSON objects: read with their parent, in one query.

    `joined` names what is read of other tables beside the columns.
    """
    row: Any = WholeRow(models.F("pk"))
    if joined:
        row = models.Func(row, JSONObject(**joined), template="%(expressions)s", arg_joiner=" || ")
    return ArraySubquery(rows.values(row=row))


class BoreQuerySet(models.QuerySet[Any]):
    """Bores with what belongs to them."""

    def with_rows(self) -> BoreQuerySet:
        """With sizes found, outside and breaks of the wall beside them: one query."""
        found, outside, breaks, there = (
            self.model._meta.get_field(name).related_model.objects.filter(bore=models.OuterRef("pk"))
            for name in ("found", "outside", "interruptions", "there")
        )
        bores: BoreQuerySet = self.annotate(
            found_rows=rows_of(found),
            outside_rows=rows_of(outside),
            there_rows=rows_of(there),
            break_rows=rows_of(breaks),
        )
        return bores


#: What belongs to a set-up in single rows.
_WHOLE = ("machine", "plan__bar", "plan__opening_bar", "plan__cutter", "plan__head")
#: And in several: as `_rows_with` names them.
WITH_ROWS = ("speed_rows", "hole_rows", "fixture_rows", "feature_rows")


def _rows_with(to: str) -> dict[str, ArraySubquery]:
    """Speeds of its machine, holes of its head, fixtures of a set-up; `to` leads to it from what is queried."""
    setup = f"{to}pk" if not to else to.removesuffix("__")
    setups: Any = Machine._meta.get_field("setups").related_model
    features: Any = setups._meta.get_field("features").related_model
    return {
        "feature_rows": rows_of(
            features.objects.filter(setup=models.OuterRef(setup)), to_setup__place="to_setup__place"
        ),
        "speed_rows": rows_of(MachineSpeed.objects.filter(machine=models.OuterRef(f"{to}machine"))),
        "hole_rows": rows_of(Hole.objects.filter(head=models.OuterRef(f"{to}plan__head"))),
        "fixture_rows": rows_of(Fixture.objects.filter(setups=models.OuterRef(setup))),
    }  # fmt: skip


class SetUpQuerySet(models.QuerySet[Any]):
    """Set-ups of a job."""

    def whole(self) -> SetUpQuerySet:
        """With all that a step page works from."""
        setups: SetUpQuerySet = self.select_related(*_WHOLE).annotate(**_rows_with(""))
        return setups

    def with_features(self) -> SetUpQuerySet:
        """With what each makes beside its bores."""
        setups: SetUpQuerySet = self.annotate(feature_rows=_rows_with("")["feature_rows"])
        return setups


class JobQuerySet(models.QuerySet[Any]):
    """Jobs with what their pages print."""

    def on_bench(self) -> JobQuerySet:
        """With all that a job strip draws; the number of queries does not grow with the list."""
        bores: Any = self.model._meta.get_field("setup").related_model._meta.get_field("bores").related_model
        jobs: JobQuerySet = self.select_related(
            "material", "setup__machine", "setup__plan", "signoff", "changed_by"
        ).prefetch_related(models.Prefetch("setup__bores", bores.objects.with_rows()))
        return jobs

    def newest_first(self) -> JobQuerySet:
        """Open jobs first, then those that are signed or closed; each by the newest change."""
        ended = models.Case(
            models.When(models.Q(signoff__isnull=False) | ~models.Q(closed_reason=""), then=1), default=0
        )  # fmt: skip
        return self.order_by(ended, "-changed_at")

    def matching(self, text: str) -> JobQuerySet:
        """Jobs whose number, part, material, machine or last hand has every word; or that stand as a word says.

        `open`, `signed`, `closed`, `settling`, `waiting` (for the sign-off), `over`, `due`.
        """
        found = self
        for word in text.split():
            state = _STATES.get(word.lower())
            if state is not None:
                found = found.filter(state)
                continue
            found = found.filter(
                models.Q(number__icontains=word)
                | models.Q(part__icontains=word)
                | models.Q(material__name__icontains=word)
                | models.Q(setup__machine__name__icontains=word)
                | models.Q(changed_by__username__iexact=word)
            )
        return found

    def resting_after(self, today: date) -> list[tuple[str, str, date]]:
        """Number, part and day of the open jobs whose work rests past today, the nearest day first."""
        resting = self.filter(_OPEN, setup__plan__rest_until__gt=today)
        rows = resting.order_by("setup__plan__rest_until", "number")
        return list(rows.values_list("number", "part", "setup__plan__rest_until"))

    def whole(self) -> JobQuerySet:
        """With all that a step page works from, of the set-up in hand."""
        jobs: JobQuerySet = self.select_related(
            "material", "signoff__by", *(f"setup__{name}" for name in _WHOLE)
        ).annotate(
            **_rows_with("setup__"), is_bush=self._has("suits", "job"), has_answers=self._has("kept_answers", "job"),
            is_seat=self._has("suits", "seat__setup__job"),
        )  # fmt: skip
        return jobs

    def _has(self, name: str, back: str) -> models.Exists:
        """Whether there is any row of that kind: most jobs have none, and need not be asked again."""
        rows: Any = self.model._meta.get_field(name).related_model
        return models.Exists(rows.objects.filter(**{back: models.OuterRef("pk")}))

    def still_open(self) -> JobQuerySet:
        """Unsigned jobs, newest change first."""
        return self.filter(_OPEN).only("pk", "number", "part").order_by("-changed_at")

    def open_using(self, item: CribItem) -> JobQuerySet:
        """Unsigned jobs on this machine, or planned with this bar or cutter, or measured with this gauge."""
        used = {
            Machine: models.Q(setups__machine=item.pk),
            Bar: models.Q(setups__plan__bar=item.pk) | models.Q(setups__plan__opening_bar=item.pk),
            Head: models.Q(setups__plan__head=item.pk),
            Cutter: models.Q(setups__plan__cutter=item.pk),
            Gauge: models.Q(setups__sizes__gauge=item.pk),
            Material: models.Q(material=item.pk),
        }
        return self.filter(used.get(type(item), models.Q(pk=None)), _OPEN).distinct()
