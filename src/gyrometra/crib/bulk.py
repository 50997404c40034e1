"""Many things into the crib at once, as they come from a file: a constant number of queries a kind, not a row."""

from __future__ import annotations

from collections.abc import Iterable

from django.db import transaction

from gyrometra.accounts.models import User
from gyrometra.crib.exchange import Row
from gyrometra.crib.forms import FORMS
from gyrometra.crib.models import CribChange, CribItem
from gyrometra.crib.services import IN_LINES, ChangedMeanwhile, changes, fill, keep_item, line_of, stamp
from gyrometra.crib.values import plain_of

#: Rows a statement.
_BATCH = 250


@transaction.atomic
def take_in(*, user: User, rows: Iterable[Row]) -> tuple[int, int]:
    """Put the rows of a file into the crib, all or none; returns how many were added and how many changed.

    Raises ChangedMeanwhile where another has changed one of them since the file was read.
    """
    kinds: dict[str, list[Row]] = {}
    for row in rows:
        kinds.setdefault(row.kind, []).append(row)
    added = changed = 0
    for kind, same in kinds.items():
        one_by_one = set(IN_LINES) & set(FORMS[kind].base_fields)
        new, old = _singly(user, same) if one_by_one else _together(user, same)
        added, changed = added + new, changed + old
    return added, changed


def _singly(user: User, rows: list[Row]) -> tuple[int, int]:
    """Machines and heads have lines of their own."""
    added = changed = 0
    for row in rows:
        item = row.known or row.form.model()
        version = item.version
        keep_item(user=user, item=item, values=row.form.cleaned_data, typed=row.form.typed())
        added += row.known is None
        changed += row.known is not None and item.version != version
    return added, changed


def _together(user: User, rows: list[Row]) -> tuple[int, int]:
    fresh = [(row, row.form.model()) for row in rows if row.known is None]
    known = [(row, row.known) for row in rows if row.known is not None]
    return _put_in(user, fresh), _change(user, known)


def _put_in(user: User, fresh: list[tuple[Row, CribItem]]) -> int:
    for row, item in fresh:
        fill(item, row.form.cleaned_data, row.form.typed())
    if fresh:
        model = type(fresh[0][1])
        made = model._default_manager.bulk_create([item for _, item in fresh], batch_size=_BATCH)
        stored = model._default_manager.in_bulk([item.pk for item in made])
        _log(line_of(user, item, "put in", changes({}, plain_of(item))) for item in stored.values())
    return len(fresh)


def _change(user: User, known: list[tuple[Row, CribItem]]) -> int:
    if not known:
        return 0
    model = type(known[0][1])
    locked = model._default_manager.select_for_update(of=("self",)).in_bulk([item.pk for _, item in known])
    if any(item.pk not in locked or locked[item.pk].version != item.version for _, item in known):
        raise ChangedMeanwhile
    before = {pk: plain_of(item) for pk, item in locked.items()}
    for row, item in known:
        fill(locked[item.pk], row.form.cleaned_data, row.form.typed())
    names = [name for name in FORMS[known[0][0].kind].base_fields if name not in IN_LINES]
    _write(locked.values(), [*names, "typed"])
    # read again: as the columns hold it, not as the form gave it
    stored = model._default_manager.in_bulk(list(locked))
    changed = {pk: found for pk, item in stored.items() if (found := changes(before[pk], plain_of(item)))}
    for pk in changed:
        stamp(stored[pk])
    _write([stored[pk] for pk in changed], ["version", "changed_at"])
    _log(line_of(user, stored[pk], "changed", found) for pk, found in changed.items())
    return len(changed)


def _write(items: Iterable[CribItem], names: list[str]) -> None:
    """Columns of many stored things: an insert that finds each there, which is far quicker than bulk_update."""
    found = list(items)
    if found:
        type(found[0])._default_manager.bulk_create(
            found, batch_size=_BATCH, update_conflicts=True, unique_fields=["id"], update_fields=names
        )


def _log(lines: Iterable[CribChange]) -> None:
    CribChange.objects.bulk_create(list(lines), batch_size=_BATCH)
