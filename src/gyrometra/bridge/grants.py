"""What the application's own role may do: less than the owner, who migrates.

Logs are read and added to, never changed, emptied or taken out; nothing of the schema is the application's.
"""

from __future__ import annotations

from django.db import connection
from psycopg import sql

#: Logs: read, and added to.
LOGS = (
    "truing_round", "truing_reading", "truing_between", "cutting_cutentry", "inspection_sizereading",
    "inspection_featurereading", "inspection_depthreading", "inspection_plugreading", "jobs_keptanswer",
    "jobs_jobchange", "jobs_signoff", "jobs_pastsignoff", "crib_cribchange", "health_machinecheck",
)  # fmt: skip
#: A log of which a row may go once it stands in another (a trigger sees to that).
MOVED = ("jobs_signoff",)
#: Written by migrations alone.
READ_ONLY = ("django_migrations", "django_content_type", "auth_permission")


def grant_to(role: str) -> None:
    """Give a role what the application needs of the database, and take away all else; run as the owner."""
    named = sql.Identifier(role)
    tables = [name for name in connection.introspection.table_names() if name not in (*LOGS, *READ_ONLY)]
    lines = [
        sql.SQL("REVOKE ALL ON ALL TABLES IN SCHEMA public FROM {}").format(named),
        sql.SQL("REVOKE CREATE ON SCHEMA public FROM PUBLIC"),
        sql.SQL("GRANT USAGE ON SCHEMA public TO {}").format(named),
        sql.SQL("GRANT USAGE ON ALL SEQUENCES IN SCHEMA public TO {}").format(named),
        sql.SQL("GRANT SELECT ON ALL TABLES IN SCHEMA public TO {}").format(named),
        sql.SQL("GRANT INSERT ON {} TO {}").format(_all(LOGS), named),
        sql.SQL("GRANT DELETE ON {} TO {}").format(_all(MOVED), named),
        sql.SQL("GRANT INSERT, UPDATE, DELETE ON {} TO {}").format(_all(tables), named),
    ]
    with connection.cursor() as cursor:
        for line in lines:
            cursor.execute(line.as_string(cursor.connection))


def _all(tables: tuple[str, ...] | list[str]) -> sql.Composed:
    return sql.SQL(", ").join(sql.Identifier(name) for name in tables)
