# froe start: everything a first look needs, and nothing left running after Ctrl C.
# build_all : builds what changed since the last build; a second start finds nothing to do.
build_all() {
  local stamp=$data/built changed=yes
  mkdir -p "$data"
  if [ -f "$stamp" ] && [ -f "$server" ] && [ -f web/dist/index.html ]; then
    changed=$(find src demo web/src web/public web/index.html pnpm-lock.yaml Directory.Packages.props -newer "$stamp" -type f -not -path '*/obj/*' -not -path '*/bin/*' -print -quit)
  fi
  [ -n "$changed" ] || return 0
  echo "Building …"
  local project
  for project in src/Froe.Tool src/Froe.MailSink demo/Froe.Demo; do dotnet build "$project" -c Release -v q --nologo -clp:ErrorsOnly; done
  pnpm install --frozen-lockfile --reporter=silent
  (cd web && npx vite build --logLevel error)
  : >"$stamp"
}

# stop_froe : ends what this start began, and nothing else.
stop_froe() {
  local code=$? child
  trap - EXIT INT TERM
  for child in "${children[@]}"; do kill "$child" 2>/dev/null || true; done
  wait 2>/dev/null || true
  rm -f "$data/connection"
  [ "${pg_started:-0}" != 1 ] || pg_stop
  exit $code
}

# make_key_certificate FILE : what encrypts the keys of sessions in the database; readable by whoever runs the server alone.
make_key_certificate() {
  (umask 077; openssl req -x509 -newkey rsa:3072 -noenc -days 10950 -subj /CN=froe -keyout "$1.key" -out "$1.crt" 2>/dev/null && cat "$1.crt" "$1.key" >"$1.new")
  rm -f "$1.key" "$1.crt"
  mv "$1.new" "$1"
}

start_froe() {
  local fresh=0
  for word in "$@"; do case $word in --fresh) fresh=1 ;; *) echo "froe start: there is no option $word" >&2; exit 2 ;; esac; done
  need_packages postgresql fonts-dejavu-core tzdata openssl
  build_all
  children=()
  trap stop_froe EXIT
  trap 'exit 0' INT TERM
  if [ -n "${FROE_DATABASE:-}" ]; then
    export FROE_OWNER=${FROE_OWNER:-$FROE_DATABASE}
  else
    pg_start database
    [ $fresh = 0 ] || PGOPTIONS="-c client_min_messages=error" pg_sql -d postgres -c "DROP DATABASE IF EXISTS froe WITH (FORCE)"
    pg_database froe
    # Servers of a database of somebody else's share a certificate of theirs; this one's own is made here.
    export Froe__KeyCertificate=${Froe__KeyCertificate:-$data/keys.pem}
    [ -f "$Froe__KeyCertificate" ] || make_key_certificate "$Froe__KeyCertificate"
  fi
  dotnet "$tool" migrate "$FROE_OWNER"
  export Froe__Database=$FROE_DATABASE Froe__Web=$here/web/dist Froe__Reader=$tool Froe__Demo=${Froe__Demo:-true}
  (umask 077; printf %s "$FROE_DATABASE" >"$data/connection")
  dotnet "$demo" load demo/drawings
  local port smtp page
  port=$(free_port "${FROE_PORT:-5173}"); smtp=$(free_port 2525); page=$(free_port 5180)
  [ $fresh = 0 ] || rm -rf "$data/mail"
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
