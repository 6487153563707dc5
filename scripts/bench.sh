# froe bench: figures as ratios against peers, side by side in one run.
bench_froe() {
  need_packages postgresql chromium
  # An independent renderer of DXF, for the bench of ink.
  case " ${*:-ink} " in *" ink "*) need_packages python3-ezdxf python3-matplotlib ;; esac
  . scripts/start.sh
  case "${1:-}" in --list) dotnet build bench/Froe.Bench -c Release -v q --nologo -clp:ErrorsOnly >&2; exec dotnet bench/Froe.Bench/bin/Release/net10.0/Froe.Bench.dll --list ;; esac
  build_all
  build bench/Froe.Bench
  pg_start bench
  trap '[ "${pg_started:-0}" != 1 ] || pg_stop' EXIT
  # A second database, for what is measured with much in it against the same with little.
  local name
  for name in froe_bench_large froe_bench; do
    PGOPTIONS="-c client_min_messages=error" pg_sql -d postgres -c "DROP DATABASE IF EXISTS $name WITH (FORCE)"
    pg_database "$name"
    dotnet "$tool" migrate
    [ "$name" = froe_bench ] || export FROE_DATABASE_LARGE=$FROE_DATABASE FROE_OWNER_LARGE=$FROE_OWNER
  done
  mkdir -p "$data/bench"
  FROE_ROOT=$here FROE_BENCH=$data/bench FROE_TOOL=$tool FROE_SERVER=$server FROE_DEMO=$demo FROE_PGBENCH=$(pg_bin)/pgbench \
    dotnet bench/Froe.Bench/bin/Release/net10.0/Froe.Bench.dll "$@"
}
