"""What lies under work that is clamped to a table or a saddle, and what must: its axis is to lie at the spindle's."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass, replace

from gyrocore import PackingPiece, PackingStack, nearest_stacks
from gyroplan.assess.at import AtBore
from gyroplan.record import FixtureRecord

#: More pieces than that nobody stacks under work; more kinds than that are not tried.
MOST_PIECES, MOST_KINDS = 4, 20
#: A piece up to this is a shim.
SHIM_MM = 1.0


@dataclass(frozen=True, slots=True, kw_only=True)
class Packing:
    """Heights over the table or the saddle [mm]."""

    axis_mm: float
    under: tuple[FixtureRecord, ...]
    under_mm: float
    #: What must lie under the work in all, where the height of its own axis over its foot is known.
    needed_mm: float | None

    @property
    def foot_mm(self) -> float:
        """How high its own axis must lie over its foot on what is under it now."""
        return self.axis_mm - self.under_mm

    @property
    def lacking_mm(self) -> float | None:
        """What is still to be put under it; negative is too much."""
        return None if self.needed_mm is None else self.needed_mm - self.under_mm


@dataclass(frozen=True, slots=True, kw_only=True)
class Stacked:
    """A stack under the work with a shim under its low side: how far the axis lies off, and whether that is allowed."""

    stack: PackingStack
    #: None where the table does not fall, or no shim is owned.
    shim: PackingStack | None
    axis_error_mm: float
    allowed: bool


@dataclass(frozen=True, slots=True, kw_only=True)
class Packed:
    """The stacks of what the shop owns, best first; none where no stack comes near."""

    needed_mm: float
    fall_mm: float
    #: How far the axis may lie off, and whether that is the shop's own word or what the stock still covers.
    allowed_mm: float | None
    own_limit: bool
    rows: tuple[Stacked, ...]


def packing_of(at: AtBore) -> Packing | None:
    """Return the packing under the work; None where the work turns, or the axis' height is not known.

    Work in a chuck or on a faceplate is trued at its jaws: nothing lies under it.
    """
    axis, foot = at.machine.axis_height_mm, at.plan.foot_mm
    if axis is None or at.setup.way.turns == "work":
        return None
    under = tuple(one for one in at.setup.fixtures if one.height_mm is not None)
    if not under and foot is None:
        return None
    return Packing(
        axis_mm=axis, under=under, under_mm=sum(one.height_mm or 0.0 for one in under),
        needed_mm=None if foot is None else axis - foot,
    )  # fmt: skip


def packed_from(at: AtBore, owned: Sequence[PackingPiece], off_allowed_mm: float | None) -> Packed | None:
    """Return the stacks that the shop can build under the work; None where the height wanted is not known.

    `off_allowed_mm` is what the stock covers, on radius; the shop's own limit goes before it. The axis lies midway
    between the feet: half of what a shim is off counts.
    """
    found = packing_of(at)
    fixed = 0.0 if found is None else sum(one.height_mm or 0.0 for one in found.under if one.kind != "packing")
    needed = None if found is None or found.needed_mm is None else found.needed_mm - fixed
    if needed is None or needed <= 0:
        return None
    plan = at.plan
    fall = plan.falls_mm or 0.0
    allowed = off_allowed_mm if plan.axis_allowed_mm is None else plan.axis_allowed_mm
    stacks = nearest_stacks(pieces=owned, target_mm=needed, most_pieces=MOST_PIECES, rows=3) if owned else ()
    rows = []
    for stack in stacks:
        shim = _shim(owned, stack, fall)
        half = 0.0 if not fall else (fall if shim is None else shim.error_mm) / 2
        error = stack.error_mm + half
        within = allowed is None or abs(error) <= allowed + 1e-9
        rows.append(Stacked(stack=stack, shim=shim, axis_error_mm=error, allowed=within))
    return Packed(
        needed_mm=needed, fall_mm=fall, allowed_mm=allowed, own_limit=plan.axis_allowed_mm is not None,
        rows=tuple(rows),
    )  # fmt: skip


def _shim(owned: Sequence[PackingPiece], stack: PackingStack, fall_mm: float) -> PackingStack | None:
    """What comes nearest to the fall, of the shims that the stack has left."""
    used = {one.name: one.count for one in stack.stack}
    left = [replace(one, count=one.count - used.get(one.name, 0)) for one in owned if one.height_mm <= SHIM_MM]
    shims = [one for one in left if one.count > 0]
    return nearest_stacks(pieces=shims, target_mm=fall_mm, rows=1)[0] if fall_mm and shims else None
