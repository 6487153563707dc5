# froe test: every test of every kind against real servers; and the API's TypeScript types.

# make_api_types : asks a server for its OpenAPI document and writes web/src/api/schema.d.ts from it.
make_api_types() {
  need_packages postgresql
  dotnet build src/Froe.Tool -c Release -v q --nologo
  dotnet build src/Froe.Server -c Release -v q --nologo
  pnpm install --frozen-lockfile --reporter=silent
  pg_start test; pg_database froe_types
  local port; port=$(free_port 5390)
  (cd src/Froe.Server && Froe__Database=$FROE_DATABASE exec dotnet "$server" --urls "http://127.0.0.1:$port") >"$data/types.log" 2>&1 &
  local child=$!
  for _ in $(seq 100); do curl -fs "http://127.0.0.1:$port/openapi/v1.json" >"$data/openapi.json" 2>/dev/null && break; sleep 0.2; done
  kill $child; wait $child 2>/dev/null || true
  [ "$pg_started" = 1 ] && pg_stop
  (cd tools/api-types && npx openapi-typescript "$data/openapi.json" -o "${1:-$here/web/src/api/schema.d.ts}" >/dev/null)
}
