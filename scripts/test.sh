# froe test: every test of every kind against real servers; and the API's TypeScript types.

# make_api_types : asks a server for its OpenAPI document and writes web/src/api/schema.d.ts from it.
make_api_types() {
  need_packages postgresql
  is_built || { pnpm install --frozen-lockfile --reporter=silent; build src/Froe.Tool; build src/Froe.Server; }
  pg_start test; pg_database froe_types
  local port; port=$(free_port 5390)
  (cd src/Froe.Server && Froe__Database=$FROE_DATABASE exec dotnet "$server" --urls "http://127.0.0.1:$port") >"$data/types.log" 2>&1 &
  local child=$!
  for _ in $(seq 100); do curl -fs "http://127.0.0.1:$port/openapi/v1.json" >"$data/openapi.json" 2>/dev/null && break; sleep 0.2; done
  kill $child; wait $child 2>/dev/null || true
  [ "$pg_started" = 1 ] && pg_stop
  (cd tools/api-types && npx openapi-typescript "$data/openapi.json" -o "${1:-$here/web/src/api/schema.d.ts}" >/dev/null)
}

# test_database NAME : an empty database of the test cluster.
test_database() {
  PGOPTIONS="-c client_min_messages=error" pg_sql -d postgres -c "DROP DATABASE IF EXISTS $1 WITH (FORCE)"
  pg_database "$1"
}

# test_froe [--long] [SUITE…] : xUnit, node and Playwright (all, or the suites named), then one line with the sums.
test_froe() {
  [ "${1:-}" != --long ] || { export FROE_LONG=1; shift; }
  need_packages postgresql chromium-headless-shell fonts-dejavu-core tzdata procps librsvg2-bin qpdf poppler-utils
  # Nothing here runs for so long that counting what it does most often would pay: a sixth of the time goes with it.
  export DOTNET_TieredPGO=0
  . scripts/start.sh
  mkdir -p "$data"
  is_built || { timed "packages of the pages" pnpm install --frozen-lockfile --reporter=silent; timed "the solution" build Froe.slnx; }
  timed "the page engine" dotnet "$tool" ready
  timed "the pages" build_pages
  # What tests write must outlive a PostgreSQL that is killed, not a machine that loses power.
  pg_start test fsync=off full_page_writes=off
  trap '[ "${pg_started:-0}" != 1 ] || pg_stop' EXIT
  export FROE_PG_DIR=$pg_dir FROE_PG_SETTINGS=$pg_settings FROE_PG_BIN; FROE_PG_BIN=$(pg_bin)
  # Databases of earlier programs are restored, and those of browser workers copied, into databases of their own.
  export FROE_SUPER="Host=127.0.0.1;Port=$pg_port;Database=postgres;Username=froe_super;Password=$PGPASSWORD"
  export FROE_CRASH_POSTGRES=$here/scripts/crash-postgres.sh
  passed=0; failed=0; : >"$data/failures.log"
  suites=" ${*:-Core Formats Server pages browser} "
  # What needs no server runs beside what does.
  (wanted Core && test_project Core; wanted Formats && test_project Formats; wanted pages && test_pages; true) >"$data/beside.log" 2>&1 &
  local beside=$!
  if wanted Server; then test_database froe_test; test_project Server; fi
  wait $beside || true
  cat "$data/beside.log"
  local suite
  for suite in Core Formats Server; do wanted $suite && count_project $suite; done
  wanted pages && count_pages
  if wanted browser; then test_browser; fi
  [ ! -s "$data/failures.log" ] || { echo "== failed"; cut -c1-4000 "$data/failures.log"; }
  echo "$passed passed, $failed failed"
  [ "$failed" -eq 0 ]
}

wanted() { case $suites in *" $1 "*) ;; *) return 1 ;; esac; }

