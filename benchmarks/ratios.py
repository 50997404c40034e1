"""Print how long our work takes against the least that could do it. Run by `benchmarks/run`.

Medians of many runs in one process, so the figures compare on any machine; nothing here fails.
"""

from __future__ import annotations

import math
from collections.abc import Callable
from decimal import Decimal
from itertools import count
from statistics import median
from time import perf_counter
from typing import Any
from uuid import uuid4

import django
import numpy as np

django.setup()

from django.db import connection  # noqa: E402 - after setup
from django.test import Client, override_settings  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402

from gyrocore import BarMaterial, Segment, Support, Tool, bar_response, build_beam, sweep  # noqa: E402
from gyrometra.accounts.models import User  # noqa: E402
from gyrometra.bridge.units import Units  # noqa: E402
from gyrometra.crib.models import Indicator  # noqa: E402
from gyrometra.jobs.copies import copy_job  # noqa: E402
from gyrometra.jobs.entries import Sent  # noqa: E402
from gyrometra.jobs.models import Job, SetUp  # noqa: E402
from gyrometra.samples.load import load_shop  # noqa: E402
from gyrometra.steps.forms import CutsForm, LineBarForm  # noqa: E402
from gyrometra.steps.page import open_page  # noqa: E402
from gyrometra.truing.services import log_between, log_reading, open_round  # noqa: E402


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


def bare_ms(client: Client) -> float:
    """The least a signed-in page can take: one query, one line, by the same way in as what is held against it."""
    with override_settings(ROOT_URLCONF="benchmarks.bare"):
        return median_ms(lambda: client.post("/bare/"), 200)


def cuts_rework() -> tuple[float, float]:
    """Change a depth on Cuts, all figures worked out and drawn again; against the bare view."""
    client = Client(headers={"HX-Request": "true"})
    client.force_login(User.objects.get(username="corin"))
    depths = iter(["0.45", "0.5"] * 1000)
    page = open_page("Q-219", Units())
    shown = CutsForm(units=Units(), bore=page.bore_row, at=page.at).initial_for()
    fields = {name: value for name, value in shown.items() if value is not None}
    versions = count(page.job.version)

    def rework() -> None:
        changed = {**fields, "version": next(versions), "rough_depth_mm": next(depths)}
        answer = client.post("/jobs/Q-219/save/cuts/", changed)
        assert b"Spindle, roughing" in answer.content
        assert b"Not saved" not in answer.content

    return median_ms(rework, 30), bare_ms(client)


def line_rework() -> tuple[float, float]:
    """Move a bearing of the three-bore line: spans, sag, spring and drawing of it all; against the bare view."""
    client = Client(headers={"HX-Request": "true"})
    client.force_login(User.objects.get(username="corin"))
    page = open_page("Q-221", Units())
    shown = LineBarForm(units=Units(), bore=page.bore_row, at=page.at).initial_for()
    fields = {name: value for name, value in shown.items() if value is not None}
    versions, stands = count(page.job.version), iter(["-80; 580; 1280", "-80; 560; 1280"] * 1000)

    def rework() -> None:
        changed = {**fields, "version": next(versions), "bearings_mm": next(stands)}
        answer = client.post("/jobs/Q-221/save/bar/", changed)
        assert b"Farthest place from a bearing" in answer.content
        assert b"Not saved" not in answer.content

    return median_ms(rework, 30), bare_ms(client)


def beam_ratio() -> tuple[float, float]:
    """A bar on three bearings against numpy's solve of a system of the same size."""
    bar = [Segment(length_mm=1500, diameter_mm=60)]
    supports = [Support(position_mm=place, kind="bearing") for place in (50, 700, 1400)]
    tool = Tool(position_mm=900)
    size = len(build_beam(bar, BarMaterial(), supports, [900]).free)
    matrix = np.random.default_rng(1).normal(size=(size, size)) + size * np.eye(size)
    load = np.ones(size)
    ours = median_ms(lambda: bar_response(segments=bar, supports=supports, tool=tool), 100)
    return ours, median_ms(lambda: np.linalg.solve(matrix, load), 400)


