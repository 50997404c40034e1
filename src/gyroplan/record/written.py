"""A record as JSON and back."""

from __future__ import annotations

from functools import cache

from pydantic import TypeAdapter

from gyroplan.record.job import JobRecord


@cache
def _reader() -> TypeAdapter[JobRecord]:
    return TypeAdapter(JobRecord)


def record_to_json(record: JobRecord) -> str:
    """Write a record as JSON, numbers unrounded."""
    # a table of the catalogue is a view of a mapping, which pydantic does not know
    return _reader().dump_json(record, by_alias=True, fallback=dict, warnings=False).decode()


def record_from_json(text: str | bytes) -> JobRecord:
    """Read a record; raises pydantic's ValidationError where it is none."""
    return _reader().validate_json(text)
