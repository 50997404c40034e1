"""A bore's plan and its log: the input of `bore_state`."""

from __future__ import annotations

from dataclasses import dataclass, field

from gyroplan.gauges import Expansions, Gauge, require_gauges
from gyroplan.loop.asked import BoreInWork, Rules, require_asked
from gyroplan.loop.entries import Entry, Planned, require_entry
from gyroplan.loop.setting import Way
from gyroplan.shape import STRICT


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreWork:
    """A bore's plan and its log: the input of `bore_state`."""

    __pydantic_config__ = STRICT

    bore: BoreInWork
    rules: Rules
    setting: Way
    gauges: list[Gauge]
    part_expansion_um_m_k: float = 11.5
    instrument_expansion_um_m_k: float = 11.5
    #: What cuts, by name; only a `planned` entry with another name asks for it.
    tool: str = ""
    entries: list[Entry] = field(default_factory=list)

    @property
    def expansions(self) -> Expansions:
        """Of part and gauges."""
        return Expansions(part_um_m_k=self.part_expansion_um_m_k, instrument_um_m_k=self.instrument_expansion_um_m_k)


@dataclass(frozen=True, slots=True, kw_only=True)
class BoreLog:
    """The log of one bore of one piece: what it was begun with, the entries, the gauges as they were."""

    first: Planned | None = None
    entries: tuple[Entry, ...] = ()
    gauges: tuple[Gauge, ...] = ()
    part_expansion_um_m_k: float = 11.5

    @property
    def planned_last(self) -> Planned | None:
        """The plan as the log knows it last."""
        later = [entry for entry in self.entries if isinstance(entry, Planned)]
        return later[-1] if later else self.first

    def work_as(self, current: Planned | None) -> BoreWork | None:
        """The plan and the log; a plan that the log does not know yet stands as its last entry.

        None where there is no plan that can be worked with, neither now nor in the log.
        """
        first = self.first or current
        if first is None:
            return None
        entries = list(self.entries)
        if current is not None and entries and self.planned_last not in (None, current):
            entries.append(current)
        begin = first if entries or current is None else current
        return BoreWork(
            bore=begin.bore, rules=begin.rules, setting=begin.setting, tool=begin.tool, gauges=list(self.gauges),
            part_expansion_um_m_k=self.part_expansion_um_m_k, entries=entries,
        )  # fmt: skip


def require_work(work: BoreWork) -> None:
    """Refuse a plan, or an entry, that could never be; raises InvalidInput at its field."""
    require_asked(work.bore, work.rules, work.setting)
    require_gauges(work.gauges, work.expansions)
    for place, entry in enumerate(work.entries):
        require_entry(f"entries.{place}", entry)
