/**
 * npm run bench: every hot path against a named library or the bare work, in one run. CPU time, medians of
 * interleaved rounds; only the ratios mean anything on another machine. `npm run bench -- sketch` runs one.
 */
import { benchAssembly } from './assembly';
import { benchFormula } from './formula';
import { benchLanes } from './lanes';
import { benchLedger } from './ledger';
import { benchLinks } from './links';
import { benchLooseEnds } from './loose-ends';
import { benchMemory, benchNetwork } from './network';
import { benchRegenerate } from './regenerate';
import { benchScene } from './scene';
import { benchSketch } from './sketch';
import { benchSolver } from './solver';
import type { Row } from './support';
import { benchWorker } from './worker';

function print(rows: readonly Row[]): void {
  for (const { what, ours, baseline, ratio, reach } of rows) {
    process.stdout.write(`| ${what} | ${ours} | ${baseline} | ${Number.isNaN(ratio) ? '' : `${ratio.toPrecision(3)} x`} | ${reach} |\n`);
  }
}

const BENCHES: Readonly<Record<string, () => Row[] | Promise<Row[]>>> = {
  memory: benchMemory,
  formula: benchFormula,
  network: benchNetwork,
  lanes: benchLanes,
  sketch: benchSketch,
  solver: benchSolver,
  links: benchLinks,
  'loose-ends': benchLooseEnds,
  regenerate: benchRegenerate,
  worker: benchWorker,
  scene: benchScene,
  assembly: benchAssembly,
  ledger: benchLedger,
};

async function main(wanted: readonly string[]): Promise<void> {
  process.stdout.write('| what | this project | baseline in the same run | ratio | to reach |\n|---|---|---|---|---|\n');
  for (const [name, bench] of Object.entries(BENCHES)) if (wanted.length === 0 || wanted.includes(name)) print(await bench());
}

void main(process.argv.slice(2));
