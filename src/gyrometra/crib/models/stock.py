"""Materials, and the fixtures and packing that were made for a job and kept."""

from __future__ import annotations

from django.db import models

from gyrocore import Material as MaterialData
from gyrocore import (
    SpeedPair,
    materials,
)
from gyrometra.crib.models.base import CribItem, mm


class Material(CribItem):
    """What work is made of: its class, Kienzle constants, expansion, and surface speeds by cutter and stage."""

    #: The class that decides hatch and cautions.
    family = models.CharField(max_length=20, choices=[(key, entry.label) for key, entry in materials().items()])
    hardness = models.CharField(max_length=30, blank=True)
    kc11_mpa = models.DecimalField(max_digits=8, decimal_places=2)
    mc = models.DecimalField(max_digits=5, decimal_places=4)
    thrust_ratio = models.DecimalField(max_digits=5, decimal_places=4)
    expansion_um_m_k = models.DecimalField(max_digits=6, decimal_places=3)
    carbide_rough_m_min = models.DecimalField(max_digits=7, decimal_places=2)
    carbide_finish_m_min = models.DecimalField(max_digits=7, decimal_places=2)
    hss_rough_m_min = models.DecimalField(max_digits=7, decimal_places=2)
    hss_finish_m_min = models.DecimalField(max_digits=7, decimal_places=2)
    source = models.CharField(max_length=120)

    @property
    def data(self) -> MaterialData:
        """The material for the core."""
        return MaterialData(
            key=self.family,
            label=self.name,
            hatch=materials()[self.family].hatch,
            kc11_mpa=float(self.kc11_mpa),
            mc=float(self.mc),
            thrust_ratio=float(self.thrust_ratio),
            expansion_um_m_k=float(self.expansion_um_m_k),
            speed_m_min={
                "carbide": SpeedPair(rough=float(self.carbide_rough_m_min), finish=float(self.carbide_finish_m_min)),
                "hss": SpeedPair(rough=float(self.hss_rough_m_min), finish=float(self.hss_finish_m_min)),
            },
            source=self.source,
            youngs_modulus_gpa=materials()[self.family].youngs_modulus_gpa,
            poisson=materials()[self.family].poisson,
        )


class Fixture(CribItem):
    """A fixture, a plate, packing or a bush made for one job and kept: what for, how large, and a picture."""

    class Kind(models.TextChoices):
        FIXTURE = "fixture", "fixture"
        PLATE = "plate", "plate"
        PACKING = "packing", "packing"
        BUSH = "bush", "bush or ring"
        STOP = "stop", "stop or gauge piece"

    kind = models.CharField(max_length=10, choices=Kind.choices, default=Kind.FIXTURE)
    purpose = models.CharField(max_length=120)
    for_part = models.CharField(max_length=80, blank=True)
    length_mm = mm(null=True, blank=True)
    width_mm = mm(null=True, blank=True)
    height_mm = mm(null=True, blank=True)
    #: How many alike there are.
    count = models.PositiveSmallIntegerField(default=1)
    #: The picture as a JPEG of at most 1600 px a side; in the database, so that one backup holds all.
    picture = models.BinaryField(null=True, blank=True)


class Size(CribItem):
    """A part that exists in a size of its own: a ring, a bearing, a bush, a piston; a bore can be made to take it."""

    class Kind(models.TextChoices):
        RING = "ring", "ring"
        SEAL = "seal", "seal"
        BEARING = "bearing", "bearing"
        PISTON = "piston", "piston"
        BUSH = "bush", "bush or sleeve"
        OTHER = "other", "other part"

    kind = models.CharField(max_length=8, choices=Kind.choices, default=Kind.RING)
    #: Of the part itself, outside.
    diameter_mm = mm()
    #: What the bore is larger than the part by; negative is a press.
    play_mm = mm(default=0)
    have = models.PositiveSmallIntegerField(default=0)
