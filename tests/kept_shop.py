"""The demo shop put back in an instant: loaded once a run, kept in a schema beside the tables, copied from there.

To load it as a person would takes seconds, and every test of the real server begins with it.
"""

from __future__ import annotations

from django.contrib.contenttypes.models import ContentType
from django.db import connection

from gyrometra.samples.load import load_shop

_BESIDE = "kept_shop"
#: What belongs to the database itself, not to the shop.
_STAYS = ("django_migrations",)


def put_shop_back() -> None:
    """Every table as it is just after the demo shop was loaded; what stood there before is gone."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT to_regnamespace(%s)", [_BESIDE])
        kept = cursor.fetchone()[0] is not None
        tables = [name for name in connection.introspection.table_names(cursor) if name not in _STAYS]
        if not kept:
            load_shop()
            cursor.execute(f"CREATE SCHEMA {_BESIDE}")
            for table in tables:
                cursor.execute(f'CREATE TABLE {_BESIDE}."{table}" AS TABLE public."{table}"')
            return
        cursor.execute("SET session_replication_role = replica")
        names = ", ".join(f'"{table}"' for table in tables)
        cursor.execute(f"TRUNCATE {names}")
        for table in tables:
            cursor.execute(f'INSERT INTO public."{table}" SELECT * FROM {_BESIDE}."{table}"')  # noqa: S608 - own names
        for sequence in connection.introspection.sequence_list():
            table, column = sequence["table"], sequence["column"]
            if table in tables:
                last = f'SELECT coalesce(max("{column}"), 1) FROM public."{table}"'  # noqa: S608 - own names
                cursor.execute(f"SELECT setval(pg_get_serial_sequence(%s, %s), ({last}))", [f'"{table}"', column])
        cursor.execute("SET session_replication_role = origin")
    ContentType.objects.clear_cache()
