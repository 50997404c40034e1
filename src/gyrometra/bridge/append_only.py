"""Triggers by which the database itself guards logs and signed jobs; for migrations.

Grants keep the application from it as well (`bridge.grants`); the triggers hold for whoever owns the tables too.
"""

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


def refuse_truncate(table: str) -> migrations.RunSQL:
    """No log is emptied at a stroke; the table's own trigger function says why."""
    made = f"""
CREATE TRIGGER never_emptied BEFORE TRUNCATE ON {table}
    FOR EACH STATEMENT EXECUTE FUNCTION {table}_is_append_only();
"""
    return migrations.RunSQL(made, f"DROP TRIGGER never_emptied ON {table};")


SIGNED_GUARD = migrations.RunSQL(
    """
CREATE FUNCTION refuse_if_signed() RETURNS trigger AS $$
DECLARE
    job bigint;
BEGIN
    -- a row that is moved leaves one job and comes into another: neither may be signed
    IF TG_OP <> 'INSERT' THEN
        EXECUTE TG_ARGV[0] INTO job USING OLD;
        IF EXISTS (SELECT 1 FROM jobs_signoff WHERE job_id = job) THEN
            RAISE EXCEPTION 'the job is signed: nothing of it changes';
        END IF;
    END IF;
    IF TG_OP <> 'DELETE' THEN
        EXECUTE TG_ARGV[0] INTO job USING NEW;
        IF EXISTS (SELECT 1 FROM jobs_signoff WHERE job_id = job) THEN
            RAISE EXCEPTION 'the job is signed: nothing of it changes';
        END IF;
        RETURN NEW;
    END IF;
    RETURN OLD;
END;
$$ LANGUAGE plpgsql;
""",
    "DROP FUNCTION refuse_if_signed();",
)
#: How the job of a row is found: `($1)` is the row.
OF_JOB = "SELECT ($1).job_id"
OF_SETUP = "SELECT job_id FROM jobs_setup WHERE id = ($1).setup_id"
OF_BORE = "SELECT s.job_id FROM jobs_bore b JOIN jobs_setup s ON s.id = b.setup_id WHERE b.id = ($1).bore_id"
OF_ROUND = "SELECT s.job_id FROM truing_round r JOIN jobs_setup s ON s.id = r.setup_id WHERE r.id = ($1).round_id"


def guard_signed(table: str, of: str) -> migrations.RunSQL:
    """Nothing is put in, changed or taken out of a table for a job that is signed; `of` finds the job of a row."""
    made = f"""
CREATE TRIGGER of_signed_job BEFORE INSERT OR UPDATE OR DELETE ON {table}
    FOR EACH ROW EXECUTE FUNCTION refuse_if_signed('{of}');
"""
    return migrations.RunSQL(made, f"DROP TRIGGER of_signed_job ON {table};")


#: Of a signed job only what is worked out of it anew may be written.
_SIGNED_STAYS = """
CREATE OR REPLACE FUNCTION signed_job_stays() RETURNS trigger AS $$
DECLARE
    worked_out text[] := ARRAY[{columns}];
BEGIN
    IF EXISTS (SELECT 1 FROM jobs_signoff WHERE job_id = OLD.id)
       AND (TG_OP = 'DELETE' OR to_jsonb(NEW) - worked_out IS DISTINCT FROM to_jsonb(OLD) - worked_out) THEN
        RAISE EXCEPTION 'the job is signed: nothing of it changes';
    END IF;
    RETURN CASE TG_OP WHEN 'DELETE' THEN OLD ELSE NEW END;
END;
$$ LANGUAGE plpgsql;
"""


def signed_job_stays(*worked_out: str) -> str:
    """The function behind the trigger, with the columns that are worked out anew."""
    return _SIGNED_STAYS.format(columns=", ".join(f"'{name}'" for name in worked_out))


SIGNED_JOB = migrations.RunSQL(
    signed_job_stays("stations", "piece_summaries", "stale")
    + """
CREATE TRIGGER signed_stays BEFORE UPDATE OR DELETE ON jobs_job
    FOR EACH ROW EXECUTE FUNCTION signed_job_stays();
""",
    "DROP TRIGGER signed_stays ON jobs_job;\nDROP FUNCTION signed_job_stays();",
)

#: A signature goes only once it stands, whole as it was, among the past ones with a reason.
SIGNATURE_MOVES = migrations.RunSQL(
    """
CREATE OR REPLACE FUNCTION jobs_signoff_is_append_only() RETURNS trigger AS $$
BEGIN
    IF TG_OP = 'DELETE' THEN
        IF EXISTS (
            SELECT 1 FROM jobs_pastsignoff p
            WHERE p.job_id = OLD.job_id AND p.by_id = OLD.by_id AND p.at = OLD.at AND p.verdict = OLD.verdict
              AND p.record IS NOT DISTINCT FROM OLD.record AND p.calculations = OLD.calculations AND p.reason <> ''
        ) THEN
            RETURN OLD;
        END IF;
    END IF;
    RAISE EXCEPTION 'append-only: a signature is taken back with a reason, and kept';
END;
$$ LANGUAGE plpgsql;
""",
    f"""
CREATE OR REPLACE FUNCTION jobs_signoff_is_append_only() RETURNS trigger AS $$
BEGIN
    RAISE EXCEPTION '{STAYS}';
END;
$$ LANGUAGE plpgsql;
""",
)
