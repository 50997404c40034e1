"""The database itself refuses to change or delete a row of the crib's history."""

from django.db import migrations

MAKE = """
CREATE FUNCTION crib_cribchange_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION 'append-only: a change of the crib stays in its history';
END;
$$ LANGUAGE plpgsql;
CREATE TRIGGER append_only BEFORE UPDATE OR DELETE ON crib_cribchange
    FOR EACH ROW EXECUTE FUNCTION crib_cribchange_is_append_only();
"""
DROP = """
DROP TRIGGER append_only ON crib_cribchange;
DROP FUNCTION crib_cribchange_is_append_only();
"""


class Migration(migrations.Migration):
    dependencies = [("crib", "0002_machines_heads_and_history")]
    operations = [migrations.RunSQL(MAKE, DROP)]
