# froe start: everything a first look needs, and nothing left running after Ctrl C.
# build_all : builds what changed since the last build; a second start finds nothing to do.
build_all() {
  local stamp=$data/built changed=yes
  mkdir -p "$data"
  if [ -f "$stamp" ] && [ -f "$server" ] && [ -f web/dist/index.html ]; then
    changed=$(find src demo web/src web/public web/index.html web/*.ts pnpm-lock.yaml Directory.Packages.props -newer "$stamp" -type f -not -path '*/obj/*' -not -path '*/bin/*' -print -quit)
  fi
  [ -n "$changed" ] || return 0
  echo "Building …"
  # The page engine of the pages is the reader's too, so their packages come first.
  timed "packages of the pages" pnpm install --frozen-lockfile --reporter=silent
  timed "the command line" build src/Froe.Tool
  timed "the page engine" dotnet "$tool" ready
  timed "the mail stand-in" build src/Froe.MailSink
  timed "the server and its demo" build demo/Froe.Demo
  timed "the pages" build_pages
  : >"$stamp"
}
build_pages() { (cd web && npx --loglevel=error vite build --logLevel error); }

# timed WORDS COMMAND… : runs a command and says in one line what it was and how long it took.
timed() {
  local words=$1 began=$SECONDS; shift
  "$@"
  printf '  %-26s %4s s\n' "$words" "$((SECONDS - began))"
}

# ---- never as root: the server, and the reader of other people's files, run as a user of their own ----
# own_user : as_froe becomes what starts a program as that user; nothing when we are nobody special.
own_user() {
  as_froe=()
  [ "$(id -u)" -eq 0 ] || return 0
  id froe >/dev/null 2>&1 || useradd --system --home-dir /var/lib/froe --create-home --shell /usr/sbin/nologin froe
  local try=(env HOME=/var/lib/froe DOTNET_CLI_HOME=/var/lib/froe setpriv --reuid froe --regid froe --init-groups --)
  if ! "${try[@]}" dotnet --version >/dev/null 2>&1 || ! "${try[@]}" test -r "$server" -a -r "$here/demo/drawings" -a -r "$here/web/dist/index.html" -a -x "$data"; then
    echo "The user froe cannot reach $here, so Froe runs as root. Put it where others may read, /opt/froe for one." >&2
    return 0
  fi
  as_froe=("${try[@]}")
}
own() { [ ${#as_froe[@]} -eq 0 ] || chown froe "$@"; }

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
  local fresh=0 with_demo=0
  for word in "$@"; do case $word in --fresh) fresh=1 ;; --demo) with_demo=1 ;; *) echo "froe start: there is no option $word" >&2; exit 2 ;; esac; done
  need_packages postgresql fonts-dejavu-core tzdata openssl librsvg2-bin
  build_all
  children=()
  trap stop_froe EXIT
  trap 'exit 0' INT TERM
  if [ -n "${FROE_DATABASE:-}" ]; then
    # Somebody's own: nobody of the demo, whose passwords everybody knows, is put into it unless they ask for that.
    export FROE_OWNER=${FROE_OWNER:-$FROE_DATABASE}
  else
    with_demo=1
    pg_start database
    [ $fresh = 0 ] || PGOPTIONS="-c client_min_messages=error" pg_sql -d postgres -c "DROP DATABASE IF EXISTS froe WITH (FORCE)"
    pg_database froe
    # Servers of a database of somebody else's share a certificate of theirs; this one's own is made here.
    export Froe__KeyCertificate=${Froe__KeyCertificate:-$data/keys.pem}
    [ -f "$Froe__KeyCertificate" ] || make_key_certificate "$Froe__KeyCertificate"
  fi
  own_user
  [ ! -f "${Froe__KeyCertificate:-}" ] || own "$Froe__KeyCertificate"
  dotnet "$tool" migrate
  export Froe__Database=$FROE_DATABASE Froe__Web=$here/web/dist Froe__Reader=$tool
  (umask 077; printf %s "$FROE_DATABASE" >"$data/connection")
  if [ $with_demo = 1 ]; then
    export Froe__Demo=${Froe__Demo:-true}
    "${as_froe[@]}" dotnet "$demo" load "$here/demo/drawings"
  fi
  local port smtp page
  port=$(free_port "${FROE_PORT:-5173}"); smtp=$(free_port 2525); page=$(free_port 5180)
  [ $fresh = 0 ] || rm -rf "$data/mail"
  mkdir -p "$data/mail"
  own "$data/mail"
  "${as_froe[@]}" dotnet "$sink" --smtp "$smtp" --folder "$data/mail" --urls "http://127.0.0.1:$page" >"$data/mail.log" 2>&1 &
  children+=($!)
  export Froe__MailHost=${Froe__MailHost:-127.0.0.1} Froe__MailPort=${Froe__MailPort:-$smtp} Froe__Address=${Froe__Address:-http://127.0.0.1:$port}
  (cd src/Froe.Server && exec "${as_froe[@]}" dotnet "$server" --urls "http://127.0.0.1:$port") >"$data/server.log" 2>&1 &
  children+=($!)
  for _ in $(seq 100); do curl -fs "http://127.0.0.1:$port/health/ready" >/dev/null 2>&1 && break; kill -0 "${children[1]}" 2>/dev/null || { tail -n 20 "$data/server.log" >&2; exit 1; }; sleep 0.2; done
  echo
  if curl -fs "http://127.0.0.1:$port/api/session" | grep -q '"isEmpty":true'; then
    echo "  Nobody is there yet. Make the first administrator:  ./froe admin LOGIN"
  fi
  echo "  Froe is at         http://127.0.0.1:$port"
  echo "  Its mail ends at   http://127.0.0.1:$page"
  echo "  Logs are in        ${data#"$here"/}/server.log   (Ctrl C stops everything)"
  echo
  wait "${children[1]}"
}
