"""Replays a job typed as JSON through the command's own face."""

import json
from typing import Any

from gyrocore.contract import run_text
from gyroplan.contract import STATES

State = dict[str, Any]


def replay(name: str, work: dict[str, Any], *entries: dict[str, Any]) -> list[State]:
    """The states; the work must be good."""
    answer, is_result = run_text(name, json.dumps({**work, "entries": list(entries)}), STATES)
    assert is_result, answer
    states: list[State] = answer["states"]
    return states


def refused_input(name: str, work: dict[str, Any], *entries: dict[str, Any]) -> str:
    """The field at which the whole is bad input."""
    answer, is_result = run_text(name, json.dumps({**work, "entries": list(entries)}), STATES)
    assert not is_result
    assert answer["error"]["message"]
    field: str = answer["error"]["field"]
    return field
