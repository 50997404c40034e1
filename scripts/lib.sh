# Shared by ./start and ./check: packages, Python environment, and a database cluster of our own.
# Sourced, not run. Everything it makes lies under .venv/ and var/.

say() { printf '%s\n' "$*"; }
fail() { printf 'gyrometra: %s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null 2>&1; then sudo "$@"
  else fail "this needs root or sudo to install: $*"
  fi
}

# apt_need COMMAND_OR_PATH PACKAGE...: install the packages only when the command is missing.
apt_need() {
  local wanted="$1"; shift
  if command -v "$wanted" >/dev/null 2>&1 || [ -x "$wanted" ]; then return 0; fi
  say "Installing $* ..."
  export DEBIAN_FRONTEND=noninteractive
  as_root apt-get update -q >/dev/null || fail "the package lists could not be read; is there a network?"
  as_root apt-get install -y -q "$@" >/dev/null || fail "installing $* failed; see the lines above."
}

need_python() {
  apt_need python3 python3
  python3 -c 'import sys; sys.exit(sys.version_info < (3, 11))' || fail "Python 3.11 or newer is needed."
  python3 -c 'import ensurepip, venv' 2>/dev/null || apt_need /nonexistent/venv python3-venv
}

# need_venv REQUIREMENTS: make .venv and install, only when the pinned files have changed.
need_venv() {
  local wanted stamp=".venv/.installed-${1%.txt}"
  wanted="$(cat requirements*.txt constraints.txt | sha256sum)"
  [ -x .venv/bin/python ] && point_here
  if [ -x .venv/bin/python ] && [ -f "$stamp" ] && [ "$(cat "$stamp")" = "$wanted" ]; then return 0; fi
  need_python
  [ -x .venv/bin/python ] || python3 -m venv .venv || fail "the Python environment .venv could not be made."
  say "Installing the Python packages ..."
  .venv/bin/python -m pip install -q --disable-pip-version-check -r "$1" -c constraints.txt \
    || fail "the Python packages could not be installed; is there a network?"
  point_here
  printf '%s' "$wanted" >"$stamp"
}

