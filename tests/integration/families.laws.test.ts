/**
 * Random parts, each with a reference to a piece of it, on random paths of values: what the reference acts on is the piece that is meant, or
 * it is said to be lost. `FAMILIES` and `STATES` make more of them; `SEED` begins elsewhere.
 */
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { judge, type Family, type Judged, type Verdict } from '../support/families/family';
import { makeDisc } from '../support/families/discs';
import { makeLands } from '../support/families/lands';
import { makeWings } from '../support/families/wings';
import { build, PartBuilder } from '../support/part-builder';
import { place } from '../support/picked-parts';
import { makeRandom } from '../support/random';

const FAMILIES = Number(process.env['FAMILIES'] ?? 12);
const STATES = Number(process.env['STATES'] ?? 8);
const SEED = Number(process.env['SEED'] ?? 1);

let kernel: KernelPort;
beforeAll(async () => {
  kernel = await createKernel();
});

type Maker = (kernel: KernelPort, seed: number, random: () => number, states: number) => Family | undefined;

test.each([
  ['lands', makeLands, 1],
  ['discs', makeDisc, 0.25],
  ['wings', makeWings, 0.25],
] satisfies [string, Maker, number][])(
  '%s: the piece that is meant, or none',
  (_, make, share) => {
    const judged: (Judged & { readonly family: string })[] = [];
    for (let seed = SEED, made = 0; made < FAMILIES * share; seed++) {
      const family = make(kernel, seed, makeRandom(seed), STATES);
      if (!family) continue;
      made++;
      judged.push(...judge(kernel, family).map((each) => ({ ...each, family: family.name })));
    }
    const count = (verdict: Verdict): number => judged.filter((each) => each.verdict === verdict).length;
    const list = (verdict: Verdict): string[] =>
      judged.filter((each) => each.verdict === verdict).map(({ family, state, told }) => `${family} [${state}] ${told}`);
    const told = ['right', 'rightly lost', 'refused though there', 'silently wrong', 'not built'].map((verdict) => `${verdict} ${count(verdict as Verdict)}`);
    if (process.env['TELL'])
      process.stderr.write(
        `${told.join(', ')}\n${[...list('silently wrong'), ...list('refused though there'), ...list('not built')].slice(0, 12).join('\n')}\n`,
      );
    expect(list('silently wrong')).toEqual([]);
    expect(count('refused though there')).toBeLessThanOrEqual(0.02 * judged.length);
    // The reading is not one that finds nothing to read.
    expect(count('right')).toBeGreaterThan(0.3 * judged.length);
    expect(count('not built')).toBeLessThan(0.1 * judged.length);
  },
  600_000,
);

test('the order of steps that do not touch one another changes no name', () => {
  const random = makeRandom(7);
  for (let trial = 0; trial < 6; trial++) {
    const spots = [10, 45, 80].map((at) => at + Math.floor(random() * 12));
    const made = [
      [0, 1, 2],
      [2, 0, 1],
      [1, 2, 0],
    ].map((order) => {
      const part = PartBuilder.block('120 mm', '60 mm', '20 mm');
      for (const i of order) {
        const at = spots[i] ?? 0;
        part.sketch(`g${i}`, 'front');
        place(part, `g${i}`, `${at} mm`, '14 mm', '8 mm', '30 mm', [at, 14, 8, 30]);
        part.step({ type: 'extrude', id: `g${i}_cut`, sketch: `g${i}`, operation: 'remove', extent: 'through', isReversed: true, body: 'b' });
      }
      const regenerator = new Regenerator(kernel);
      const mesh = regenerator.mesh(build(kernel, part, regenerator).body()?.key ?? '');
      return [mesh?.faces, mesh?.edges].map((list) => [...new Set(list?.map(({ name }) => name))].sort());
    });
    expect(made[0]?.[0]?.length).toBeGreaterThan(10);
    expect(made[1]).toEqual(made[0]);
    expect(made[2]).toEqual(made[0]);
  }
});
