# Shared by ./start and ./test: what is missing is installed, and PostgreSQL runs in a cluster of its own.
set -euo pipefail
ROOT=$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)
RUN=$ROOT/.run
export DOTNET_CLI_TELEMETRY_OPTOUT=1 DOTNET_NOLOGO=1

say() { printf '%s\n' "$*" >&2; }
die() { say "$*"; exit 1; }

as_root() {
    if [ "$(id -u)" = 0 ]; then "$@"; elif command -v sudo >/dev/null; then sudo "$@"; else die "This needs root once: $*"; fi
}

# need COMMAND PACKAGE...: installs Debian packages when the command is missing.
need() {
    local command=$1; shift
    command -v "$command" >/dev/null || install_packages "$@"
}

# need_file FILE PACKAGE...: for what is no command.
need_file() {
    local file=$1; shift
    [ -e "$file" ] || install_packages "$@"
}

install_packages() {
    say "Installing $* …"
    as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "$@" >/dev/null
}

pg_bin() { ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n 1; }

need_postgres() {
    [ -n "$(pg_bin)" ] && [ -x "$(pg_bin)/initdb" ] && return
    # Debian would start a cluster of its own, which nobody here needs.
    if [ ! -e /etc/postgresql-common/createcluster.conf ]; then
        as_root mkdir -p /etc/postgresql-common
        echo 'create_main_cluster = false' | as_root tee /etc/postgresql-common/createcluster.conf >/dev/null
    fi
    say "Installing PostgreSQL …"
    as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq
    as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends postgresql >/dev/null
}

need_sdks() {
    command -v dotnet >/dev/null || die "The .NET 10 SDK is needed."
    command -v npm >/dev/null || die "Node.js with npm is needed."
}

# PostgreSQL does not run as root: then it runs as the user that its package made.
as_pg() { if [ "$(id -u)" = 0 ]; then runuser -u postgres -- "$@"; else "$@"; fi; }

# pg_home NAME: a folder that the database's user can reach.
pg_home() {
    local home=$RUN/$1
    mkdir -p "$RUN"
    if [ "$(id -u)" = 0 ] && ! as_pg test -x "$RUN"; then
        home=/var/tmp/velvetgate-$(printf '%s' "$ROOT" | sha256sum | cut -c1-12)/$1
    fi
    mkdir -p "$home"
    [ "$(id -u)" = 0 ] && chown postgres: "$home"
    chmod 700 "$home" 2>/dev/null || true
    printf '%s' "$home"
}

# is_free PORT: nobody listens there on loopback.
is_free() {
    [[ $1 =~ ^[0-9]+$ ]] || die "A port is a number."
    node -e 'const s=require("net").createServer();s.on("error",()=>process.exit(1));s.listen(+process.argv[1],"127.0.0.1",()=>s.close())' "$1"
}

free_port() {
    node -e 'const s=require("net").createServer();s.listen(0,"127.0.0.1",()=>{console.log(s.address().port);s.close()})'
}

secret() { node -e 'console.log(require("crypto").randomBytes(18).toString("base64url"))'; }

