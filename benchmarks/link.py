"""A thousand readings a second over the gauge link for half a minute: none lost, none doubled, and how late they show.

The product's own server on loopback, the bridge's own sender; a page asks for the needle meanwhile as a browser does.
Every fourth batch is sent a second time, as by a bridge whose answer was lost. Run by `benchmarks/run`.
"""

from __future__ import annotations

import json
import os
import subprocess
import sys
import time
from statistics import quantiles
from threading import Thread
from uuid import uuid4

import django
import urllib3

django.setup()

from django.test import Client  # noqa: E402 - after setup

from gyrolink.post import Sender  # noqa: E402
from gyrometra.accounts.models import User  # noqa: E402
from gyrometra.crib.models import Indicator  # noqa: E402
from gyrometra.links import services  # noqa: E402
from gyrometra.links.models import GaugeLink, LinkReading  # noqa: E402

#: A gauge as shops have it, for a while; then a thousand a second for half a minute.
RUNS, PORT = ((25, 8.0), (1000, 30.0)), 8499
ADDRESS = f"http://127.0.0.1:{PORT}"


class Twice(Sender):
    """Sends every fourth batch again, as when the answer was lost on the way."""

    batches = 0

    def _post(self, batch):  # type: ignore[no-untyped-def]
        self.batches += 1
        if self.batches % 4 == 0:
            rows = [{"id": one.id, "value": f"{one.value_mm:.6f}", "press": one.pressed} for one in batch]
            headers = {"Authorization": f"Bearer {self.token}", "Content-Type": "application/json"}
            body = json.dumps({"readings": rows}).encode()
            self._http.request("POST", f"{self.url}/link/readings/", body=body, headers=headers)
        super()._post(batch)


def watch(
    link: GaugeLink, listener: str, cookie: dict[str, str], until: float, late: list[float], took: list[float]
) -> None:
    """Ask for the needle as a page does: the value is the time it was sent, so its age is how late it shows."""
    http = urllib3.PoolManager()
    while time.monotonic() < until:
        start = time.monotonic()
        answer = http.request("GET", f"{ADDRESS}/link/{link.pk}/needle/?listener={listener}", headers=cookie)
        took.append(1000 * (time.monotonic() - start))
        told = answer.json()
        if told["state"] == "live":
            late.append(1000 * ((time.monotonic() - told["mm"]) % 1000))
        time.sleep(0.14)


def main() -> None:
    """Print what was sent, stored and seen, at each rate."""
    served = subprocess.Popen(  # noqa: S603 - our own server
        [sys.executable, "-m", "gyrometra.server", "--bind", f"127.0.0.1:{PORT}"], stderr=subprocess.DEVNULL,
        env={**os.environ, "ALLOWED_HOSTS": "127.0.0.1"},
    )  # fmt: skip
    try:
        _until_up()
        for rate, seconds in RUNS:
            run(rate, seconds)
    finally:
        served.terminate()
        served.wait()


def run(rate: int, seconds: float) -> None:
    """Send at a rate while a page looks on; print what became of it."""
    user = User.objects.get(username="corin")
    indicator = Indicator.objects.order_by("pk")[0]
    link, token = services.link_gauge(user=user, item=indicator, name=f"at {rate} a second")
    listener = uuid4()
    services.listen(user=user, link=link, listener=listener)
    client = Client()
    client.force_login(user)
    cookie = {"Cookie": f"sessionid={client.cookies['sessionid'].value}"}
    late: list[float] = []
    took: list[float] = []
    sender, start = Twice(ADDRESS, token), time.monotonic()
    page = Thread(target=watch, args=(link, str(listener), cookie, start + seconds, late, took))
    page.start()
    sent = 0
    while (gone := time.monotonic() - start) < seconds:
        for _ in range(int(gone * rate) - sent):
            sent += 1
            sender.take(time.monotonic() % 1000, pressed=sent % rate == 0)
        time.sleep(0.004)
    left = sender.finish(within_s=60)
    page.join()
    rows = LinkReading.objects.filter(link=link)
    print(f"gauge link: {sent} sent in {seconds:.0f} s ({sent / seconds:.0f} a second), {rows.count()} stored, "
          f"{left} lost, {rows.filter(pressed=True).count()} of {sent // rate} presses")  # fmt: skip
    lateness, asked = quantiles(late, n=20), quantiles(took, n=20)
    print(f"needle seen {lateness[9]:.0f} ms late (median), {lateness[18]:.0f} ms (95 of 100); asking takes "
          f"{asked[9]:.0f} ms, {asked[18]:.0f} ms; asked {len(took) / seconds:.1f} times a second")  # fmt: skip


def _until_up() -> None:
    http = urllib3.PoolManager(retries=False)
    for _ in range(100):
        try:
            if http.request("GET", f"{ADDRESS}/readyz").status == 200:
                return
        except urllib3.exceptions.HTTPError:
            time.sleep(0.1)
    sys.exit("the server did not come up")


if __name__ == "__main__":
    main()
