"""What a tap means, decided from the log as it is at that moment: the entry to store, or a refusal."""

from __future__ import annotations

from dataclasses import replace

from gyroplan.loop.changes import Act
from gyroplan.loop.entries import Planned, Set
from gyroplan.loop.plan import BoreWork
from gyroplan.loop.replay import replayed


def entry_for(work: BoreWork, act: Act) -> Act:
    """Return the entry that an act becomes as things stand.

    Parameters
    ----------
    work : the plan and the log, read under the lock under which the entry is stored
    act : what was tapped or typed

    Returns
    -------
    the entry; a pass that is set as told keeps the figure that was told, so that no later plan can change it

    Raises
    ------
    Refused
        Where the act does not fit as things stand.
    """
    found = replayed(work)
    memory = found.memory
    found.loop.after(memory, act)
    if isinstance(act, Set) and act.actual is None:
        return replace(act, actual=found.loop.told(memory).amount)
    return act


def plan_entry(work: BoreWork, known: Planned | None) -> Planned | None:
    """Return the entry that must stand before the next one, where the log does not know the plan it was made by."""
    last = next((entry for entry in reversed(work.entries) if isinstance(entry, Planned)), None)
    current = last or Planned(bore=work.bore, rules=work.rules, setting=work.setting, tool=work.tool)
    return None if current == known else current
