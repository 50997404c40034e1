"""A crawl in inches over the whole demo shop: every page answers, and none says a millimetre alone."""

import html
import re

from django.test import Client
from django.urls import reverse

from gyrometra.accounts.models import User
from gyrometra.crib import models as crib
from gyrometra.jobs.models import Job

STEPS = ("work", "bar", "cuts", "true", "bore", "check", "sheet", "noise", "report")
KINDS = ("machine", "bar", "head", "cutter", "gauge", "indicator", "material", "fixture", "size")


def words_of(page: str) -> list[str]:
    """Every text of the page's own part, and what its fields show or suggest."""
    main = re.sub(r"(?s)<(script|style).*?</\1>", " ", page.split("<main", 1)[-1])
    texts = re.findall(r">([^<]+)<", main) + re.findall(r'(?:placeholder|title|aria-label)="([^"]*)"', main)
    return [html.unescape(" ".join(text.split())) for text in texts]


def test_an_inch_user_reads_inches(dagny: Client) -> None:
    User.objects.update(unit="in")
    paths = ["/", "/lines/", "/crib/", "/jobs/new/"]
    paths += [reverse("step", args=(job.number, step)) for job in Job.objects.all() for step in STEPS]
    paths += [f"/crib/{kind}/{getattr(crib, kind.capitalize()).objects.all()[0].pk}/" for kind in KINDS]
    for path in paths:
        answer = dagny.get(path)
        assert answer.status_code == 200, path
        alone = [text for text in words_of(answer.content.decode()) if re.search(r"\bmm\b|m/min|N/mm", text)]
        assert set(alone) <= {"mm or inch"}, (path, alone)


def test_a_metric_user_reads_millimetres(dagny: Client) -> None:
    for job in Job.objects.all():
        for step in STEPS:
            text = " ".join(words_of(dagny.get(reverse("step", args=(job.number, step))).content.decode()))
            assert "ft/min" not in text, (job, step)
