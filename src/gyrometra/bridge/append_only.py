"""A trigger by which the database itself refuses to change or delete a row of a log; for migrations."""

from __future__ import annotations

from django.db import migrations

STAYS = "append-only: a correction is a new entry that supersedes"


def refuse_changes(table: str, words: str = STAYS) -> migrations.RunSQL:
    """The operation that puts the trigger on a table, and takes it off again when it is undone."""
    made = f"""
CREATE FUNCTION {table}_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION '{words}';
END;
$$ LANGUAGE plpgsql;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON {table}
    FOR EACH ROW EXECUTE FUNCTION {table}_is_append_only();
"""
    undone = f"DROP TRIGGER append_only ON {table};\nDROP FUNCTION {table}_is_append_only();\n"
    return migrations.RunSQL(made, undone)