# test_project NAME : runs an xUnit project; what it says stands in a log of its own besides. What hangs is named, and ended:
# a project that is stopped has no closing line and counts as failed.
test_project() {
  echo "== $1"
  local minutes=30; [ -z "${FROE_LONG:-}" ] || minutes=240
  timeout -k 20 "${minutes}m" dotnet "tests/Froe.$1.Tests/bin/Release/net10.0/Froe.$1.Tests.dll" -noColor -longRunning 120 2>&1 | tee "$data/tests-$1.log" || true
}

# count_project NAME : adds its results; what failed is said again at the end, where whoever reads a long log looks first.
count_project() {
  grep -v '^{"Timestamp"' "$data/tests-$1.log" | grep -A 25 '\[FAIL\]' >>"$data/failures.log" || true
  add_results "$(grep -oE 'Total: [0-9]+, Errors: [0-9]+, Failed: [0-9]+, Skipped: [0-9]+' "$data/tests-$1.log" | tail -n 1)" "$1"
}

# test_pages : the pages' own TypeScript without a browser.
test_pages() {
  echo "== pages"
  (cd tests/pages && node --import tsx --test --test-reporter=spec *.test.ts) >"$data/tests-pages.log" 2>&1 || true
  cat "$data/tests-pages.log"
}

count_pages() {
  local ok bad
  ok=$(sed -nE 's/^ℹ pass ([0-9]+)$/\1/p' "$data/tests-pages.log"); bad=$(sed -nE 's/^ℹ fail ([0-9]+)$/\1/p' "$data/tests-pages.log")
  if [ "${ok:-0}" -eq 0 ] && [ "${bad:-0}" -eq 0 ]; then echo "the pages ran no test"; bad=1; fi
  [ "${bad:-0}" -eq 0 ] || sed -n '/failing tests:/,$p' "$data/tests-pages.log" >>"$data/failures.log"
  passed=$((passed + ${ok:-0})); failed=$((failed + ${bad:-0}))
}

test_browser() {
  echo "== browser"
  # The database that each worker's is copied from.
  test_database froe_browser
  dotnet "$tool" migrate
  Froe__Database=$FROE_DATABASE Froe__Reader=$tool Froe__PasswordRounds=1000 dotnet "$demo" load demo/drawings
  (cd tests/browser && FROE_SERVER=$server FROE_SINK=$sink FROE_TOOL=$tool FROE_ROOT=$here npx playwright test) 2>&1 | tee "$data/tests.log" || true
  # What the page showed when a test failed: nobody may be there to open the trace.
  find tests/browser/test-results -name error-context.md -exec head -n 150 {} + 2>/dev/null >>"$data/failures.log" || true
  grep -A 25 -E '^  [0-9]+\) ' "$data/tests.log" >>"$data/failures.log" || true
  add_browser_results
}

# add_results LINE NAME : adds an xUnit closing line; a runner that ran nothing counts as a failure.
add_results() {
  local total errors bad
  read -r total errors bad <<<"$(sed -E 's/Total: ([0-9]+), Errors: ([0-9]+), Failed: ([0-9]+).*/\1 \2 \3/' <<<"$1")"
  if [ -z "$total" ] || [ "$total" -eq 0 ]; then echo "$2 ran no test"; failed=$((failed + 1)); return; fi
  failed=$((failed + bad + errors)); passed=$((passed + total - bad))
}

add_browser_results() {
  local ok bad
  ok=$(grep -oE '^ +[0-9]+ passed' "$data/tests.log" | grep -oE '[0-9]+' | tail -n 1 || true)
  bad=$(grep -oE '^ +[0-9]+ (failed|did not run|interrupted|flaky)' "$data/tests.log" | grep -oE '[0-9]+' | awk '{ n += $1 } END { if (NR) print n }' || true)
  [ -n "$ok$bad" ] || { echo "the browser tests ran no test"; bad=1; }
  passed=$((passed + ${ok:-0})); failed=$((failed + ${bad:-0}))
}