# pg_up HOME [setting...]: makes and starts the cluster, or takes up one that a kill left behind. Sets PG_* for connections.
pg_up() {
    local home=$1 bin; shift
    bin=$(pg_bin)
    if [ ! -f "$home/data/PG_VERSION" ]; then
        rm -rf "$home/data"
        (umask 077; secret > "$home/admin"; secret > "$home/owner"; secret > "$home/app")
        [ "$(id -u)" = 0 ] && chown postgres: "$home/admin" "$home/owner" "$home/app"
        (cd /; as_pg "$bin/initdb" -D "$home/data" -U postgres --pwfile="$home/admin" --auth=scram-sha-256 -E UTF8 --locale=C.UTF-8 >/dev/null)
    fi
    # A server that was killed and that nobody has buried yet still has its number: it runs no more.
    local pid; pid=$(head -n 1 "$home/data/postmaster.pid" 2>/dev/null || true)
    if [ -n "$pid" ] && grep -qs '^State:[[:space:]]*Z' "/proc/$pid/status"; then rm -f "$home/data/postmaster.pid" "$home"/.s.PGSQL.*; fi
    if ! (cd /; as_pg "$bin/pg_ctl" -D "$home/data" status >/dev/null 2>&1); then
        # The port of before, if it is free: what was connected finds the cluster again.
        [ -f "$home/port" ] && node -e 'const s=require("net").createServer();s.on("error",()=>process.exit(1));s.listen(+process.argv[1],"127.0.0.1",()=>s.close())' "$(cat "$home/port")" || free_port > "$home/port"
        local settings="-c listen_addresses=127.0.0.1 -c port=$(cat "$home/port") -c unix_socket_directories=$home -c max_connections=200 -c shared_buffers=256MB"
        for setting in "$@"; do settings="$settings -c $setting"; done
        (cd /; as_pg "$bin/pg_ctl" -D "$home/data" -l "$home/log" -w -t 60 -o "$settings" start >/dev/null) || { cat "$home/log" >&2; die "PostgreSQL does not start."; }
    fi
    PG_PORT=$(cat "$home/port")
    export VELVETGATE_ADMIN_DB="Host=127.0.0.1;Port=$PG_PORT;Username=postgres;Database=postgres;Password=$(cat "$home/admin")"
    export VELVETGATE_OWNER_PASSWORD=$(cat "$home/owner") VELVETGATE_APP_PASSWORD=$(cat "$home/app")
}

pg_down() { (cd /; as_pg "$(pg_bin)/pg_ctl" -D "$1/data" -m fast -w -t 8 stop >/dev/null 2>&1) || true; }

connection() { printf 'Host=127.0.0.1;Port=%s;Username=%s;Database=%s;Password=%s' "$PG_PORT" "$1" "$3" "$2"; }

# npm_packages FOLDER: as its lock file says, if that changed since.
npm_packages() {
    local stamp=$1/node_modules/.velvetgate
    cmp -s "$1/package-lock.json" "$stamp" && return
    (cd "$1" && npm ci --no-audit --no-fund --ignore-scripts --loglevel=error >&2)
    cp "$1/package-lock.json" "$stamp"
}

client_packages() { npm_packages "$ROOT/src/Client"; }

# Files and programs that this project did not make, which the tests hold it against.
outside_packages() { npm_packages "$ROOT/tests/outside"; }

# sources_hash: one hash over everything that goes into the published app.
sources_hash() {
    (cd "$ROOT" && find src Directory.Build.props Directory.Packages.props global.json \
        \( -name node_modules -o -name bin -o -name obj -o -name dist -o -name wwwroot -o -name "*.tsbuildinfo" \) -prune -o -type f -print0 | LC_ALL=C sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)
}

# publish: builds server, command line and front end into .run/app, if the sources changed since.
# Two that start at once in one checkout build one after the other.
publish() {
    mkdir -p "$RUN"
    # What the build leaves running must not keep the lock.
    (flock 9; build_app 9>&-) 9>"$RUN/app.lock"
}

build_app() {
    local want; want=$(sources_hash)
    [ -f "$RUN/app.hash" ] && [ "$(cat "$RUN/app.hash")" = "$want" ] && return
    say "Building …"
    rm -rf "$RUN/app.next"
    client_packages
    (cd "$ROOT/src/Client" && npm run --silent build >&2) & local client=$!
    # Style is looked at by ./test, which has built everything with it already; a start goes without.
    local style=-p:RunAnalyzers=${ANALYSED:-false}
    dotnet publish "$ROOT/src/Web/VelvetGate.Web.csproj" -c Release $style -o "$RUN/app.next" --nologo -v quiet >&2
    dotnet publish "$ROOT/src/Cli/VelvetGate.Cli.csproj" -c Release $style -o "$RUN/app.next/cli" --nologo -v quiet >&2
    dotnet publish "$ROOT/src/Broker/VelvetGate.Broker.csproj" -c Release $style -o "$RUN/app.next/broker" --nologo -v quiet >&2
    dotnet publish "$ROOT/src/StandIns/VelvetGate.StandIns.csproj" -c Release $style -o "$RUN/app.next/standins" --nologo -v quiet >&2
    wait "$client"
    rm -rf "$RUN/app.next/wwwroot"; cp -r "$ROOT/src/Client/dist" "$RUN/app.next/wwwroot"
    rm -rf "$RUN/app"; mv "$RUN/app.next" "$RUN/app"
    printf '%s' "$want" > "$RUN/app.hash"
}
