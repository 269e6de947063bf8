# What start, test and bench share. Sourced, never run.
set -euo pipefail
root=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
cache=$root/.cache
mkdir -p "$cache"
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1

say() { printf '%s\n' "$*"; }
die() { printf '%s\n' "$*" >&2; exit 1; }

need_tools() {
  command -v dotnet >/dev/null || die "The .NET SDK 10 is missing. Install it, then run this again."
  command -v node >/dev/null && command -v npm >/dev/null || die "Node.js 20 is missing. Install it, then run this again."
}

# Installs Debian packages that are missing: need_packages PROGRAM=PACKAGE ...
need_packages() {
  local missing=() pair
  for pair in "$@"; do
    compgen -G "${pair%%=*}" >/dev/null || command -v "${pair%%=*}" >/dev/null || missing+=("${pair#*=}")
  done
  [ ${#missing[@]} -eq 0 ] && return
  say "  installing ${missing[*]}"
  local sudo=()
  if [ "$(id -u)" -ne 0 ]; then
    sudo -n true 2>/dev/null || die "These Debian packages are missing and this user may not install them: ${missing[*]}. Ask an administrator for 'apt-get install ${missing[*]}', then run this again."
    sudo=(sudo -n)
  fi
  "${sudo[@]}" mkdir -p /etc/postgresql-common/createcluster.d
  # Debian would otherwise make and start a cluster of its own.
  printf 'create_main_cluster = false\n' | "${sudo[@]}" tee /etc/postgresql-common/createcluster.d/jovitar.conf >/dev/null
  "${sudo[@]}" env DEBIAN_FRONTEND=noninteractive sh -c "apt-get update -qq && apt-get install -y -qq --no-install-recommends ${missing[*]}" >"$cache/apt.log" 2>&1 \
    || die "Debian packages could not be installed (${missing[*]}). What apt-get said is in $cache/apt.log."
}

# True when something that a build is made of is newer than the build's mark: changed MARK PATH ...
changed() {
  local mark=$1; shift
  [ ! -e "$mark" ] && return 0
  [ -n "$(find "$@" \( -name bin -o -name obj -o -name node_modules -o -name wwwroot -o -name photos \) -prune -o -type f -newer "$mark" -print -quit)" ]
}

build_server() {
  changed "$cache/server-built" "$root/src" "$root/Directory.Build.props" "$root/Directory.Packages.props" || return 0
  say "  building the server"
  dotnet build "$root/src/Jovitar.Server" -c Release -v quiet --nologo >"$cache/server-build.log" 2>&1 || { tail -30 "$cache/server-build.log" >&2; die "The server could not be built."; }
  touch "$cache/server-built"
}

build_standins() {
  changed "$cache/standins-built" "$root/src/Jovitar.Standins" "$root/Directory.Build.props" "$root/Directory.Packages.props" || return 0
  say "  building the simulated devices"
  dotnet build "$root/src/Jovitar.Standins" -c Release -v quiet --nologo >"$cache/standins-build.log" 2>&1 || { tail -30 "$cache/standins-build.log" >&2; die "The simulated devices could not be built."; }
  touch "$cache/standins-built"
}

# install_packages DIR MARK WHAT: what a folder's package-lock.json names. No package runs anything while it is installed.
install_packages() {
  local dir=$1 mark=$cache/$2-installed
  changed "$mark" "$dir/package.json" "$dir/package-lock.json" || [ ! -d "$dir/node_modules" ] || return 0
  say "  fetching the packages of $3"
  (cd "$dir" && npm ci --ignore-scripts --no-audit --no-fund >"$cache/npm.log" 2>&1) || { tail -20 "$cache/npm.log" >&2; die "The packages of $3 could not be fetched."; }
  touch "$mark"
}
install_web() { install_packages "$root/web" web "the web part"; }
install_audit() { need_packages "chromium=chromium" "xmllint=libxml2-utils"; install_packages "$root/tests/audit" audit "the audits"; }

# Writes the API's description and the TypeScript client made from it: describe_api DIR
describe_api() {
  local dir=$1 port
  port=$(free_port)
  Jovitar__DescribeOnly=true Jovitar__Workers=0 dotnet "$root/src/Jovitar.Server/bin/Release/net10.0/Jovitar.Server.dll" --contentRoot "$root/src/Jovitar.Server" --urls "http://127.0.0.1:$port" >"$cache/describe.log" 2>&1 &
  local pid=$!
  for _ in $(seq 100); do
    curl -fsS "http://127.0.0.1:$port/openapi/v1.json" -o "$cache/openapi.json" 2>/dev/null && break
    sleep 0.1
  done
  kill "$pid" 2>/dev/null || true
  wait "$pid" 2>/dev/null || true
  [ -s "$cache/openapi.json" ] || { tail -20 "$cache/describe.log" >&2; die "The server did not describe its API."; }
  mkdir -p "$dir"
  node -e 'const fs=require("fs");fs.writeFileSync(process.argv[2],JSON.stringify(JSON.parse(fs.readFileSync(process.argv[1])),null,2)+"\n")' "$cache/openapi.json" "$dir/openapi.json"
  (cd "$root/web" && npx --no-install openapi-typescript "$dir/openapi.json" -o "$dir/schema.d.ts" >"$cache/api.log" 2>&1) || { cat "$cache/api.log" >&2; die "The TypeScript client could not be made."; }
}

build_web() {
  install_web
  changed "$cache/web-built" "$root/web" "$cache/server-built" || [ ! -f "$root/src/Jovitar.Server/wwwroot/assets/.vite/manifest.json" ] || return 0
  say "  building the web part"
  describe_api "$root/web/src/api"
  (cd "$root/web" && npm run --silent build >"$cache/web-build.log" 2>&1) || { tail -30 "$cache/web-build.log" >&2; die "The web part could not be built."; }
  touch "$cache/web-built"
}

port_taken() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

free_port() {
  local port
  for _ in $(seq 60); do
    port=$((20000 + RANDOM % 12000))
    port_taken "$port" || { echo "$port"; return; }
  done
  die "No free port was found."
}

# serve_demo DATA CONNECTION [TRIAL PHOTOS]: starts a server with the demo, waits until all of it is there, and leaves its address in $url and its process in $server.
serve_demo() {
  local data=$1 connection=$2 port; port=$(free_port)
  url=http://127.0.0.1:$port
  mkfifo "$data/said"
  Jovitar__Data=$data Jovitar__Database="$connection" Jovitar__Demo=$root/demo Jovitar__Announce=true Jovitar__TrialPhotos=${3:-0} \
    dotnet "$root/src/Jovitar.Server/bin/Release/net10.0/Jovitar.Server.dll" --contentRoot "$root/src/Jovitar.Server" --urls "$url" >"$data/said" 2>"$cache/demo-server.log" &
  server=$!
  grep -qm1 ready <"$data/said" || { tail -5 "$cache/demo-server.log" >&2; die "The server did not start."; }
  rm -f "$data/said"
}

# --- PostgreSQL: a cluster of our own, on loopback, never the system's -------------------------------------------------
pg_bin=""
pg_dir=""
pg_port=""
pg_user=()

find_postgres() {
  need_packages "/usr/lib/postgresql/*/bin/initdb=postgresql"
  pg_bin=$(dirname "$(compgen -G '/usr/lib/postgresql/*/bin/initdb' | sort -V | tail -1)")
  if [ "$(id -u)" -eq 0 ]; then
    id jovitar >/dev/null 2>&1 || useradd --system --no-create-home --shell /usr/sbin/nologin jovitar
    pg_user=(runuser -u jovitar --)
  fi
}

# Decides where the cluster of a data folder lies. PostgreSQL will not run as root, and its own user may not be able to
# reach the data folder (a clone below /root); then the cluster lies under /var/lib/jovitar, named by a mark in the folder.
place_cluster() {
  local data=$1
  pg_dir=$data/postgres
  [ "$(id -u)" -ne 0 ] && return
  if [ -f "$data/postgres-elsewhere" ] || ! runuser -u jovitar -- test -x "$data"; then
    [ -f "$data/postgres-elsewhere" ] || od -An -N8 -tx8 /dev/urandom | tr -d ' ' >"$data/postgres-elsewhere"
    pg_dir=/var/lib/jovitar/$(cat "$data/postgres-elsewhere")
    install -d -m 755 /var/lib/jovitar
  fi
  install -d -m 700 -o jovitar "$pg_dir"
}

# start_postgres DATA [more settings]: leaves pg_port set and writes DATA/database (the connection).
start_postgres() {
  local data=$1 more=${2:-}
  place_cluster "$data"
  if [ ! -f "$pg_dir/PG_VERSION" ]; then
    say "  making the database"
    mkdir -p "$pg_dir"
    (umask 077; od -An -N24 -tx8 /dev/urandom | tr -d ' \n' >"$data/database.secret")
    local secret; secret=$(mktemp)
    cp "$data/database.secret" "$secret"
    [ "$(id -u)" -ne 0 ] || chown jovitar "$secret"
    (cd / && "${pg_user[@]}" "$pg_bin/initdb" -D "$pg_dir" -U jovitar --pwfile="$secret" -A scram-sha-256 -E UTF8 --locale=C.UTF-8 >"$cache/initdb.log" 2>&1) || { rm -f "$secret"; tail -5 "$cache/initdb.log" >&2; die "The database could not be made in $pg_dir."; }
    rm -f "$secret"
  fi
  if (cd / && "${pg_user[@]}" "$pg_bin/pg_ctl" -D "$pg_dir" status >/dev/null 2>&1); then
    pg_port=$(sed -n 4p "$pg_dir/postmaster.pid")
  else
    pg_port=$(free_port)
    (cd / && "${pg_user[@]}" "$pg_bin/pg_ctl" -D "$pg_dir" -w -t 60 -l "$pg_dir/server.log" \
      -o "-p $pg_port -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c shared_buffers=256MB -c max_connections=120 -c random_page_cost=1.1 $more" start >/dev/null 2>&1) \
      || { tail -5 "$pg_dir/server.log" >&2; die "PostgreSQL did not start; what it said is in $pg_dir/server.log."; }
  fi
  pg_connection="Host=127.0.0.1;Port=$pg_port;Username=jovitar;Password=$(cat "$data/database.secret")"
  PGPASSWORD=$(cat "$data/database.secret") "$pg_bin/psql" -qtA -h 127.0.0.1 -p "$pg_port" -U jovitar -d postgres -c "select 1 from pg_database where datname = 'jovitar'" | grep -q 1 \
    || PGPASSWORD=$(cat "$data/database.secret") "$pg_bin/createdb" -h 127.0.0.1 -p "$pg_port" -U jovitar jovitar
}

stop_postgres() {
  [ -n "$pg_dir" ] && [ -f "$pg_dir/postmaster.pid" ] || return 0
  (cd / && "${pg_user[@]}" "$pg_bin/pg_ctl" -D "$pg_dir" -m fast -w -t 30 stop >/dev/null 2>&1) || true
}

# A cluster that is thrown away, in a folder of a place: throw_away_postgres [PLACE], then drop_postgres.
throw_away_postgres() {
  find_postgres
  throw_away=$(mktemp -d "${1:-/tmp}/jovitar-test.XXXXXX")
  chmod 755 "$throw_away"
  start_postgres "$throw_away" "-c fsync=off -c synchronous_commit=off -c full_page_writes=off -c max_connections=300"
}

drop_postgres() {
  stop_postgres
  rm -rf "$throw_away"
}
