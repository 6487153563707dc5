# froe start: everything a first look needs, and nothing left running after Ctrl C.
build_all() {
  local stamp=$data/built now
  mkdir -p "$data"
  now=$(git -C "$here" rev-parse HEAD 2>/dev/null; find src demo web/src web/index.html web/package.json pnpm-lock.yaml -newer "$stamp" -type f -not -path '*/obj/*' -not -path '*/bin/*' 2>/dev/null | head -n 1)
  if [ -f "$stamp" ] && [ "$now" = "$(cat "$stamp")" ] && [ -f "$server" ] && [ -f web/dist/index.html ]; then return; fi
  echo "Building …"
  for project in src/Froe.Tool src/Froe.MailSink demo/Froe.Demo; do dotnet build "$project" -c Release -v q --nologo; done
  pnpm install --frozen-lockfile --reporter=silent
  (cd web && pnpm run --silent build)
  git -C "$here" rev-parse HEAD >"$stamp" 2>/dev/null || : >"$stamp"
}

start_froe() {
  local fresh=0
  for word in "$@"; do case $word in --fresh) fresh=1 ;; *) echo "froe start: there is no option $word" >&2; exit 2 ;; esac; done
  need_packages postgresql fonts-dejavu-core tzdata
  build_all
  children=()
  trap 'trap - EXIT INT TERM; for c in "${children[@]}"; do kill "$c" 2>/dev/null || true; done; wait 2>/dev/null || true; rm -f "$data/database"; [ "${pg_started:-0}" = 1 ] && pg_stop; exit 0' EXIT INT TERM
  if [ -n "${FROE_DATABASE:-}" ]; then
    export FROE_OWNER=${FROE_OWNER:-$FROE_DATABASE}
  else
    pg_start database
    [ $fresh = 1 ] && pg_sql -d postgres -c "DROP DATABASE IF EXISTS froe WITH (FORCE)"
    pg_database froe
  fi
  dotnet "$tool" migrate "$FROE_OWNER"
  export Froe__Database=$FROE_DATABASE Froe__Web=$here/web/dist Froe__Reader=$tool Froe__Demo=${Froe__Demo:-true}
  (umask 077; printf %s "$FROE_DATABASE" >"$data/database")
  dotnet "$demo" load demo/drawings
  local port smtp page
  port=$(free_port "${FROE_PORT:-5173}"); smtp=$(free_port 2525); page=$(free_port 5180)
  [ $fresh = 1 ] && rm -rf "$data/mail"
  mkdir -p "$data/mail"
  dotnet "$sink" --smtp "$smtp" --folder "$data/mail" --urls "http://127.0.0.1:$page" >"$data/mail.log" 2>&1 &
  children+=($!)
  export Froe__MailHost=${Froe__MailHost:-127.0.0.1} Froe__MailPort=${Froe__MailPort:-$smtp} Froe__Address=${Froe__Address:-http://127.0.0.1:$port}
  (cd src/Froe.Server && exec dotnet "$server" --urls "http://127.0.0.1:$port") >"$data/server.log" 2>&1 &
  children+=($!)
  for _ in $(seq 100); do curl -fs "http://127.0.0.1:$port/health" >/dev/null 2>&1 && break; kill -0 "${children[1]}" 2>/dev/null || { tail -n 20 "$data/server.log" >&2; exit 1; }; sleep 0.2; done
  echo
  echo "  Froe is at         http://127.0.0.1:$port"
  echo "  Its mail ends at   http://127.0.0.1:$page"
  echo "  Logs are in        ${data#"$here"/}/server.log   (Ctrl C stops everything)"
  echo
  wait "${children[1]}"
}
