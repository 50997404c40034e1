"""The gauge link of what is being read: the indicator of a round, or a bore gauge while sizes are typed."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Any

from gyrodraw import needle_dial
from gyrometra.crib.models import Gauge
from gyrometra.links.models import GaugeLink
from gyrometra.links.queries import gauge_link_in_use, link_in_use
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
    link.indicator = indicator
    return _shown(page, link, view.round.indicator_step_mm)


def linked_gauge(page: JobPage, gauges: Iterable[Gauge]) -> dict[str, Any]:
    """The link of one of the gauges that a size can be read with; nothing where none is linked."""
    link = gauge_link_in_use(list(gauges))
    return {} if link is None else _shown(page, link, link.step_mm)


def _shown(page: JobPage, link: GaugeLink, step_mm: float) -> dict[str, Any]:
    return {"link": link, "link_dial": needle_dial(f"{page.units.fine(step_mm)} {page.units.label}")}
