"""A job, its set-up (one axis of rotation), the bore on it, and the plan."""

from __future__ import annotations

from typing import Any

from django.conf import settings
from django.db import models

from gyrocore import BoreInLine, Limits, Method, materials, method, methods
from gyrometra.crib.models import Bar, Cutter, Head, Machine, mm
from gyrometra.jobs.queries import JobQuerySet


class Job(models.Model):
    """What came in: number, part, material. `version` counts the changes to work and plan."""

    number = models.SlugField(max_length=20, unique=True)
    part = models.CharField(max_length=80)
    material = models.CharField(max_length=20, choices=[(k, m.label) for k, m in materials().items()])
    quantity = models.PositiveSmallIntegerField(default=1)
    due_on = models.DateField(null=True, blank=True)
    version = models.PositiveIntegerField(default=1)
    made_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(auto_now_add=True)
    changed_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    changed_at = models.DateTimeField(auto_now=True)
    #: Where the six steps stand, worked out by `steps.progress` after every change.
    stations = models.JSONField(default=dict, blank=True)

    objects = JobQuerySet.as_manager()

    class Meta:
        ordering = ["-changed_at"]

    def __str__(self) -> str:
        return f"{self.number} {self.part}"


class SetUp(models.Model):
    """One axis of rotation on one machine, bored one way; the way says which part turns and what holds it."""

    class Reference(models.TextChoices):
        OLD_BORE = "old-bore", "the old bore"
        OUTSIDE = "outside", "the outside"

    job = models.OneToOneField(Job, on_delete=models.CASCADE, related_name="setup")
    machine = models.ForeignKey(Machine, on_delete=models.PROTECT, related_name="setups")
    method = models.CharField(
        max_length=12, choices=[(key, way.label) for key, way in methods().items()], default="lathe-bar"
    )
    reference = models.CharField(max_length=12, choices=Reference.choices)
    room_behind_mm = mm(null=True, blank=True)
    #: How far the middles of the bores may lie off one line, as a diameter; only for several bores.
    coaxiality_mm = mm(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    def __str__(self) -> str:
        return f"{self.job.number} on {self.machine}"

    @property
    def way(self) -> Method:
        """The way of boring: which part turns, what is trued, how a cut is set."""
        return method(self.method)

    @property
    def surface(self) -> str:
        """The core's word for the surface that is swept."""
        return "inside" if self.reference == self.Reference.OLD_BORE else "outside"


class Bore(models.Model):
    """One bore of a set-up's axis: where it lies, as it is, as it must become, what else it must keep."""

    class Ends(models.TextChoices):
        THROUGH = "through", "through"
        SHOULDER = "shoulder", "counterbore, ends at a shoulder"
        BLIND = "blind", "blind, closed at its end"

    setup = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="bores")
    name = models.CharField(max_length=20, default="bore")
    place = models.PositiveSmallIntegerField(default=1)
    #: From the open face of the first bore, along the axis.
    start_mm = mm(default=0)
    length_mm = mm()
    ends = models.CharField(max_length=10, choices=Ends.choices, default=Ends.THROUGH)
    #: The part that it must suit, as measured, and the clearance wanted on diameter; negative is a press.
    mate_mm = mm(null=True, blank=True)
    play_least_mm = mm(null=True, blank=True)
    play_most_mm = mm(null=True, blank=True)
    #: Depth of the shoulder from the open face: as written, and its limits.
    depth_wanted = models.CharField(max_length=80, blank=True)
    depth_lower_mm = mm(null=True, blank=True)
    depth_upper_mm = mm(null=True, blank=True)
    wanted = models.CharField(max_length=80)
    nominal_mm = mm(null=True, blank=True)
    lower_mm = mm()
    upper_mm = mm()
    runout_limit_mm = mm()
    roundness_limit_mm = mm(null=True, blank=True)
    taper_limit_mm = mm(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]
        constraints = [
            models.UniqueConstraint(fields=["setup", "place"], name="one_bore_a_place"),
            models.UniqueConstraint(fields=["setup", "name"], name="one_bore_a_name"),
        ]

    def __str__(self) -> str:
        return f"{self.name} {self.wanted}"

    @property
    def limits(self) -> Limits:
        """The limits of size for the core."""
        lower, upper = float(self.lower_mm), float(self.upper_mm)
        nominal = None if self.nominal_mm is None else float(self.nominal_mm)
        return Limits(nominal, lower, upper, upper - lower, self.aim_mm, ())

    @property
    def has_shoulder(self) -> bool:
        """Whether the cut ends at a shoulder."""
        return self.ends == self.Ends.SHOULDER

    @property
    def stops_the_cutter(self) -> bool:
        """Whether the cutter cannot run past its end."""
        return self.ends != self.Ends.THROUGH

    @property
    def in_line(self) -> BoreInLine:
        """The bore's place along the axis, for the core."""
        closed = self.ends == self.Ends.BLIND
        return BoreInLine(name=self.name, start_mm=float(self.start_mm), end_mm=self.end_mm, closed=closed)

    @property
    def end_mm(self) -> float:
        """Where it ends along the axis."""
        return float(self.start_mm) + float(self.length_mm)

    @property
    def aim_mm(self) -> float:
        """The middle of the limits."""
        return (float(self.lower_mm) + float(self.upper_mm)) / 2

    @property
    def tolerance_mm(self) -> float:
        """Upper less lower limit."""
        return float(self.upper_mm) - float(self.lower_mm)