# point_here: the packages of this folder's src are used, also where the folder was moved or copied.
point_here() {
  .venv/bin/python - <<'PY'
import pathlib, sysconfig
target = pathlib.Path(sysconfig.get_paths()["purelib"], "gyrometra.pth")
target.write_text(str(pathlib.Path("src").resolve()) + "\n")
PY
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

need_postgres() {
  [ -n "$(pg_bin)" ] || apt_need /nonexistent/initdb postgresql
  [ -n "$(pg_bin)" ] || fail "PostgreSQL was installed but its programs were not found."
}

# Run as an unprivileged user: PostgreSQL refuses to run as root.
as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

free_port() {
  python3 -c 'import socket; s = socket.socket(); s.bind(("127.0.0.1", 0)); print(s.getsockname()[1])'
}

#: Room on the disk of the database [MB]: with less it cannot start, with less it is said.
PG_ROOM_MB="${PG_ROOM_MB:-40}"; PG_LOW_MB="${PG_LOW_MB:-300}"

# start_cluster NAME [OPTIONS]: start (first: make) the cluster, set PG_DATA, PG_PORT, PG_PASSWORD.
start_cluster() {
  local name="$1" options="${2:-}" bin log
  bin="$(pg_bin)"
  umask 022
  mkdir -p var || fail "var/ cannot be written; is this folder yours?"
  PG_HOME="$PWD/var/$name"
  mkdir -p "$PG_HOME" || fail "$PG_HOME cannot be written."
  if [ "$(id -u)" = 0 ]; then
    id postgres >/dev/null 2>&1 || fail "the user postgres is missing; reinstall PostgreSQL."
    if ! runuser -u postgres -- test -x "$PG_HOME"; then
      PG_HOME="$(outside_home "$name")"
    fi
    chown postgres: "$PG_HOME"
  fi
  PG_DATA="$PG_HOME/data"; log="$PG_HOME/server.log"
  local lost=no; [ -d "$PG_DATA" ] && [ ! -s "$PG_HOME/password" ] && lost=yes
  [ -s "$PG_HOME/password" ] || (umask 077; python3 -c 'import secrets; print(secrets.token_urlsafe(24))' >"$PG_HOME/password")
  [ "$(id -u)" = 0 ] && chown postgres: "$PG_HOME/password"
  PG_PASSWORD="$(cat "$PG_HOME/password")"
  if [ -d "$PG_DATA" ] && [ ! -f "$PG_DATA/PG_VERSION" ]; then
    fail "the database cluster in $PG_DATA is broken or half made. Move that folder aside and start again."
  fi
  if [ ! -d "$PG_DATA" ]; then
    as_pg "$bin/initdb" -D "$PG_DATA" -U gyrometra -E UTF8 --locale=C.UTF-8 -A scram-sha-256 \
      --pwfile="$PG_HOME/password" >"$PG_HOME.init.log" 2>&1 \
      || fail "the database cluster could not be made; see $PG_HOME.init.log"
  fi
  [ "$lost" = yes ] && new_password
  if cluster_runs; then
    PG_PORT="$(sed -n 4p "$PG_DATA/postmaster.pid")"; PG_STARTED=no
    return 0
  fi
  PG_PORT="$(free_port)"; PG_STARTED=yes; PG_OPTIONS="$options"
  restart_cluster || fail "the database in $PG_DATA does not start. Last line of its log: $(tail -n 1 "$log" 2>/dev/null)"
}

# cluster_runs: the process that postmaster.pid names lives and works in this very folder, wherever it was moved to;
# a number that another program has by now is no database.
cluster_runs() {
  local pid
  pid="$(sed -n 1p "$PG_DATA/postmaster.pid" 2>/dev/null)" && [ -n "$pid" ] || return 1
  [ "$(readlink "/proc/$pid/cwd" 2>/dev/null)" = "$(readlink -f "$PG_DATA")" ]
}

# outside_home NAME: where the database lies when the user postgres cannot come into this folder. A folder that was
# moved keeps its database; a copy of a folder that is still there gets one of its own.
outside_home() {
  local note="$PWD/var/$1.home" home owner
  home="$(cat "$note" 2>/dev/null)"; owner="$(cat "$home/of" 2>/dev/null)"
  if [ -z "$home" ] || [ ! -d "$home" ] || { [ "$owner" != "$PWD" ] && [ -f "$owner/var/$1.home" ]; }; then
    home="/var/tmp/gyrometra-$(printf %s "$PWD" | sha256sum | cut -c1-12)-$1"
    [ -d "$home" ] && [ "$(cat "$home/of" 2>/dev/null)" != "$PWD" ] && home="$(mktemp -u "$home-XXXXXX")"
  fi
  mkdir -p "$home" && printf %s "$PWD" >"$home/of" && printf %s "$home" >"$note"
  printf %s "$home"
}

# new_password: the file with the owner's password is lost; the cluster is told another while nothing else is in it.
new_password() {
  cluster_runs && as_pg "$(pg_bin)/pg_ctl" -D "$PG_DATA" -m fast -w stop >/dev/null 2>&1
  printf "ALTER ROLE gyrometra PASSWORD '%s'\n" "$PG_PASSWORD" \
    | as_pg "$(pg_bin)/postgres" --single -D "$PG_DATA" postgres >/dev/null 2>&1 \
    || fail "the database's password file is lost and no other could be set."
}

# restart_cluster: start it on its port; a pid file whose process is another one, or dead, is taken away first.
restart_cluster() {
  cluster_runs || as_pg rm -f "$PG_DATA/postmaster.pid"
  as_pg "$(pg_bin)/pg_ctl" -D "$PG_DATA" -l "$PG_HOME/server.log" -w -t 60 -o \
    "-p $PG_PORT -c listen_addresses=127.0.0.1 -c unix_socket_directories= ${PG_OPTIONS:-}" start >/dev/null 2>&1
}

room_mb() { df --output=avail -B 1M "$PG_DATA" 2>/dev/null | tail -n 1 | tr -d ' '; }

# watch_both PID: until the server ends. A database that died is started again; what does not come up ends the rest
# with a sentence, but for a full disk: that is said, and it is tried until somebody has made room.
watch_both() {
  local told=no
  while kill -0 "$1" 2>/dev/null; do
    if [ -n "${PG_DATA:-}" ] && ! cluster_runs; then
      [ "$told" = full ] || say "The database has stopped; it is started again."
      if restart_cluster; then told=no
      elif [ "$(room_mb)" -ge "$PG_ROOM_MB" ]; then
        fail "the database in $PG_DATA does not come up again. Last line of its log: $(tail -n 1 "$PG_HOME/server.log")"
      elif [ "$told" != full ]; then
        told=full
        say "The disk of $PG_DATA is full: nothing is stored until there is room, and it is tried every few seconds."
      fi
    elif [ -n "${PG_DATA:-}" ] && [ "$told" = no ] && [ "$(room_mb)" -lt "$PG_LOW_MB" ]; then
      told=low
      say "Only $(room_mb) MB are left on the disk of $PG_DATA. Make room."
    fi
    sleep 1 & wait $!
  done
}

stop_cluster() {
  if [ "${PG_STARTED:-no}" = yes ]; then
    as_pg "$(pg_bin)/pg_ctl" -D "$PG_DATA" -m fast -w stop >/dev/null 2>&1
    PG_STARTED=no
  fi
  return 0
}

# need_database NAME: make it when it is not there.
need_database() {
  PGPASSWORD="$PG_PASSWORD" "$(pg_bin)/psql" -h 127.0.0.1 -p "$PG_PORT" -U gyrometra -d postgres -tAc \
    "SELECT 1 FROM pg_database WHERE datname = '$1'" 2>/dev/null | grep -q 1 \
    || PGPASSWORD="$PG_PASSWORD" "$(pg_bin)/createdb" -h 127.0.0.1 -p "$PG_PORT" -U gyrometra "$1" \
    || fail "the database $1 could not be made."
}

# need_app_role: the role that the application signs in as; it owns nothing (see gyrometra.bridge.grants).
need_app_role() {
  local file="$PG_HOME/app-password"
  [ -f "$file" ] || (umask 077; python3 -c 'import secrets; print(secrets.token_urlsafe(24))' >"$file")
  PG_APP_PASSWORD="$(cat "$file")"
  PGPASSWORD="$PG_PASSWORD" "$(pg_bin)/psql" -q -v ON_ERROR_STOP=1 -h 127.0.0.1 -p "$PG_PORT" -U gyrometra -d postgres \
    >/dev/null 2>&1 <<SQL || fail "the application's database role could not be made."
DO \$\$ BEGIN
  IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'gyrometra_app') THEN CREATE ROLE gyrometra_app LOGIN; END IF;
END \$\$;
ALTER ROLE gyrometra_app LOGIN NOSUPERUSER NOCREATEDB NOCREATEROLE NOREPLICATION NOBYPASSRLS PASSWORD '$PG_APP_PASSWORD';
SQL
}

