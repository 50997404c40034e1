# Shared by ./backup and ./restore, after lib.sh: which database, and how it is saved and compared.

# find_database NAME: that of DATABASE_URL, or NAME in the cluster of ./start; sets DB_NAME and what psql reads.
find_database() {
  need_postgres
  if [ -n "${DATABASE_URL:-}" ]; then
    eval "$(python3 - <<'PY'
import os, shlex
from urllib.parse import unquote, urlsplit
url = urlsplit(os.environ["DATABASE_URL"])
for name, value in {"PGHOST": url.hostname, "PGPORT": url.port or 5432, "PGUSER": url.username and unquote(url.username),
                    "PGPASSWORD": url.password and unquote(url.password), "DB_NAME": url.path.lstrip("/")}.items():
    print(f"export {name}={shlex.quote(str(value or ''))}")
PY
)" || fail "DATABASE_URL cannot be read."
    [ -n "$DB_NAME" ] || fail "DATABASE_URL names no database."
  else
    start_cluster cluster
    export PGHOST=127.0.0.1 PGPORT="$PG_PORT" PGUSER=gyrometra PGPASSWORD="$PG_PASSWORD" DB_NAME="$1"
  fi
  in_server postgres "SELECT 1" >/dev/null || fail "the database server at $PGHOST:$PGPORT does not answer."
}

pg() { local program="$1"; shift; "$(pg_bin)/$program" "$@"; }
in_server() { pg psql -X -q -v ON_ERROR_STOP=1 -d "$1" -tAc "$2"; }
others_in() { in_server postgres "SELECT count(*) FROM pg_stat_activity WHERE datname = '$1'"; }

# counts_of DATABASE [SNAPSHOT]: each table with how many rows it has and a digest of all, now or at a snapshot.
counts_of() {
  local lines at=""
  lines="$(in_server "$1" "SELECT format('SELECT %L, count(*), md5(coalesce(string_agg(t::text, chr(10)
      ORDER BY t::text COLLATE \"C\"), '''')) FROM %I.%I t;', c.relname, n.nspname, c.relname)
    FROM pg_class c JOIN pg_namespace n ON n.oid = c.relnamespace WHERE c.relkind = 'r' AND n.nspname = 'public'
    ORDER BY c.relname COLLATE \"C\"")" || return 1
  [ -n "${2:-}" ] && at="SET TRANSACTION SNAPSHOT '$2';"
  printf 'BEGIN ISOLATION LEVEL REPEATABLE READ, READ ONLY;\n%s\n%s\nCOMMIT;\n' "$at" "$lines" \
    | pg psql -X -q -v ON_ERROR_STOP=1 -d "$1" -tA
}

# save_to FILE: dump and the digests of one moment; put in place only when all of it is whole.
save_to() {
  local file="$1" part="$1.part" snapshot fifo answer
  # one snapshot for both, so that what is written meanwhile is in neither
  fifo="$(mktemp -u)"; mkfifo "$fifo" || fail "no room for a backup."
  pg psql -X -q -v ON_ERROR_STOP=1 -d "$DB_NAME" -tA <"$fifo" >"$part.snapshot" 2>/dev/null & answer=$!
  exec 7>"$fifo"; rm -f "$fifo"
  printf 'BEGIN ISOLATION LEVEL REPEATABLE READ, READ ONLY;\nSELECT pg_export_snapshot();\n' >&7
  for _ in $(seq 1 100); do [ -s "$part.snapshot" ] && break; sleep 0.1; done
  snapshot="$(head -n 1 "$part.snapshot")"
  [ -n "$snapshot" ] || { exec 7>&-; rm -f "$part"*; fail "the database $DB_NAME is not there, or does not answer."; }
  pg pg_dump -Fc --no-owner --no-acl --snapshot="$snapshot" -f "$part" "$DB_NAME" \
    || { exec 7>&-; rm -f "$part"*; fail "the backup failed, and was taken away: is there room?"; }
  counts_of "$DB_NAME" "$snapshot" >"$part.rows" \
    || { exec 7>&-; rm -f "$part"*; fail "the rows could not be counted; the backup was taken away."; }
  exec 7>&-; wait "$answer" 2>/dev/null
  (cd "$(dirname "$part")" && sync "$(basename "$part")" && sha256sum <"$(basename "$part")") >"$part.sha256" \
    || { rm -f "$part"*; fail "the backup could not be written whole."; }
  rm -f "$part.snapshot"
  mv "$part.rows" "$file.rows" && mv "$part.sha256" "$file.sha256" && mv "$part" "$file" || fail "the backup could not be put in place."
}

tables_in() { wc -l <"$1.rows"; }

# require_whole FILE: a backup that was cut short, or changed, is not begun with.
require_whole() {
  [ -f "$1.sha256" ] && [ -f "$1.rows" ] || fail "$1 has no checksum beside it ($1.sha256, $1.rows): it is not whole."
  [ "$(sha256sum <"$1")" = "$(cat "$1.sha256")" ] || fail "$1 is not what was saved: its checksum differs."
}
