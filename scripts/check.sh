#!/usr/bin/env bash
# npm run check: types, lint, format, layers, unused code. Each check is named; prints "N passed, N failed".
set -uo pipefail
# shellcheck source=scripts/setup.sh
. "$(dirname "${BASH_SOURCE[0]}")/setup.sh"
need_packages
bin=node_modules/.bin
# The compiler as a native program: a third of the time. The other one is there for tools that call it as a library. Lint knows the types of
# everything: it tells what is wrong with them as well, but for what the core may not use.
tsc=node_modules/typescript-native/bin/tsc
passed=0 failed=0
check() {
  local name="$1"; shift
  if "$@" >test-results/check.log 2>&1; then say "  ok      $name"; passed=$((passed + 1)); else say "  FAILED  $name"; cat test-results/check.log >&2; failed=$((failed + 1)); fi
}
mkdir -p test-results
[ -f next-env.d.ts ] || printf '/// <reference types="next" />\n/// <reference types="next/image-types/global" />\n' >next-env.d.ts
check "core is pure" node "$tsc" -p tsconfig.core.json
check "types and lint" "$bin/oxlint" --type-check
check format "$bin/oxfmt" --check
check layers "$bin/depcruise" src tests bench --config .dependency-cruiser.cjs
check licences node scripts/notice.mjs --check
check "unused code" "$bin/knip"
echo "checks: $passed passed, $failed failed"
[ "$failed" = 0 ]
