/**
 * Writes test files that each run several others: `node scripts/group-tests.mjs FOLDER`. Jest loads everything anew for each file, the geometry
 * kernel too; in groups it does about a third less work. Within a group each file stands in a `describe` of its own, so that what it sets up
 * and puts away is its own; modules and their stores are shared. `TEST_GROUPS=FOLDER` makes Jest run the groups.
 */
import { execFileSync } from 'node:child_process';
import { mkdirSync, rmSync, writeFileSync } from 'node:fs';
import path from 'node:path';

/** As few as keep two workers busy to the end. */
const GROUPS = { unit: 10, component: 4, integration: 12 };
/** Has a database of its own, which it stops. */
const ALONE = 'tests/integration/failures.test.ts';

const [, , folder] = process.argv;
const root = path.resolve(import.meta.dirname, '..');
const listed = execFileSync(process.execPath, ['node_modules/jest/bin/jest.js', '--listTests', '--json'], { cwd: root, encoding: 'utf8' });
const files = JSON.parse(listed)
  .map((file) => path.relative(root, file))
  .filter((file) => file !== ALONE)
  .sort();
const projectOf = (file) => (file.startsWith('tests/integration/') ? 'integration' : file.endsWith('.tsx') ? 'component' : 'unit');

rmSync(folder, { recursive: true, force: true });
mkdirSync(folder, { recursive: true });
for (const [project, count] of Object.entries(GROUPS)) {
  const own = files.filter((file) => projectOf(file) === project);
  for (let group = 0; group < count; group++) {
    // Dealt in turn: neighbours by name are alike in weight.
    const members = own.filter((_, index) => index % count === group);
    const lines = members.map((file) => `describe(${JSON.stringify(file)}, () => void require(${JSON.stringify(path.join(root, file))}));\n`);
    writeFileSync(path.join(folder, `${project}-${group}.test.js`), lines.join(''));
  }
}
