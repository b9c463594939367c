// Adds up the results of all runners and prints the closing line. Exits 1 when anything failed or is missing.
import { readFileSync } from 'node:fs';

const [, , checks, ...files] = process.argv;
const [, checksPassed = '0', checksFailed = '1'] = /(\d+) passed, (\d+) failed/.exec(checks ?? '') ?? [];
let passed = Number(checksPassed);
let failed = Number(checksFailed);
const secondTries = [];
for (const file of files) {
  try {
    const result = JSON.parse(readFileSync(file, 'utf8'));
    passed += result.numPassedTests ?? (result.stats?.expected ?? 0) + (result.stats?.flaky ?? 0);
    failed += result.numFailedTests ?? result.stats?.unexpected ?? 0;
    secondTries.push(...(result.suites ?? []).flatMap(journeysOf).filter(({ tests }) => tests.some(({ status }) => status === 'flaky')));
    failed += result.numRuntimeErrorTestSuites ?? 0;
  } catch {
    console.error(`${file} is missing: that run did not come to its end.`);
    failed += 1;
  }
}
if (secondTries.length > 0) console.log(`Passed at the second try only:\n${secondTries.map(({ file, title }) => `  ${file}: ${title}`).join('\n')}`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);

function journeysOf({ specs = [], suites = [] }) {
  return [...specs, ...suites.flatMap(journeysOf)];
}
