/**
 * NOTICE: every package that the product is made of, with its version and licence, from the lock file.
 *
 *     node scripts/notice.mjs           writes NOTICE
 *     node scripts/notice.mjs --check   fails when NOTICE is not up to date, or a licence is none that we have agreed to
 */
import { readFileSync, writeFileSync } from 'node:fs';

/** Licences under which packages may be part of the product. Those of the LGPL and MPL are used unchanged and can be replaced. */
const AGREED = new Set([
  '0BSD',
  'Apache-2.0',
  'BSD-2-Clause',
  'BSD-3-Clause',
  'BlueOak-1.0.0',
  'CC-BY-4.0',
  'ISC',
  'LGPL-2.1-only',
  'LGPL-2.1-or-later',
  'LGPL-3.0-or-later',
  'MIT',
  'MIT/Apache-2.0',
  'MPL-2.0',
  'OFL-1.1',
  'Unlicense',
  '(MIT OR CC0-1.0)',
]);

const { packages } = JSON.parse(readFileSync('package-lock.json', 'utf8'));
const lines = new Set();
const problems = [];
for (const [place, entry] of Object.entries(packages)) {
  if (place === '' || entry.dev === true || entry.devOptional === true) continue;
  const name = entry.name ?? place.replace(/^.*node_modules\//, '');
  const licence = entry.license ?? 'none';
  if (!licence.split(' AND ').every((part) => AGREED.has(part))) problems.push(`${name} ${entry.version}: ${licence}`);
  lines.add(`${name} ${entry.version}: ${licence}${entry.optional === true ? ' (only on some machines)' : ''}`);
}
const text = `Warpbeam is made with these packages. Each comes with the full text of its licence in its folder under node_modules.

${[...lines].sort().join('\n')}
`;
if (process.argv.includes('--check')) {
  if (readFileSync('NOTICE', 'utf8') !== text) problems.push('NOTICE is not up to date: node scripts/notice.mjs');
} else writeFileSync('NOTICE', text);
for (const problem of problems) console.error(problem);
process.exitCode = problems.length > 0 ? 1 : 0;