class FoundSize(models.Model):
    """The bore as found at one depth from the open face."""

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="found")
    z_mm = mm()
    diameter_mm = mm()
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["z_mm"]

    def __str__(self) -> str:
        return f"{self.diameter_mm} at {self.z_mm}"


class OutsideStep(models.Model):
    """A step of the outside, from the open face: so long, so thick."""

    bore = models.ForeignKey(Bore, on_delete=models.CASCADE, related_name="outside")
    place = models.PositiveSmallIntegerField()
    length_mm = mm()
    diameter_mm = mm()
    typed = models.JSONField(default=dict, blank=True)

    class Meta:
        ordering = ["place"]

    def __str__(self) -> str:
        return f"{self.length_mm} of {self.diameter_mm}"


class Plan(models.Model):
    """How the set-up is bored: bar, cutter, reach, spring, feeds, passes."""

    setup = models.OneToOneField(SetUp, on_delete=models.CASCADE, related_name="plan")
    bar = models.ForeignKey(Bar, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    cutter = models.ForeignKey(Cutter, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    head = models.ForeignKey(Head, null=True, blank=True, on_delete=models.PROTECT, related_name="plans")
    #: Places of the bearings along the axis, from the open face of the first bore [mm].
    bearings_mm = models.JSONField(default=list, blank=True)
    overrun_mm = mm(default=5)
    clear_mm = mm(default=20)
    chip_clearance_mm = mm(default=5)
    budget_mm = mm(null=True, blank=True)
    rough_speed_m_min = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    finish_speed_m_min = models.DecimalField(max_digits=8, decimal_places=2, null=True, blank=True)
    rough_feed_mm_rev = mm(default="0.2")
    finish_feed_mm_rev = mm(default="0.08")
    rough_depth_mm = mm(default="0.5")
    finish_depth_mm = mm(default="0.2")
    finish_passes = models.PositiveSmallIntegerField(default=2)
    spring_passes = models.PositiveSmallIntegerField(default=0)
    test_leave_mm = mm(null=True, blank=True)
    #: Left on diameter for honing: the passes end that much short.
    hone_allowance_mm = mm(default=0)
    #: Roughed work rests until this day before it is finished.
    rest_until = models.DateField(null=True, blank=True)
    max_rpm = models.PositiveIntegerField(null=True, blank=True)
    typed = models.JSONField(default=dict, blank=True)

    def __str__(self) -> str:
        return f"plan of {self.setup.job.number}"


class LogQuerySet(models.QuerySet[Any]):
    """Log entries that stand: not superseded by a later one."""

    def standing(self) -> LogQuerySet:
        """Leave out what a later entry has replaced or withdrawn."""
        return self.filter(superseded_by__isnull=True, withdrawn=False)


class LogEntry(models.Model):
    """Append-only: who, when, how it came; a correction is a new entry that supersedes.

    The database refuses to change or delete a row (see each app's second migration), and
    `client_id` stores an entry that was sent twice once.
    """

    class Source(models.TextChoices):
        KEYPAD = "keypad", "keypad"
        TYPED = "typed", "typed"
        CABLE = "cable", "cable"

    client_id = models.UUIDField(unique=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    source = models.CharField(max_length=8, choices=Source.choices, default=Source.TYPED)
    text = models.CharField(max_length=60, blank=True)
    supersedes = models.OneToOneField(
        "self", null=True, blank=True, on_delete=models.PROTECT, related_name="superseded_by"
    )
    withdrawn = models.BooleanField(default=False)

    objects = LogQuerySet.as_manager()

    class Meta:
        abstract = True
        ordering = ["pk"]


class KeptAnswer(LogEntry):
    """An answer of a bench line, kept with a job: which line, what was typed, what it said."""

    job = models.ForeignKey(Job, on_delete=models.PROTECT, related_name="kept_answers")
    line = models.CharField(max_length=20)
    title = models.CharField(max_length=40)
    typed = models.JSONField(default=dict)
    answer = models.CharField(max_length=400)

    def __str__(self) -> str:
        return f"{self.title}: {self.answer}"


class SignOff(models.Model):
    """The lead's name under a verdict; after it the job is closed to change."""

    job = models.OneToOneField(Job, on_delete=models.PROTECT, related_name="signoff")
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    verdict = models.JSONField()

    def __str__(self) -> str:
        return f"{self.job.number} signed by {self.by}"
