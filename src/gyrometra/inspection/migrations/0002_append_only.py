"""The database itself refuses to change or delete a row of this log."""

from django.db import migrations

MAKE = """
CREATE FUNCTION inspection_sizereading_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION 'append-only: a correction is a new entry that supersedes';
END;
$$ LANGUAGE plpgsql;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON inspection_sizereading
    FOR EACH ROW EXECUTE FUNCTION inspection_sizereading_is_append_only();
"""
DROP = """
DROP TRIGGER append_only ON inspection_sizereading;
DROP FUNCTION inspection_sizereading_is_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("inspection", "0001_initial")]
    operations = [migrations.RunSQL(MAKE, DROP)]
