#!/usr/bin/env bash
# npm run demo: installs what is missing, starts the database, loads the demo, builds, serves. Ctrl-C stops.
#   PORT                port to serve on (4173)
#   WARPBEAM_DATA       where the database lives (~/.local/share/warpbeam)
#   WARPBEAM_SERVICES   the file that lists services of outside calculations (the stand-in of calculator/, on PORT + 7)
# Beside one that is running already it says where that is, and touches nothing.
set -euo pipefail
# shellcheck source=scripts/setup.sh
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"

HOST="${HOST:-127.0.0.1}"
case "$HOST" in
  127.0.0.1 | localhost | ::1) ;;
  *) die "Refusing to listen on $HOST: there are no accounts yet, so anybody there could change everything. Use 127.0.0.1." ;;
esac
PORT="${PORT:-4173}"
data="${WARPBEAM_DATA:-${XDG_DATA_HOME:-$HOME/.local/share}/warpbeam}"
address="http://127.0.0.1:$PORT"
mkdir -p "$data"

# One at a time on this data: the lock goes with this process, however it ends.
exec 8>>"$data/running"
if ! flock -n 8; then
  say "Warpbeam is running already, on the same data: $(cat "$data/running"). Nothing was touched."
  exit 0
fi
if (exec 3<>"/dev/tcp/127.0.0.1/$PORT") 2>/dev/null; then
  die "Port $PORT is in use, by another Warpbeam or another program. Set PORT to use another; nothing was touched."
fi
printf '%s' "$address" >"$data/running"

need_packages
need_database
start_database "$data/mariadb" 8>&-

app=""
calculator=""
stop() {
  trap - INT TERM EXIT
  stop_app "$app"
  [ -z "$calculator" ] || kill "$calculator" 2>/dev/null || true
  DB_DIR="$data/mariadb" bash scripts/db.sh stop >&2 || true
  say "Stopped. Your work is kept in $data."
}
trap 'stop; exit 0' INT TERM
trap stop EXIT

# A stand-in for a calculation service, unless the administrator lists services.
if [ -z "${WARPBEAM_SERVICES:-}" ]; then
  calculator_port="${CALCULATOR_PORT:-$((PORT + 7))}"
  PORT="$calculator_port" node scripts/run.mjs calculator/main.ts >"$data/calculator.log" 2>&1 8>&- &
  calculator=$!
  printf '{ "services": [{ "name": "Workshop", "url": "http://127.0.0.1:%s" }] }\n' "$calculator_port" >"$data/services.json"
  export WARPBEAM_SERVICES="$data/services.json"
fi

DUMP_DIR="$data/dumps" node scripts/run.mjs scripts/prepare-database.ts demo/table-loom.json demo/first-draft.json 8>&-
BUILD_LOG="$data/build.log" build_app 8>&-
start_app "$HOST" "$PORT" "$data/server.log" 8>&-
app=$!
for _ in $(seq 1 300); do
  kill -0 "$app" 2>/dev/null || { tail -20 "$data/server.log" >&2; die "The server did not start; see $data/server.log."; }
  if node -e "fetch('$address/api/health').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))" 8>&-; then break; fi
  sleep 0.2
done
say ""
say "Warpbeam is at $address   (Ctrl-C stops it)"
# Looks after the database for as long as the server runs.
while kill -0 "$app" 2>/dev/null; do
  if ! DB_DIR="$data/mariadb" bash scripts/db.sh status >/dev/null 2>&1; then
    say "The database has ended by itself; starting it again."
    start_database "$data/mariadb" 8>&-
  fi
  sleep 2 8>&- &
  wait $! || true
done
tail -20 "$data/server.log" >&2
die "The server has ended by itself; see $data/server.log."
