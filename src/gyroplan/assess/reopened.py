"""What a disturbance re-opens: what was read before it, and must be read again."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from gyroplan.record import JobRecord

#: After these the sizes that were measured before say nothing any more: a weld pulls, a hot part measures large.
SIZES_TOO = ("welded", "heated")
#: After these the tool's own setting is doubtful too.
TOOL_TOO = ("knocked", "turned", "clamped")


def is_void_since(record: JobRecord, piece: int) -> Callable[[datetime | None], str]:
    """What tells of a measuring by its time how the piece was disturbed after it so that it says nothing any more.

    Empty while it counts: nothing was welded or heated since, or its time is not known (records of an older make).
    """
    pulled = [(one.at, one.how) for one in record.between
              if one.piece == piece and one.how in SIZES_TOO and one.at is not None]  # fmt: skip

    def by(read_at: datetime | None) -> str:
        return next((how for at, how in reversed(pulled) if read_at is not None and read_at < at), "")

    return by


@dataclass(frozen=True, slots=True, kw_only=True)
class Reopened:
    """The disturbance that stands, and what it touches: planes by depth (None: the one), walls, sizes, the tool."""

    how: str
    planes_mm: tuple[float | None, ...]
    walls: bool
    sizes: bool
    tool: bool


def reopened_of(record: JobRecord, piece: int, place: int) -> Reopened | None:
    """Return what must be read again; None where nothing was disturbed since the last round."""
    of = (None, place)
    rounds = [r for r in record.rounds if r.purpose == "true" and r.piece == piece and r.bore in of]
    happened = [one for one in record.between if one.piece == piece and one.bore in of and one.kind == "disturbed"]
    if not happened or not rounds or happened[-1].after_round < rounds[-1].number:
        return None
    last = happened[-1]
    before = max((one.after_round for one in happened[:-1] if one.after_round < last.after_round), default=0)
    read = [one for one in rounds if before < one.number <= last.after_round and not one.is_bound]
    depths = {one.plane_mm for one in read if not one.is_walls}
    planes = tuple(sorted(depths, key=lambda z: -1.0 if z is None else z))
    bores = {one.place for one in record.setup.bores}
    measured = any(one.piece == piece and one.bore in bores for one in record.sizes)
    return Reopened(
        how=last.how, planes_mm=planes, walls=any(one.is_walls for one in read),
        sizes=measured and last.how in SIZES_TOO, tool=last.how in TOOL_TOO,
    )  # fmt: skip
