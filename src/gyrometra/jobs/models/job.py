"""A job, and its set-ups in order: each one axis of rotation on one machine, held one way."""

from __future__ import annotations

from django.conf import settings
from django.db import models
from django.db.models.functions import Upper

from gyrocore import Method, held, holdings, methods
from gyrometra.bridge.addresses import MOST_CHARACTERS
from gyrometra.crib.models import Fixture, Machine, Material, mm
from gyrometra.jobs.queries import JobQuerySet, SetUpQuerySet
from gyroplan.record import letter_of


class Job(models.Model):
    """What came in: number, part, material. `version` counts the changes to work and plan."""

    #: As the shop writes it; unlike others whatever the case of its letters.
    number = models.CharField(max_length=MOST_CHARACTERS, unique=True)
    part = models.CharField(max_length=80)
    material = models.ForeignKey(Material, on_delete=models.PROTECT, related_name="jobs")
    quantity = models.PositiveSmallIntegerField(default=1)
    due_on = models.DateField(null=True, blank=True)
    #: What the next one at it should know: the customer's words, what held it last time, what was found.
    notes = models.CharField(max_length=600, blank=True)
    version = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)
    #: Why it was given up, by whom and when; empty while it is open.
    closed_reason = models.CharField(max_length=200, blank=True)
    closed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.PROTECT, related_name="+"
    )
    closed_at = models.DateTimeField(null=True, blank=True)
    #: The set-up in hand: what the bench shows, and a job's pages unless they ask for another one. Empty only in the
    #: transaction that makes the job.
    setup: models.ForeignKey[SetUp, SetUp] = models.ForeignKey(  # type: ignore[misc]
        "jobs.SetUp", null=True, blank=True, on_delete=models.SET_NULL, related_name="+"
    )
    #: Where the six steps stand, worked out by `steps.progress` after every change.
    stations = models.JSONField(default=dict, blank=True)
    #: Something of the crib that it uses was changed: its stations are worked out again when they are next shown.
    stale = models.BooleanField(default=False)
    #: By the key of a set-up, what each piece that is begun came to in it, worked out with them: a batch is judged
    #: without reading every log.
    piece_summaries = models.JSONField(default=dict, blank=True)
    #: By the key of a set-up, its own stations and what it came to: the others' pages and the signature rest on it.
    setup_summaries = models.JSONField(default=dict, blank=True)

    objects = JobQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at"]
        constraints = [models.UniqueConstraint(Upper("number"), name="one_job_a_number_whatever_its_case")]

    def __str__(self) -> str:
        return f"{self.number} {self.part}"


class SetUp(models.Model):
    """One axis of rotation on one machine, bored one way; the way says which part turns and what holds it."""

    class Reference(models.TextChoices):
        OLD_BORE = "old-bore", "the old bore"
        OUTSIDE = "outside", "the outside"
        FACE = "face", "a face"
        WALL = "wall", "a wall"
        FINISHED = "finished", "a finished bore of an earlier set-up"

    class Side(models.TextChoices):
        FIRST = "first", "as it lies first"
        OTHER = "other", "turned round, from the other side"

    job = models.ForeignKey(Job, on_delete=models.CASCADE, related_name="setups")
    #: Its number in the order of the work; A is the first.
    place = models.PositiveSmallIntegerField(default=1)
    side = models.CharField(max_length=8, choices=Side.choices, default=Side.FIRST)
    #: Why it was given up, by whom and when: what was cut in it stands as cut.
    closed_reason = models.CharField(max_length=200, blank=True)
    closed_by = models.ForeignKey(
        settings.AUTH_USER_MODEL, null=True, blank=True, on_delete=models.PROTECT, related_name="+"
    )
    closed_at = models.DateTimeField(null=True, blank=True)
    machine = models.ForeignKey(Machine, on_delete=models.PROTECT, related_name="setups")
    method = models.CharField(
        max_length=12, choices=[(key, way.label) for key, way in methods().items()], default="lathe-bar"
    )
    #: How the work is held; empty is the method's usual way.
    holding = models.CharField(max_length=12, blank=True, choices=[(key, one.label) for key, one in holdings().items()])
    reference = models.CharField(max_length=12, choices=Reference.choices)
    room_behind_mm = mm(null=True, blank=True)
    #: How far the middles of the bores may lie off one line, as a diameter; only for several bores.
    coaxiality_mm = mm(null=True, blank=True)
    #: How far the sizes of bores that belong together may differ, whatever the drawing allows each.
    match_mm = mm(null=True, blank=True)
    #: Nothing is cut: the work is only set true, and the bore is the surface that is read.
    only_trued = models.BooleanField(default=False)
    #: What holds it: fixtures, plates and packing of the crib.
    fixtures = models.ManyToManyField(Fixture, blank=True, related_name="setups")
    typed = models.JSONField(default=dict, blank=True)

    objects = SetUpQuerySet.as_manager()

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["job", "place"], name="one_setup_a_place"),
            models.CheckConstraint(name="set_ups_are_lettered", condition=models.Q(place__gte=1, place__lte=26)),
        ]

    def __str__(self) -> str:
        return f"{self.job.number} on {self.machine}"

    @property
    def letter(self) -> str:
        """What it is called on a page."""
        return letter_of(self.place)

    @property
    def way(self) -> Method:
        """The way of boring: which part turns, what is trued, how a cut is set."""
        return held(self.method, self.holding)

    @property
    def surface(self) -> str:
        """The core's word for the surface that is swept."""
        outside = {self.Reference.OUTSIDE: "outside", self.Reference.FACE: "face"}
        return outside.get(self.Reference(self.reference), "inside")
