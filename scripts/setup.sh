#!/usr/bin/env bash
# Installs what the machine lacks. Sourced by the other scripts; functions only.
#   need_packages   npm packages as locked
#   need_database   MariaDB's server, from Debian
#   need_browser    Chromium, from Debian
#   need_all        all of these; Debian's beside npm's
#   program_name    tells this program from others
#   start_app       starts a server that is built
#   stop_app        ends a server within three seconds
root="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
cd "$root" || exit 1
export NEXT_TELEMETRY_DISABLED=1

say() { printf '%s\n' "$*" >&2; }
die() { say "$*"; exit 1; }

need_node() {
  command -v node >/dev/null || die "Node.js 20.19 or later is needed: https://nodejs.org"
  node -e 'const [a,b]=process.versions.node.split(".").map(Number); process.exit(a>20||(a===20&&b>=19)?0:1)' ||
    die "Node.js 20.19 or later is needed; this is $(node --version)."
}

need_packages() {
  need_node
  local want
  want="$(cksum <package-lock.json)"
  if [ "$(cat node_modules/.installed 2>/dev/null || true)" != "$want" ]; then
    say "Installing npm packages (once)…"
    npm ci --no-audit --no-fund --loglevel=error || die "npm ci failed."
    printf '%s' "$want" >node_modules/.installed
  fi
}

apt_updated=""
apt_install() {
  command -v apt-get >/dev/null || die "$1 is missing, and there is no apt-get here to install it: please install $1."
  local sudo=""
  if [ "$(id -u)" != 0 ]; then sudo="sudo"; command -v sudo >/dev/null || die "$* must be installed by root: apt-get install $*"; fi
  if [ -z "$apt_updated" ]; then $sudo apt-get update -qq >&2 || say "apt-get update failed; trying with the lists that are here."; apt_updated=1; fi
  DEBIAN_FRONTEND=noninteractive $sudo apt-get install -y -qq --no-install-recommends "$@" >&2 || die "apt-get install $* failed."
}

need_database() {
  if ! command -v mariadbd >/dev/null || ! command -v mariadb >/dev/null || ! command -v mariadb-install-db >/dev/null || ! command -v mariadb-dump >/dev/null; then
    say "Installing Debian's MariaDB server (once)…"
    apt_install mariadb-server-core mariadb-client-core mariadb-client
  fi
}

# Debian's Chromium without windows does the same with a fifth less work; the one with windows will do where it cannot be had.
need_browser() {
  if [ -n "${CHROMIUM:-}" ]; then return 0; fi
  export CHROMIUM=/usr/bin/chromium-headless-shell
  if [ ! -x "$CHROMIUM" ]; then
    say "Installing Debian's Chromium for the browser tests (once)…"
    (apt_install chromium-headless-shell) || export CHROMIUM=/usr/bin/chromium
  fi
  if [ ! -x "$CHROMIUM" ]; then apt_install chromium; fi
}

need_all() {
  (need_database && need_browser) &
  local debian=$!
  need_packages
  wait "$debian" || die "The packages from Debian could not be installed."
  need_browser
}

# start_database DIR: starts the private server and exports its settings
start_database() {
  DB_DIR="$1" DB_NAME="${DB_NAME:-warpbeam}" DB_USER="${DB_USER:-warpbeam}" bash scripts/db.sh start >&2 || die "The database did not start."
  set -a
  # shellcheck disable=SC1090
  . "$1/db.env"
  set +a
}

# start_app HOST PORT LOG: its process is $!. A connection outlives the pauses of a person, so that no request meets one that is just closed. What of the
# kernel is used now and then is not compiled for speed: that takes several times as long as building a part.
start_app() {
  node --wasm-tiering-budget=50000000 node_modules/next/dist/bin/next start -H "$1" -p "$2" --keepAliveTimeout 75000 >"$3" 2>&1 &
}

# stop_app PID: tells a server to stop, and ends it when it takes longer than three seconds; whatever it was at is whole or not done
stop_app() {
  [ -n "$1" ] || return 0
  kill -TERM "$1" 2>/dev/null || return 0
  for _ in $(seq 1 30); do
    kill -0 "$1" 2>/dev/null || break
    sleep 0.1
  done
  kill -KILL "$1" 2>/dev/null || true
  wait "$1" 2>/dev/null || true
}

# program_name: tells this program from others, by its sources. Asked of the files themselves: a copy without git is built as well.
program_name() {
  find src package.json package-lock.json scripts/setup.sh scripts/finish-chunks.mjs scripts/eager-modules.mjs next.config.ts postcss.config.mjs -type f -print0 | sort -z | xargs -0 cksum | cksum | tr ' ' '-'
}

# build_app: next build, if the sources changed since the last one
build_app() {
  local state
  state="$(program_name)"
  if [ "$(cat .next/built-from 2>/dev/null || true)" = "$state" ] && [ -f .next/BUILD_ID ]; then return 0; fi
  say "Building the application…"
  WARPBEAM_BUILD="$state" node node_modules/next/dist/bin/next build >"${BUILD_LOG:-/dev/stderr}" 2>&1 || { [ -n "${BUILD_LOG:-}" ] && cat "$BUILD_LOG" >&2; die "The build failed."; }
  # The kernel, compressed once: compressing 23 MB for each page takes longer than sending them.
  rm -rf public/kernel && mkdir -p public/kernel
  for wasm in .next/static/media/*.wasm; do gzip -9 -c "$wasm" >"public/kernel/$(basename "$wasm").gz"; done
  # So is the code of pages, smaller than the server would make it; its modules are compiled as they are read.
  node scripts/finish-chunks.mjs
  printf '%s' "$state" >.next/built-from
}
