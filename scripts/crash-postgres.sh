#!/usr/bin/env bash
# Kills the tests' PostgreSQL with everything it runs, without warning, and starts it again. For the crash tests only.
set -euo pipefail
dir=$FROE_PG_DIR bin=$FROE_PG_BIN
as_pg() { if [ "$(id -u)" -eq 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi; }
main=$(as_pg head -n 1 "$dir/postmaster.pid")
port=$(as_pg sed -n 4p "$dir/postmaster.pid")
kill -9 $(pgrep -P "$main") "$main" 2>/dev/null || true
while pgrep -P "$main" >/dev/null || kill -0 "$main" 2>/dev/null; do sleep 0.05; done
for _ in $(seq 20); do
  as_pg "$bin/pg_ctl" -D "$dir" -w -l "$dir/log" -o "-p $port $FROE_PG_SETTINGS" start >/dev/null 2>&1 && exit 0
  sleep 0.2
done
echo "PostgreSQL did not start again" >&2
exit 1
