#!/usr/bin/env bash
# npm test: everything, on a fresh machine too. Ends with "N passed, N failed".
set -uo pipefail
# shellcheck source=scripts/setup.sh
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
need_all
mkdir -p test-results
data="$root/.data/test"
failures=0

say "— checks and the build, beside them unit and reference tests"
{
  checked=0
  bash scripts/check.sh >test-results/checks.txt 2>test-results/checks.log || checked=1
  BUILD_LOG=test-results/build.log build_app
  exit "$checked"
} &
build=$!
groups=test-results/groups
node scripts/group-tests.mjs "$groups" || failures=1
TEST_GROUPS="$groups" node node_modules/jest/bin/jest.js --selectProjects unit component --maxWorkers=2 --json --outputFile=test-results/unit.json >test-results/unit.log 2>&1 || { failures=1; tail -n 120 test-results/unit.log >&2; }

say "— integration tests, two at a time"
# Each group loads the kernel anew: compiling its code for speed costs more than most of them use it.
WASM_BUDGET=200000000
integration() {
  local name="$1"; shift
  node --wasm-lazy-validation --wasm-tiering-budget="$WASM_BUDGET" node_modules/jest/bin/jest.js --selectProjects integration --json --outputFile="test-results/$name.json" "$@" >"test-results/$name.log" 2>&1 || { tail -n 120 "test-results/$name.log" >&2; return 1; }
}
rm -rf "$data" "$data-failures"
# Those that stop the database have a server of their own; they wait more than they work. Two are not set up at once.
(start_database "$data-failures") || failures=1
(
  set -a
  # shellcheck disable=SC1091
  . "$data-failures/db.env"
  set +a
  export TEST_DB_DIR="$data-failures"
  trap 'DB_DIR="$data-failures" bash scripts/db.sh stop >&2' EXIT
  integration failures --runInBand --testPathPatterns failures
) &
stopping=$!
start_database "$data"
export TEST_DB_DIR="$data"
trap 'DB_DIR="$data" bash scripts/db.sh stop >&2' EXIT
# Each line has a database of its own.
for line in 1 2; do DB_DIR="$data" bash scripts/db.sh make "${DB_NAME}_test_$line"; done
# Each line of journeys has a server and a database of its own, which begins with the demo, built, and nothing else.
# Journeys wait as often as they work: three lines keep two cores busy.
lines=3
(
  export DB_DIR="$data"
  first="${DB_NAME}_journeys_0"
  bash scripts/db.sh make "$first" &&
    DB_NAME="$first" NEXT_PUBLIC_BUILD="$(program_name)" node scripts/run.mjs scripts/prepare-database.ts --build demo/table-loom.json demo/first-draft.json &&
    for line in $(seq 1 $((lines - 1))); do bash scripts/db.sh make "${DB_NAME}_journeys_$line" "$first" || exit 1; done
) &
preparing=$!
TEST_GROUPS="$groups" TEST_LINES=2 integration integration --maxWorkers=2 || failures=1
wait "$stopping" || failures=1
wait "$build" || failures=1
wait "$preparing" || failures=1
cat test-results/checks.log >&2
check_line="$(cat test-results/checks.txt)"
say "$check_line"

say "— browser journeys, $lines at a time"
export E2E_PORT="${E2E_PORT:-4299}"
servers=()
# Stands in for a service of outside calculations, for all lines.
export CALCULATOR_URL="http://127.0.0.1:$((E2E_PORT + 9))"
PORT=$((E2E_PORT + 9)) node scripts/run.mjs calculator/main.ts >test-results/calculator.log 2>&1 &
calculator=$!
printf '{ "services": [{ "name": "Workshop", "url": "%s", "timeLimit": 2 }] }\n' "$CALCULATOR_URL" >"$data/services.json"
export WARPBEAM_SERVICES="$data/services.json"
trap 'kill "$calculator" 2>/dev/null; for server in "${servers[@]}"; do stop_app "$server"; done; DB_DIR="$data" bash scripts/db.sh stop >&2' EXIT
own="$DB_NAME"
for line in $(seq 0 $((lines - 1))); do
  export DB_NAME="${own}_journeys_$line"
  start_app 127.0.0.1 "$((E2E_PORT + line))" "test-results/server-$line.log"
  servers+=($!)
done
for line in $(seq 0 $((lines - 1))); do
  for _ in $(seq 1 200); do
    if node -e "fetch('http://127.0.0.1:$((E2E_PORT + line))/api/health').then(r=>process.exit(r.ok?0:1),()=>process.exit(1))"; then break; fi
    sleep 0.2
  done
done
journeys() { node node_modules/@playwright/test/cli.js test "$@" >&2 || { failures=1; tail -n 40 test-results/server-*.log >&2; }; }
# How fast a server stops is measured with nothing beside it.
E2E_RESULTS=test-results/commands.json journeys commands
E2E_LINES="$lines" E2E_IGNORE=commands journeys

node scripts/summary.mjs "$check_line" test-results/unit.json test-results/failures.json test-results/integration.json test-results/commands.json test-results/e2e.json || failures=1
exit "$failures"
