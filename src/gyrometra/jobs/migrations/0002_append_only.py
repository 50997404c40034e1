"""The database itself refuses to change or delete a row of this log."""

from django.db import migrations

MAKE = """
CREATE FUNCTION jobs_signoff_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION 'append-only: a correction is a new entry that supersedes';
END;
$$ LANGUAGE plpgsql;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON jobs_signoff
    FOR EACH ROW EXECUTE FUNCTION jobs_signoff_is_append_only();
"""
DROP = """
DROP TRIGGER append_only ON jobs_signoff;
DROP FUNCTION jobs_signoff_is_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("jobs", "0001_initial")]
    operations = [migrations.RunSQL(MAKE, DROP)]
