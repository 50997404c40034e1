"""The stack of packing pieces that comes nearest to a height."""

from __future__ import annotations

from collections.abc import Iterator, Sequence
from dataclasses import dataclass

from gyrocore.checks import TOLERANCE, require_between, require_positive, require_unique
from gyrocore.errors import InvalidInput
from gyrocore.notes import Note, note

#: More kinds or pieces than that nobody stacks, and to try them all would take long.
MOST_KINDS, MOST_PIECES = 20, 6


@dataclass(frozen=True, slots=True, kw_only=True)
class PackingPiece:
    """A piece of packing, and how many alike there are [mm]."""

    name: str
    height_mm: float
    count: int = 1


@dataclass(frozen=True, slots=True, kw_only=True)
class StackedPiece:
    """So many of one piece."""

    name: str
    count: int


@dataclass(frozen=True, slots=True, kw_only=True)
class PackingStack:
    """The stack, its height, and how far that is off [mm]."""

    stack: tuple[StackedPiece, ...]
    height_mm: float
    error_mm: float
    pieces: int
    notes: tuple[Note, ...] = ()


def packing(*, pieces: Sequence[PackingPiece], target_mm: float, most_pieces: int = 4) -> PackingStack:
    """Return the stack nearest to a height.

    Parameters
    ----------
    pieces : 1 to 20 kinds, names unlike, heights over 0 [mm], 1 to 6 of each
    target_mm : over 0 [mm]
    most_pieces : 1 to 6

    Returns
    -------
    PackingStack [mm]: of equals (to 1e-9 mm) the fewest pieces, then the higher, then more of the first named

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Derived here: every stack is tried.

    Examples
    --------
    >>> blocks = [PackingPiece(name="20", height_mm=20, count=2), PackingPiece(name="5", height_mm=5)]
    >>> found = packing(pieces=blocks, target_mm=44)
    >>> [(one.name, one.count) for one in found.stack], found.error_mm
    ([('20', 2), ('5', 1)], 1)
    """
    return nearest_stacks(pieces=pieces, target_mm=target_mm, most_pieces=most_pieces, rows=1)[0]


def nearest_stacks(
    *, pieces: Sequence[PackingPiece], target_mm: float, most_pieces: int = 4, rows: int = 3
) -> tuple[PackingStack, ...]:
    """Return the stacks nearest to a height, the nearest first, each height once.

    Parameters
    ----------
    pieces : 1 to 20 kinds, names unlike, heights over 0 [mm], 1 to 6 of each
    target_mm : over 0 [mm]
    most_pieces : 1 to 6
    rows : 1 to 20

    Returns
    -------
    tuple of PackingStack [mm]: of equals (to 1e-9 mm) in the order of `packing`

    Raises
    ------
    InvalidInput
        At the field that is out of its bounds.

    References
    ----------
    Derived here: every stack is tried.

    Examples
    --------
    >>> blocks = [PackingPiece(name="60", height_mm=60), PackingPiece(name="1.5", height_mm=1.5)]
    >>> [one.height_mm for one in nearest_stacks(pieces=blocks, target_mm=61.6, rows=2)]
    [61.5, 60.0]
    """
    require_pieces(pieces)
    require_positive(target_mm=target_mm)
    require_between(1, MOST_PIECES, most_pieces=most_pieces)
    require_between(1, 20, rows=rows)
    best: list[tuple[int, ...]] = []
    for counts in _stacks(pieces, most_pieces):
        _insert(best, counts, pieces, target_mm)
        del best[rows:]
    return tuple(_as_stack(counts, pieces, target_mm) for counts in best)


def _insert(best: list[tuple[int, ...]], new: tuple[int, ...], pieces: Sequence[PackingPiece], target: float) -> None:
    """Put a stack where it belongs among the best; one as high as another takes its place only where it is better."""
    height = _height(new, pieces)
    for place, old in enumerate(best):
        alike = abs(_height(old, pieces) - height) <= TOLERANCE
        if _is_better(new, old, pieces, target):
            best.insert(place, new)
            twin = (at for at in range(place + 1, len(best)) if abs(_height(best[at], pieces) - height) <= TOLERANCE)
            again = next(twin, None)
            if again is not None:
                del best[again]
            return
        if alike:
            return
    best.append(new)


def _as_stack(best: tuple[int, ...], pieces: Sequence[PackingPiece], target_mm: float) -> PackingStack:
    height = _height(best, pieces)
    return PackingStack(
        stack=tuple(StackedPiece(name=one.name, count=n) for one, n in zip(pieces, best, strict=True) if n),
        height_mm=height, error_mm=height - target_mm, pieces=sum(best),
        notes=(note("stack_exact") if abs(height - target_mm) <= TOLERANCE else note(
            "stack_off", error_mm=abs(height - target_mm), way="high" if height > target_mm else "low"),),
    )  # fmt: skip


def require_pieces(pieces: Sequence[PackingPiece]) -> None:
    """Refuse pieces that cannot be, or more than are tried."""
    if not pieces:
        raise InvalidInput("pieces", "empty")
    if len(pieces) > MOST_KINDS:
        raise InvalidInput("pieces", "too_many", given=len(pieces), allowed=MOST_KINDS)
    require_unique("pieces.*.name", [one.name for one in pieces])
    for place, one in enumerate(pieces):
        require_positive(**{f"pieces.{place}.height_mm": one.height_mm})
        require_between(1, MOST_PIECES, **{f"pieces.{place}.count": one.count})


def _stacks(pieces: Sequence[PackingPiece], most: int) -> Iterator[tuple[int, ...]]:
    """Every stack but the empty one, those with more of the first named first."""

    def rest(place: int, left: int) -> Iterator[tuple[int, ...]]:
        if place == len(pieces):
            yield ()
            return
        for count in range(min(left, pieces[place].count), -1, -1):
            for others in rest(place + 1, left - count):
                yield (count, *others)

    return (counts for counts in rest(0, most) if any(counts))


def _height(counts: Sequence[int], pieces: Sequence[PackingPiece]) -> float:
    return sum(count * one.height_mm for count, one in zip(counts, pieces, strict=True))


def _is_better(new: tuple[int, ...], old: tuple[int, ...], pieces: Sequence[PackingPiece], target_mm: float) -> bool:
    height, before = _height(new, pieces), _height(old, pieces)
    nearer = abs(before - target_mm) - abs(height - target_mm)
    if abs(nearer) > TOLERANCE:
        return nearer > 0
    if sum(new) != sum(old):
        return sum(new) < sum(old)
    return height > before + TOLERANCE
