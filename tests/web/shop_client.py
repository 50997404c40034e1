"""A browser without scripts: what it posts to a log carries what its page showed, as every form does."""

import re
import uuid
from typing import Any

from django.test import Client

from gyrometra.accounts.models import User
from gyrometra.bridge.addresses import JobNumber
from gyrometra.bridge.units import Units
from gyrometra.jobs.models import Job
from gyrometra.steps.page import JobPage, open_page
from gyrometra.steps.shared.seen import seen_on

_LOG = re.compile(
    r"^/jobs/([\w~-]+)/(round|reading|take-back|cut|size|depth|plug|ring|between|centred|feature/log|noise)/"
    r"(?:([\w-]+)/)?(?:\?(.*))?$"
)


class ShopClient(Client):
    """Posts to a log as the page of this moment would, unless a test says what was seen."""

    #: What was seen when an entry was first sent: a double tap sends the same again.
    _sent: dict[str, dict[str, Any]]

    def post(self, path: str, data: Any = None, **more: Any) -> Any:
        found = _LOG.match(path)
        fields = data if isinstance(data, dict) else {} if data is None else None
        if found and fields is not None and "seen" not in fields:
            self._sent = getattr(self, "_sent", {})
            entry = str(fields.get("client_id") or uuid.uuid4())
            if entry not in self._sent:
                self._sent[entry] = self._as_shown(found, more.get("headers") or {}, fields)
            data = {**self._sent[entry], "client_id": entry, **fields}
        return super().post(path, data, **more)

    def _as_shown(self, found: "re.Match[str]", headers: dict[str, str], fields: dict[str, Any]) -> dict[str, Any]:
        written, log, kind, query = found.groups()
        number = JobNumber().to_python(written)
        if not Job.objects.filter(number=number).exists():
            return {"seen": ""}
        user = User.objects.get(pk=self.session["_auth_user_id"])
        asked = dict(pair.split("=") for pair in (query or "").split("&") if "=" in pair)
        place = int(asked["bore"]) if asked.get("bore", "").isdecimal() else None
        piece = int(asked["piece"]) if asked.get("piece", "").isdecimal() else 1
        setup = int(asked["setup"]) if asked.get("setup", "").isdecimal() else None
        page = open_page(number, Units(headers.get("X-Unit", user.unit)), place, piece, setup=setup)
        check = kind == "check"
        rounds = page.sweeps if check else page.truing.rounds
        key = rounds[-1].round.key if rounds else None
        return {
            "seen": seen_on(page, user.username, key if log in ("reading", "take-back") else None),
            "undo": last_of(page, kind, fields, key) if log == "take-back" else "",
        }


def last_of(page: JobPage, step: str, fields: dict[str, Any], round_key: int | None) -> str:
    """The entry that an undo on this page would name."""
    if step == "bore":
        acts = [row for row in page.cuts_logged.rows if row.kind != "plan"]
        return str(acts[-1].client_id) if acts else ""
    if fields.get("what") == "size":
        return str(page.rows.sizes[page.judged.sizes[-1].key].client_id) if page.judged.sizes else ""
    if fields.get("what") == "plug":
        return str(page.rows.plugs[page.judged.plugs[-1].key].client_id) if page.judged.plugs else ""
    if fields.get("what") == "depth":
        return str(page.rows.depths[page.judged.depths[-1].key].client_id) if page.judged.depths else ""
    rows = page.rows.rounds[round_key].reading_rows if round_key else []  # type: ignore[attr-defined]
    return str(max(rows, key=lambda row: row["id"])["client_id"]) if rows else ""
