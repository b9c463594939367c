#!/usr/bin/env bash
# npm run demo: installs what is missing, starts the database, loads the demo, builds, serves. Ctrl-C stops.
#   PORT                port to serve on (4173)
#   WARPBEAM_DATA       where the database lives (~/.local/share/warpbeam)
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

need_packages
need_database
mkdir -p "$data"
start_database "$data/mariadb"

app=""
stop() {
  trap - INT TERM EXIT
  if [ -n "$app" ]; then kill -TERM "$app" 2>/dev/null || true; wait "$app" 2>/dev/null || true; fi
  DB_DIR="$data/mariadb" bash scripts/db.sh stop >&2 || true
  say "Stopped. Your work is kept in $data."
}
trap 'stop; exit 0' INT TERM
trap stop EXIT

DUMP_DIR="$data/dumps" node --import tsx scripts/prepare-database.ts demo/table-loom.json demo/first-draft.json
BUILD_LOG="$data/build.log" build_app
node node_modules/next/dist/bin/next start -H "$HOST" -p "$PORT" >"$data/server.log" 2>&1 &
app=$!
for _ in $(seq 1 300); do
  kill -0 "$app" 2>/dev/null || { tail -20 "$data/server.log" >&2; die "The server did not start; is port $PORT in use? Set PORT to use another."; }
  if node -e "fetch('http://127.0.0.1:$PORT/api/health').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))"; then break; fi
  sleep 0.2
done
say ""
say "Warpbeam is at http://127.0.0.1:$PORT   (Ctrl-C stops it)"
wait "$app" || true