def bench_growth() -> tuple[tuple[float, int], tuple[float, int]]:
    """The bench with 20 and with 2,000 jobs: time and number of queries of each."""
    client = Client()
    client.force_login(User.objects.get(username="dagny"))
    found = []
    for jobs in (20, 2000):
        _fill_bench(jobs)
        with CaptureQueriesContext(connection) as queries:
            client.get("/")
            asked = len(queries)
        found.append((median_ms(lambda: client.get("/"), 20), asked))
    return found[0], found[1]


def true_growth() -> tuple[tuple[float, int], tuple[float, int]]:
    """True with 2 rounds and with 200: time and number of queries of each."""
    user = User.objects.get(username="corin")
    client = Client()
    client.force_login(user)
    setup, indicator = SetUp.objects.get(job__number="Q-223"), Indicator.objects.order_by("pk")[0]
    found = []
    for rounds in (2, 200):
        for number in range(setup.rounds.count(), rounds):
            of = {"setup": setup, "method": "sweep", "purpose": "true"}
            one = open_round(sent=_sent(user), indicator=indicator, places=8, **of)  # type: ignore[arg-type]
            off = 0.2 / (number + 1)
            for place in (*range(8), 8):
                log_reading(sent=_sent(user), round=one, place=place,
                            value_mm=Decimal(f"{off * math.cos(math.radians(45 * place)):.4f}"))  # fmt: skip
            log_between(sent=_sent(user), setup=setup, kind="moved")
        with CaptureQueriesContext(connection) as queries:
            client.get("/jobs/Q-223/true/")
            asked = len(queries)
        found.append((median_ms(lambda: client.get("/jobs/Q-223/true/"), 20), asked))
    return found[0], found[1]


def _sent(user: User) -> Sent:
    return Sent(user=user, client_id=uuid4())


def _fill_bench(wanted: int) -> None:
    """More jobs like Q-214, copied as a person copies one."""
    like, user = Job.objects.get(number="Q-214"), User.objects.get(username="dagny")
    stations = like.stations
    for n in range(Job.objects.count(), wanted):
        copy_job(user=user, job=Job.objects.get(pk=like.pk), number=f"B-{n}")
    # where they stand does not matter here, only that the bench has something to print
    Job.objects.filter(number__startswith="B-").update(stations=stations)


def page_times() -> list[tuple[str, float, int]]:
    """Server time and queries of each main page with the demo shop."""
    client = Client()
    client.force_login(User.objects.get(username="dagny"))
    paths = ["/", *(f"/jobs/Q-214/{s}/" for s in ("work", "bar", "cuts", "true", "bore")), "/jobs/Q-198/check/",
             "/jobs/Q-214/sheet/", "/jobs/Q-221/bar/", "/jobs/Q-221/bore/", "/jobs/Q-228/bar/", "/jobs/Q-230/bore/",
             "/lines/", "/ask/?q=64+H7", "/crib/"]  # fmt: skip
    found = []
    for path in paths:
        with CaptureQueriesContext(connection) as queries:
            client.get(path)
            asked = len(queries)
        found.append((path, median_ms(lambda path=path: client.get(path), 20), asked))  # type: ignore[misc]
    return found


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
    print(f"re-work of Cuts        {ours:8.2f} ms   bare signed-in view      {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    ours, bare = sweep_ratio()
    print(f"sweep, 12 places       {ours:8.3f} ms   numpy least squares      {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    ours, bare = line_rework()
    print(f"re-work of a line bar  {ours:8.2f} ms   bare signed-in view      {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    ours, bare = beam_ratio()
    print(f"bar on three bearings  {ours:8.3f} ms   numpy solve, same size   {bare:7.3f} ms   ratio {ours / bare:6.1f}")
    for path, ms, asked in page_times():
        print(f"page {path:20s} {ms:8.1f} ms in {asked:2d} queries")
    few, many = true_growth()
    print(f"True, 2 rounds {few[0]:.1f} ms in {few[1]} queries; 200 rounds {many[0]:.1f} ms in {many[1]} queries; "
          f"ratio {many[0] / few[0]:.2f}")  # fmt: skip
    few, many = bench_growth()
    print(f"bench, 20 jobs {few[0]:.1f} ms in {few[1]} queries; 2,000 jobs {many[0]:.1f} ms in {many[1]} queries; "
          f"ratio {many[0] / few[0]:.2f}")  # fmt: skip


if __name__ == "__main__":
    main()
