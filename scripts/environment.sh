# What every froe command needs: Debian packages, builds, and a PostgreSQL of our own on loopback.
data=${FROE_DATA:-$here/.data}
tool=$here/src/Froe.Tool/bin/Release/net10.0/Froe.Tool.dll
server=$here/src/Froe.Server/bin/Release/net10.0/Froe.Server.dll
sink=$here/src/Froe.MailSink/bin/Release/net10.0/Froe.MailSink.dll
demo=$here/demo/Froe.Demo/bin/Release/net10.0/Froe.Demo.dll
pnpm() { npx --yes pnpm@10.34.9 "$@"; }

# need_packages NAME… : installs the Debian packages that are missing.
need_packages() {
  local missing=() name
  # One that was removed is still known by its settings.
  for name in "$@"; do [ "$(dpkg-query -W -f '${db:Status-Status}' "$name" 2>/dev/null)" = installed ] || missing+=("$name"); done
  [ ${#missing[@]} -gt 0 ] || return 0
  echo "Installing ${missing[*]} …"
  local sudo=(); [ "$(id -u)" -eq 0 ] || sudo=(sudo)
  "${sudo[@]}" apt-get update -qq
  DEBIAN_FRONTEND=noninteractive "${sudo[@]}" apt-get install -y -qq --no-install-recommends "${missing[@]}" >/dev/null
}

# is_built : whoever has installed and built everything a moment ago says so (FROE_BUILT); asking again takes ten seconds.
is_built() { [ -n "${FROE_BUILT:-}" ]; }

# build PROJECT [OPTION…] : quietly, unless it fails. The reader of exact models is a program in C++.
# A compiler has done its work before counting what it does most often would pay: without that it takes half the time.
build() {
  local said
  need_packages g++ libocct-data-exchange-dev libdraco-dev libmeshoptimizer-dev
  said=$(DOTNET_TieredPGO=0 dotnet build "$@" -c Release -v q --nologo -clp:ErrorsOnly 2>&1) || { printf '%s\n' "$said" >&2; return 1; }
}
build_tool() { build src/Froe.Tool >&2; }

free_port() { # the first free port from $1 on
  local port=$1
  while (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null; do port=$((port + 1)); done
  echo "$port"
}

# ---- PostgreSQL: never as root; its own data directory, a free port, passwords made here ----
pg_bin() { ls -d /usr/lib/postgresql/*/bin | sort -V | tail -n 1; }
as_pg() { if [ "$(id -u)" -eq 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi; }

# pg_start NAME [SETTING…] : a cluster under $data/NAME, or beside the postgres user's home when that user cannot reach it;
# with settings besides, as -c takes them.
pg_start() {
  pg_dir=$data/$1
  pg_settings="-h 127.0.0.1 -k '' -c max_connections=200 -c shared_buffers=256MB"
  local setting; for setting in "${@:2}"; do pg_settings+=" -c $setting"; done
  mkdir -p "$data"
  if [ "$(id -u)" -eq 0 ]; then
    if ! runuser -u postgres -- test -x "$data"; then pg_dir=/var/lib/postgresql/froe-$(printf %s "$data/$1" | sha256sum | cut -c1-12); fi
    install -d -o postgres -g postgres -m 700 "$pg_dir"
  else install -d -m 700 "$pg_dir"; fi
  secret=$data/$1.secret
  if [ ! -f "$pg_dir/PG_VERSION" ]; then
    (umask 077; head -c 18 /dev/urandom | base64 | tr '+/' 'ab' >"$secret")
    local pass; pass=$(mktemp); chmod 644 "$pass"; cat "$secret" >"$pass"
    # In order of their code points, which indexes can be asked by; but small and large letters of every script are known for one another.
    as_pg "$(pg_bin)/initdb" -D "$pg_dir" -U froe_super -A scram-sha-256 --pwfile="$pass" --locale=C --lc-ctype=C.UTF-8 -E UTF8 >/dev/null
    rm -f "$pass"
  fi
  if as_pg "$(pg_bin)/pg_ctl" -D "$pg_dir" status >/dev/null 2>&1; then pg_port=$(sed -n 4p "$pg_dir/postmaster.pid"); pg_started=0
  else
    pg_port=$(free_port "${FROE_PG_PORT:-54329}")
    as_pg "$(pg_bin)/pg_ctl" -D "$pg_dir" -w -l "$pg_dir/log" -o "-p $pg_port $pg_settings" start >/dev/null
    pg_started=1
  fi
  export PGPASSWORD; PGPASSWORD=$(cat "$secret")
}
pg_stop() { as_pg "$(pg_bin)/pg_ctl" -D "$pg_dir" -m fast stop >/dev/null 2>&1 || true; }
pg_sql() { "$(pg_bin)/psql" -h 127.0.0.1 -p "$pg_port" -U froe_super -v ON_ERROR_STOP=1 -qAt "$@"; }

# pg_database NAME : the two roles and the database; gives FROE_OWNER and FROE_DATABASE.
pg_database() {
  local pw; pw=$(printf %s "$PGPASSWORD" | sha256sum | cut -c1-32)
  pg_sql -d postgres -c "DO \$\$ BEGIN
    IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'froe_owner') THEN CREATE ROLE froe_owner LOGIN PASSWORD '$pw'; END IF;
    IF NOT EXISTS (SELECT 1 FROM pg_roles WHERE rolname = 'froe_app') THEN CREATE ROLE froe_app LOGIN PASSWORD '$pw'; END IF; END \$\$"
  [ "$(pg_sql -d postgres -c "SELECT 1 FROM pg_database WHERE datname = '$1'")" = 1 ] || pg_sql -d postgres -c "CREATE DATABASE $1 OWNER froe_owner TEMPLATE template0 ENCODING 'UTF8' LC_COLLATE 'C' LC_CTYPE 'C.UTF-8'"
  export FROE_OWNER="Host=127.0.0.1;Port=$pg_port;Database=$1;Username=froe_owner;Password=$pw"
  export FROE_DATABASE="Host=127.0.0.1;Port=$pg_port;Database=$1;Username=froe_app;Password=$pw;Maximum Pool Size=60"
}

# use_database : the database of a running `froe start` and its certificate, unless FROE_DATABASE names another.
use_database() {
  [ -z "${FROE_DATABASE:-}" ] || return 0
  [ ! -f "$data/keys.pem" ] || export Froe__KeyCertificate=${Froe__KeyCertificate:-$data/keys.pem}
  if [ -f "$data/connection" ]; then FROE_DATABASE=$(cat "$data/connection"); export FROE_DATABASE
  else echo "froe: no database is running; start one with ./froe start, or set FROE_DATABASE" >&2; exit 2; fi
}
