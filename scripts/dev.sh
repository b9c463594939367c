#!/usr/bin/env bash
# npm run dev: the application with hot reload, on the same data as the demo.
set -euo pipefail
# shellcheck source=scripts/setup.sh
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
data="${WARPBEAM_DATA:-${XDG_DATA_HOME:-$HOME/.local/share}/warpbeam}"
need_packages
need_database
mkdir -p "$data"
start_database "$data/mariadb"
trap 'DB_DIR="$data/mariadb" bash scripts/db.sh stop >&2' EXIT
DUMP_DIR="$data/dumps" node scripts/run.mjs scripts/prepare-database.ts demo/table-loom.json demo/first-draft.json
node node_modules/next/dist/bin/next dev -H 127.0.0.1 -p "${PORT:-4173}"
