"""The gauge link of the indicator that is being read, for the pages of rounds."""

from __future__ import annotations

from typing import Any

from gyrodraw import needle_dial
from gyrometra.links.queries import link_in_use
from gyrometra.steps.page import JobPage
from gyroplan.assess import RoundStanding


def linked(page: JobPage, view: RoundStanding | None) -> dict[str, Any]:
    """The link of the open round's indicator and its dial; nothing where it has none."""
    if view is None:
        return {}
    indicator = page.rows.rounds[view.round.key].indicator
    link = None if indicator is None else link_in_use(indicator.pk)
    if link is None or indicator is None:
        return {}
    step = view.round.indicator_step_mm
    link.indicator = indicator
    return {"link": link, "link_dial": needle_dial(f"{page.units.fine(step)} {page.units.label}")}
