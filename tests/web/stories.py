"""Stories: an ordered log of one bore, driven through the pages and compared with the state at every step."""

import json
import re
import uuid
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any

from django.test import Client
from pydantic import TypeAdapter

from gyrocore.contract import run_text
from gyrometra.accounts.models import User
from gyrometra.bridge.addresses import JobNumber
from gyrometra.bridge.units import Units
from gyrometra.crib import models as crib
from gyrometra.steps.forms import BarForm, CutsForm
from gyrometra.steps.page import JobPage, open_page
from gyroplan.contract import STATES
from gyroplan.loop import BoreWork
from tests.web.test_bad_input import plan_of
from tests.web.test_passes import ALL_GUARDS

FOLDER = Path(__file__).parent.parent / "stories"
_FORMS: dict[str, Any] = {"bar": BarForm, "cuts": CutsForm}
_WORK: TypeAdapter[BoreWork] = TypeAdapter(BoreWork)


@dataclass
class Teller:
    """One story being told: the browser, and where in the shop it stands."""

    client: Client
    story: dict[str, Any]
    #: What each page said: the text of Bore after every act.
    pages: list[str] = field(default_factory=list)
    #: Every move that was told, in the order in which it was set.
    moves: list[float] = field(default_factory=list)

    def __post_init__(self) -> None:
        self.job, self.query = self.story["job"], self.story.get("query", "")
        self.address = JobNumber().to_url(self.job)
        self.units = Units(self.story.get("unit", "mm"))
        User.objects.update(unit=self.units.unit)
        for kind, name, values in self.story.get("crib", []):
            rows = getattr(crib, kind).objects.all()
            (rows if name == "*" else rows.filter(name=name)).update(**values)
        for step, values in self.story.get("form", []):
            named = {
                key: crib.Bar.objects.get(name=value).pk if key == "bar" else value for key, value in values.items()
            }
            self.client.post(f"/jobs/{self.address}/save/{step}/", {**plan_of(self.job, _FORMS[step]), **named})

    @property
    def page(self) -> JobPage:
        """The job as it stands."""
        at = dict(re.findall(r"(bore|piece)=(\d+)", self.query))
        return open_page(self.job, self.units, int(at.get("bore", 1)), int(at.get("piece", 1)))

    def state(self) -> dict[str, Any]:
        """The state by the command's own face, from the page's log typed as one JSON object."""
        work = self.page.passes.work
        assert work is not None
        typed = json.loads(_WORK.dump_json(work))
        typed["gauges"] = typed["gauges"] or [{"name": "none yet", "resolution_mm": 0.001}]
        answer, is_result = run_text("bore_state", json.dumps(_contract_names(typed)), STATES)
        assert is_result, answer
        found: dict[str, Any] = answer["states"][-1]
        return found

    def act(self, act: dict[str, Any]) -> dict[str, Any]:
        """One act through the page; the state after it."""
        before = self.state()
        fields = {key: value for key, value in act.items() if key not in ("do", "then", "text", "gauge")}
        fields |= {"client_id": str(uuid.uuid4()), "guard": ALL_GUARDS, "number": before["pass"] or 1}
        kind = act["do"]
        if kind == "undo":
            self.client.post(f"/jobs/{self.address}/take-back/bore/{self.query}", fields)
            return self.state()
        if kind == "size":
            gauges = crib.Gauge.objects.measuring(self.page.bore.lower_mm)
            named = [gauge for gauge in gauges if gauge.name == act.get("gauge")] or list(gauges)
            fields |= {"value": act["text"], "gauge": named[0].pk, "sure": act["text"]}
        for _ in range(2):  # a double tap, which is one entry
            self.client.post(f"/jobs/{self.address}/cut/{kind}/{self.query}", fields)
        if kind == "set" and before["told"] and "actual" not in act and "divisions" in before["told"]:
            self.moves.append(before["told"]["divisions"])
        return self.state()

    def bore_page(self) -> str:
        """What Bore says, the preview left out."""
        and_query = self.query.replace("?", "&")
        text = self.client.get(f"/jobs/{self.address}/bore/?to=set{and_query}").content.decode()
        return text.split("<main", 1)[1]


def _contract_names(work: dict[str, Any]) -> dict[str, Any]:
    """The same object as a person types it: `pass` for `number`, and nothing that stands at null."""
    entries = [_entry(entry) for entry in work.pop("entries")]
    return {key: _without_null(value) for key, value in work.items()} | {"entries": entries}


def _entry(entry: dict[str, Any]) -> dict[str, Any]:
    named = {("pass" if key == "number" else key): value for key, value in entry.items() if value is not None}
    return {key: _without_null(value) for key, value in named.items()}


def _without_null(value: Any) -> Any:
    return {k: _without_null(v) for k, v in value.items() if v is not None} if isinstance(value, dict) else value


def stories() -> list[str]:
    """The names of all stories."""
    return sorted(path.stem for path in FOLDER.glob("*.json"))


def story(name: str) -> dict[str, Any]:
    """One story."""
    found: dict[str, Any] = json.loads((FOLDER / f"{name}.json").read_text())
    return found
