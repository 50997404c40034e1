"""The command: `python -m gyrocore NAME < in.json` (core contract)."""

from __future__ import annotations

import json
import sys
from typing import Any

from gyrocore.contract import CALCULATIONS, run_text, schema
from gyrocore.errors import InvalidInput
from gyrocore.wording import error_sentence
from gyroplan.contract import STATES

#: The command is a program, not a part of the core: it lists the core's calculations and the states of the work.
TABLE = {**CALCULATIONS, **STATES}
BAD_INPUT = 2
_USAGE = "usage: python -m gyrocore --list | NAME [--schema | --lines]"


def _show(answer: dict[str, Any]) -> None:
    print(json.dumps(answer, allow_nan=False, ensure_ascii=False), flush=True)


def _refuse(error: InvalidInput) -> int:
    _show({"error": {"field": error.field, "message": error_sentence(error)}})
    return BAD_INPUT


def _lines(name: str) -> int:
    for raw in sys.stdin.buffer:
        line = raw.decode("utf-8", errors="replace")
        if line.strip():
            _show(run_text(name, line, TABLE)[0])
    return 0


def main(arguments: list[str]) -> int:
    """Run the command; returns the exit code."""
    if arguments == ["--list"]:
        for name, entry in TABLE.items():
            print(f"{name}  {entry.summary}")
        return 0
    if not arguments or len(arguments) > 2 or arguments[1:] not in ([], ["--schema"], ["--lines"]):
        print(_USAGE, file=sys.stderr)
        return BAD_INPUT
    name, options = arguments[0], arguments[1:]
    if name not in TABLE:
        return _refuse(InvalidInput("", "unknown_name", given=name))
    if options == ["--schema"]:
        _show(schema(name, TABLE))
        return 0
    if options == ["--lines"]:
        return _lines(name)
    text = sys.stdin.buffer.read().decode("utf-8", errors="replace")
    answer, is_result = run_text(name, text, TABLE)
    _show(answer)
    return 0 if is_result else BAD_INPUT


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
