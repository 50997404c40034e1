"""A head carried on the end of a bar and a bar with guide pads, typed in the crib and seen on Bar."""

from __future__ import annotations

from typing import Any

from django.test import Client

from gyrometra.bridge.units import Units
from gyrometra.crib.models import Bar, Head
from gyrometra.crib.values import plain_of
from gyrometra.jobs.models import Job
from gyrometra.steps.page import open_page
from tests.web.said import flat

MM = Units("mm")


def keep(client: Client, kind: str, item: Any, **changes: str) -> str:
    return flat(client.post(f"/crib/{kind}/{item.pk}/", {**plain_of(item), **changes}, follow=True))


def test_a_head_on_the_end_of_a_bar_reaches_deeper_and_gives_more(dagny: Client) -> None:
    plan = Job.objects.get(number="Q-228").setup.plan
    before = open_page("Q-228", MM).bar
    text = keep(dagny, "head", plan.head, carrier_mm="60")
    assert "both its diameter and how far it stands out are needed" in text
    assert Head.objects.get(pk=plan.head.pk).carrier_mm is None
    assert "is in the crib" in keep(dagny, "head", plan.head, carrier_mm="60", carrier_out_mm="220")
    after = open_page("Q-228", MM).bar
    assert after.out_mm == (before.out_mm or 0) + 220
    assert (after.stiffness_n_mm or 0) < (before.stiffness_n_mm or 0)
    page = flat(dagny.get("/jobs/Q-228/bar/"))
    assert f"<small>clamped</small> {MM.length(float(plan.bar.length_mm) - (before.out_mm or 0))}" in page


def test_pads_are_typed_whole_and_said_on_bar(dagny: Client) -> None:
    bar = Job.objects.get(number="Q-214").setup.plan.bar
    assert "Guide pads need both" in keep(dagny, "bar", bar, pads_behind_mm="30")
    assert "Pads stand out of the bar" in keep(dagny, "bar", bar, pads_behind_mm="30", pads_mm="20")
    assert "The bar is " in keep(dagny, "bar", bar, pads_behind_mm="2000", pads_mm="71.98")
    assert "is in the crib" in keep(dagny, "bar", bar, pads_behind_mm="30", pads_mm="71.98")
    text = flat(dagny.get("/jobs/Q-214/bar/"))
    assert "The guide pads run in the last pass from 30 deep, with 0.035 play on Ø" in text
    assert "They follow the bore as it was begun" in text
    keep(dagny, "bar", bar, pads_behind_mm="30", pads_mm="72.5")
    assert "they do not enter. Set them smaller" in flat(dagny.get("/jobs/Q-214/bar/"))
    line = Bar.objects.filter(method="line").first()
    assert "guided already" in keep(dagny, "bar", line, pads_behind_mm="30", pads_mm="500")


def test_the_bit_of_a_bar_between_centres_has_its_way_home_said(corin: Client) -> None:
    setup = Job.objects.get(number="P 31/8").setup
    setup.plan.bar = Bar.objects.filter(method="centres").first()
    setup.plan.save()
    assert "Set and take out the bit" in flat(corin.get("/jobs/P~2031~2F8/bar/"))
