"""What the crib has to choose from, each list read once for a page however many fields and lists show it."""

from __future__ import annotations

from functools import cached_property

from gyrometra.crib.models import Bar, Cutter, Fixture, Head, Machine


class Offered:
    """Things in use, as they are offered."""

    @cached_property
    def bars(self) -> list[Bar]:
        """Bars, shortest first: of two alike the shorter is picked."""
        return list(Bar.objects.filter(retired=False).order_by("length_mm", "name"))

    @cached_property
    def bars_by_name(self) -> list[Bar]:
        """Bars as a list to choose from."""
        return sorted(self.bars, key=lambda bar: bar.name)

    @cached_property
    def cutters(self) -> list[Cutter]:
        """Cutters."""
        return list(Cutter.objects.filter(retired=False))

    @cached_property
    def heads(self) -> list[Head]:
        """Boring heads."""
        return list(Head.objects.filter(retired=False))

    @cached_property
    def packing(self) -> list[Fixture]:
        """Packing with a height, highest first."""
        kind = Fixture.Kind.PACKING
        return list(Fixture.objects.filter(retired=False, kind=kind, height_mm__isnull=False).order_by("-height_mm"))

    @cached_property
    def machines(self) -> list[Machine]:
        """Machines with their speeds."""
        return list(Machine.objects.filter(retired=False).prefetch_related("speeds"))