app_database_url() { printf 'postgres://gyrometra_app:%s@127.0.0.1:%s/%s' "$PG_APP_PASSWORD" "$PG_PORT" "$1"; }

# role_of URL: the name that an address signs in as.
role_of() { python3 -c 'import sys; from urllib.parse import unquote, urlsplit; print(unquote(urlsplit(sys.argv[1]).username or ""))' "$1"; }

# want_pango: what sets type on paper; without it all but the PDF of the sheet works.
want_pango() {
  ls /usr/lib/*/libpangoft2-1.0.so.0 /usr/lib/libpangoft2-1.0.so.0 2>/dev/null | grep -q . && return 0
  (apt_need /nonexistent/pango libpango-1.0-0 libpangoft2-1.0-0 libharfbuzz-subset0) \
    || say "Without Pango the set-up sheet has no PDF; all else works."
}

# drop_database NAME: take it away, whoever is in it.
drop_database() {
  PGPASSWORD="$PG_PASSWORD" "$(pg_bin)/dropdb" --if-exists --force -h 127.0.0.1 -p "$PG_PORT" -U gyrometra "$1" \
    || fail "the database $1 could not be dropped."
}

database_url() { printf 'postgres://gyrometra:%s@127.0.0.1:%s/%s' "$PG_PASSWORD" "$PG_PORT" "$1"; }
