"""Print how long our work takes against the least that could do it. Run by `benchmarks/run`.

Medians of many runs in one process, so the figures compare on any machine; nothing here fails.
"""

from __future__ import annotations

from collections.abc import Callable
from itertools import count
from statistics import median
from time import perf_counter
from typing import Any

import django
import numpy as np

django.setup()

from django.http import HttpRequest, HttpResponse  # noqa: E402 - after setup
from django.test import Client, RequestFactory  # noqa: E402

from gyrocore import sweep  # noqa: E402
from gyrometra.accounts.models import User  # noqa: E402
from gyrometra.bridge.units import Units  # noqa: E402
from gyrometra.jobs.models import Job  # noqa: E402
from gyrometra.samples.load import load_shop  # noqa: E402
from gyrometra.steps.forms import CutsForm  # noqa: E402
from gyrometra.steps.page import open_page  # noqa: E402


def median_ms(work: Callable[[], Any], runs: int) -> float:
    """Median time of a run in milliseconds, after a few to warm up."""
    for _ in range(3):
        work()
    times = []
    for _ in range(runs):
        start = perf_counter()
        work()
        times.append(1000 * (perf_counter() - start))
    return median(times)


def bare_view(request: HttpRequest) -> HttpResponse:
    """The least a page can be: one query, one line."""
    return HttpResponse(Job.objects.values_list("part", flat=True).get(number="Q-214"))


def cuts_rework() -> tuple[float, float]:
    """Change a depth on Cuts, all figures worked out and drawn again; against the bare view."""
    client = Client(headers={"HX-Request": "true"})
    client.force_login(User.objects.get(username="corin"))
    depths = iter(["0.45", "0.5"] * 1000)
    page = open_page("Q-219", Units())
    shown = CutsForm(units=Units(), bore=page.bore).initial_for()
    fields = {name: value for name, value in shown.items() if value is not None}
    versions = count(page.job.version)

    def rework() -> None:
        changed = {**fields, "version": next(versions), "rough_depth_mm": next(depths)}
        answer = client.post("/jobs/Q-219/save/cuts/", changed)
        assert b"Spindle, roughing" in answer.content
        assert b"Not saved" not in answer.content

    request = RequestFactory().get("/")
    return median_ms(rework, 30), median_ms(lambda: bare_view(request), 200)


def page_times() -> list[tuple[str, float]]:
    """Server time of each main page with the demo shop."""
    client = Client()
    client.force_login(User.objects.get(username="dagny"))
    paths = ["/", *(f"/jobs/Q-214/{s}/" for s in ("work", "bar", "cuts", "true", "bore")), "/jobs/Q-198/check/",
             "/jobs/Q-214/sheet/", "/crib/"]  # fmt: skip
    return [(path, median_ms(lambda path=path: client.get(path), 20)) for path in paths]  # type: ignore[misc]


def sweep_ratio() -> tuple[float, float]:
    """A sweep of twelve places against numpy's own least squares on the same matrix."""
    angles = [30.0 * n for n in range(12)]
    readings = list(np.random.default_rng(1).normal(0, 0.02, 12))
    t = np.radians(angles)
    columns = [np.ones(12)] + [f(n * t) for n in (1, 2, 3) for f in (np.cos, np.sin)]
    design = np.column_stack(columns)
    ours = median_ms(lambda: sweep(angles_deg=angles, readings_mm=readings, surface="inside"), 400)
    return ours, median_ms(lambda: np.linalg.lstsq(design, readings, rcond=None), 400)


def main() -> None:
    """Print all of it."""
    load_shop()
    ours, bare = cuts_rework()
    print(f"re-work of Cuts        {ours:8.2f} ms   bare view with one query {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    ours, bare = sweep_ratio()
    print(f"sweep, 12 places       {ours:8.3f} ms   numpy least squares      {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    for path, ms in page_times():
        print(f"page {path:20s} {ms:8.1f} ms")


if __name__ == "__main__":
    main()
