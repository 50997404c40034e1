"""The database itself refuses to change or delete a kept answer."""

from django.db import migrations

MAKE = """
CREATE FUNCTION jobs_keptanswer_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION 'append-only: a correction is a new entry that supersedes';
END;
$$ LANGUAGE plpgsql;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON jobs_keptanswer
    FOR EACH ROW EXECUTE FUNCTION jobs_keptanswer_is_append_only();
"""
DROP = """
DROP TRIGGER append_only ON jobs_keptanswer;
DROP FUNCTION jobs_keptanswer_is_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("jobs", "0003_kept_answers")]
    operations = [migrations.RunSQL(MAKE, DROP)]
