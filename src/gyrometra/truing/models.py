"""Rounds of indicator readings round the work, and what happened between them."""

from __future__ import annotations

from django.conf import settings
from django.db import models

from gyrometra.crib.models import Indicator, mm
from gyrometra.jobs.models import Bore, LogEntry, SetUp


class Round(models.Model):
    """One turn of the indicator: so many places on one surface, for truing or for the check."""

    class Method(models.TextChoices):
        SWEEP = "sweep", "sweep"
        FLATS = "flats", "opposite flats"
        WALLS = "walls", "along the walls"
        EYE = "eye", "centred by eye"
        PLUG = "plug", "over a plug or pilot"
        COAXIAL = "coaxial", "coaxial, smallest swing"
        EDGE = "edge", "edge-finder, midpoints"

    class Purpose(models.TextChoices):
        TRUE = "true", "truing"
        CHECK = "check", "run-out of the finished bore"

    setup = models.ForeignKey(SetUp, on_delete=models.CASCADE, related_name="rounds")
    #: The finished bore that was swept; empty for truing, which is of the whole set-up.
    bore = models.ForeignKey(Bore, null=True, blank=True, on_delete=models.CASCADE, related_name="rounds")
    #: Which of the pieces alike; the plan is shared, the logs are apart.
    piece = models.PositiveSmallIntegerField(default=1)
    number = models.PositiveSmallIntegerField()
    purpose = models.CharField(max_length=6, choices=Purpose.choices, default=Purpose.TRUE)
    method = models.CharField(max_length=8, choices=Method.choices, default=Method.SWEEP)
    places = models.PositiveSmallIntegerField(default=8)
    surface = models.CharField(max_length=8)
    #: The depth of its plane from the open face, where more planes than one are read.
    plane_mm = mm(null=True, blank=True)
    #: Of runs along the wall: the depths from the open face that are read at each side [mm].
    depths_mm = models.JSONField(default=list, blank=True)
    #: Whether plus was plunger out; the readings stand as they were read.
    plus_out = models.BooleanField(default=False)
    #: Whether it is looked at from the other end than this way of boring usually is: the places run the other way.
    seen_other = models.BooleanField(default=False)
    #: Centred without a round of readings: how far the centre may then lie off, and what that rests on [mm].
    bound_mm = mm(null=True, blank=True)
    #: What was typed for it; of a round of readings which steps were ticked before it, where they were asked.
    values = models.JSONField(default=dict, blank=True)
    #: Wanted off centre on purpose: how far, and toward which place [deg]; empty for true.
    target_mm = mm(null=True, blank=True)
    target_deg = models.DecimalField(max_digits=5, decimal_places=1, null=True, blank=True)
    #: Empty where no indicator was needed: by eye, over a plug, with an edge-finder.
    indicator = models.ForeignKey(Indicator, null=True, blank=True, on_delete=models.PROTECT, related_name="rounds")
    #: How far "first again" may differ; empty takes the rule of `gyrocore.closing_allowance_mm`.
    closing_mm = mm(null=True, blank=True)
    #: The indicator as it was; empty in rounds of an older make.
    rests_on = models.JSONField(default=dict, blank=True)
    by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(auto_now_add=True)
    #: Its own id: a round begun twice with one tap is one round. Empty in rounds of an older make.
    client_id = models.UUIDField(unique=True, null=True, blank=True)
    digest = models.CharField(max_length=16, blank=True)

    class Meta:
        ordering = ["number"]
        constraints = [
            models.UniqueConstraint(
                fields=["setup", "purpose", "bore", "piece", "number"], name="one_round_once", nulls_distinct=False
            ),
            models.CheckConstraint(
                name="a_round_has_places_and_a_purpose",
                condition=models.Q(
                    places__gte=2,
                    places__lte=36,
                    piece__gte=1,
                    purpose__in=["true", "check"],
                    method__in=["sweep", "flats", "walls", "eye", "plug", "coaxial", "edge"],
                    surface__in=["inside", "outside", "face"],
                ),
            ),
        ]

    def __str__(self) -> str:
        return f"round {self.number}"


class Reading(LogEntry):
    """One indicator reading; place `places` is "first again", which closes the round."""

    round = models.ForeignKey(Round, on_delete=models.PROTECT, related_name="readings")
    place = models.PositiveSmallIntegerField()
    #: Empty where the place is blocked (a port, a slot, a keyway) or off the scale: passed over, and said.
    value_mm = mm(null=True)

    def __str__(self) -> str:
        return f"{self.value_mm} at {self.place}"


class Between(LogEntry):
    """What happened after a round: the jaws were moved as told, or the work was disturbed."""

    class Kind(models.TextChoices):
        MOVED = "moved", "moved as told"
        DISTURBED = "disturbed", "re-clamped, knocked or turned round"
        #: The centring without a round that it stands behind was not so: it counts no more.
        WITHDRAWN = "withdrawn", "centring taken back"

    class How(models.TextChoices):
        TIGHTENED = "tightened", "tightened"
        CLAMPED = "clamped", "re-clamped"
        TURNED = "turned", "turned round"
        KNOCKED = "knocked", "knocked"
        WELDED = "welded", "welded"
        HEATED = "heated", "heated"
        TACKED = "tacked", "tacked"

    setup = models.ForeignKey(SetUp, on_delete=models.PROTECT, related_name="between_rounds")
    bore = models.ForeignKey(Bore, null=True, blank=True, on_delete=models.PROTECT, related_name="+")
    piece = models.PositiveSmallIntegerField(default=1)
    #: The round begun last when it happened.
    after_round = models.PositiveSmallIntegerField(default=0)
    kind = models.CharField(max_length=10, choices=Kind.choices)
    #: What disturbed it; empty in entries of an older make.
    how = models.CharField(max_length=10, choices=How.choices, blank=True)
    #: Moved otherwise than told: what was really moved, along 0 and along 90 degrees [mm]; empty for as told.
    really_mm = models.JSONField(default=list, blank=True)

    def __str__(self) -> str:
        return f"{self.kind} after round {self.after_round}"
