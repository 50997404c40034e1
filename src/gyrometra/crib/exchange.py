"""The crib as files: JSON for all of it, CSV a kind; reading them back through the same forms as the pages."""

from __future__ import annotations

import csv
import io
import json
import re
from collections.abc import Iterable
from dataclasses import dataclass
from typing import Any

from gyrometra.crib.forms import FORMS, CribForm
from gyrometra.crib.models import CribItem
from gyrometra.crib.values import MM, field_names, plain_of

#: Says what the file is; files of a later make are refused.
FORMAT, VERSION = "gyrometra-crib", 1
#: A crib is not longer than this; a larger file is a mistake.
MOST_ROWS, MOST_BYTES = 2000, 2_000_000


class BadFile(Exception):
    """The file cannot be read; nothing of it was taken in. `faults` names the rows."""

    def __init__(self, *faults: str) -> None:
        self.faults = faults
        super().__init__("; ".join(faults))


@dataclass(frozen=True, slots=True)
class Row:
    """One thing of a file: its kind, its form, and the stored thing of that name, if there is one."""

    kind: str
    form: CribForm
    known: CribItem | None


def to_json() -> str:
    """All kinds, every thing with every field as text, lengths in millimetres."""
    kinds = {key: [plain_of(item) for item in form.model._default_manager.all()] for key, form in FORMS.items()}
    return json.dumps({"format": FORMAT, "version": VERSION, **kinds}, indent=1, ensure_ascii=False)


def to_csv(kind: str) -> str:
    """One kind: a heading with the names of its fields, then one thing a line."""
    out = io.StringIO()
    writer = csv.DictWriter(out, fieldnames=field_names(kind), lineterminator="\n")
    writer.writeheader()
    for item in FORMS[kind].model._default_manager.all():
        writer.writerow({name: no_formula(text) for name, text in plain_of(item).items()})
    return out.getvalue()


#: A cell that begins so is a formula to a table program.
_FORMULA = re.compile(r"[=+@\t\r]|-(?![\d.])")


def no_formula(text: str) -> str:
    """Text that a table program would work out is marked as text; reading takes the mark off again."""
    return f"'{text}" if _FORMULA.match(text) else text


def _without_mark(text: str) -> str:
    return text[1:] if text.startswith("'") and _FORMULA.match(text[1:]) else text


def read(name: str, content: bytes, kind: str) -> list[Row]:
    """Every row of a file, guarded by the kind's own form; raises BadFile that names the rows."""
    if len(content) > MOST_BYTES:
        raise BadFile(f"{name} is larger than 2 MB: no crib is.")
    try:
        text = content.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise BadFile(f"{name} is no text file in UTF-8.") from None
    rows = _from_json(text) if text.lstrip()[:1] in ("{", "[") else _from_csv(text, kind)
    if not rows:
        raise BadFile(f"{name} has no rows.")
    if len(rows) > MOST_ROWS:
        raise BadFile(f"{name} has more than {MOST_ROWS} rows.")
    return _guarded(rows)


def _from_json(text: str) -> list[tuple[str, str, dict[str, Any]]]:
    try:
        found = json.loads(text)
    except (json.JSONDecodeError, RecursionError):
        raise BadFile("This is not whole JSON: was the file cut short?") from None
    if not isinstance(found, dict) or found.get("format") != FORMAT:
        raise BadFile(f'This JSON is no crib: its "format" must be "{FORMAT}".')
    if found.get("version") != VERSION:
        raise BadFile(f"The file is of version {found.get('version')}; version {VERSION} is read here.")
    rows = []
    for kind, items in found.items():
        if kind in ("format", "version"):
            continue
        if kind not in FORMS or not isinstance(items, list):
            raise BadFile(f"“{kind}” is no kind of thing; there are {', '.join(FORMS)}.")
        rows += [(f"{kind} {place + 1}", kind, item) for place, item in enumerate(items)]
    return rows


def _from_csv(text: str, kind: str) -> list[tuple[str, str, dict[str, Any]]]:
    if kind not in FORMS:
        raise BadFile("A CSV file holds one kind of thing: say which.")
    reader = csv.DictReader(io.StringIO(text), restkey="", strict=False)
    rows = []
    try:
        _require_columns(kind, reader.fieldnames or [])
        for row in reader:
            plain = {name: _without_mark(cell) if isinstance(cell, str) else cell for name, cell in row.items()}
            rows.append((f"line {reader.line_num}", kind, plain))
    except csv.Error as fault:
        raise BadFile(f"line {reader.line_num + 1} cannot be read: {fault}.") from None
    return rows


def _require_columns(kind: str, columns: Iterable[str]) -> None:
    fields, given = FORMS[kind].base_fields, [column.strip() for column in columns]
    unknown = [column or "(no name)" for column in given if column not in fields]
    missing = [name for name, field in fields.items() if field.required and name not in given]
    faults = []
    if unknown:
        faults.append(f"Unknown columns: {', '.join(unknown)}. A {kind} has {', '.join(field_names(kind))}.")
    if missing:
        faults.append(f"Missing columns: {', '.join(missing)}.")
    if faults:
        raise BadFile(*faults)


def _named(kind: str) -> dict[str, CribItem]:
    """Every thing of a kind by its name in small letters."""
    return {item.name.lower(): item for item in FORMS[kind].model._default_manager.all()}


def _guarded(rows: list[tuple[str, str, dict[str, Any]]]) -> list[Row]:
    faults: list[str] = []
    found: list[Row] = []
    seen: set[tuple[str, str]] = set()
    stored = {kind: _named(kind) for kind in {kind for _, kind, _ in rows}}
    for place, kind, values in rows:
        if not isinstance(values, dict) or "" in values or set(values) - set(FORMS[kind].base_fields):
            faults.append(f"{place}: this row has fields that a {kind} does not have.")
            continue
        name = str(values.get("name") or "").strip()
        if (kind, name.lower()) in seen:
            faults.append(f"{place}, {name}: the name stands in the file twice.")
        seen.add((kind, name.lower()))
        known = stored[kind].get(name.lower())
        form = FORMS[kind]({key: "" if value is None else str(value) for key, value in values.items()},
                           units=MM, item=known, named=stored[kind])  # fmt: skip
        for field, errors in form.errors.items():
            label = form.fields[field].label if field in form.fields else ""
            faults.append(f"{place}, {name or 'no name'}: {label}: {errors[0]}")
        found.append(Row(kind, form, known))
    if faults:
        raise BadFile(*faults[:40])
    return found
