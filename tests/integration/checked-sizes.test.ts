/** Every size of a part, or of an assembly, built and judged, on a real worker thread: masses and what stands in one another, by hand. */
import { unzipSync } from 'fflate';
import { inSize, listSizes, SIZE_TABLE, type Document } from '@/core/document';
import type { CheckedSize } from '@/contract';
import { checkSizes } from '@/ui/sizes/check-sizes';
import { InstanceLibrary, openValues } from '@/core/instances';
import { Regenerator } from '@/core/steps';
import { createKernel } from '@/kernel/create-kernel';
import { exportSizes, nameFiles, NAME_PATTERN } from '@/ui/sizes/export-sizes';
import type { SmallPicture } from '@/workers/small-picture';
import { clientFromSource } from '@/workers/start-thread';
import { component, driven, withComponents, withParameters } from '../support/assemblies';
import { edited } from '../support/demo';
import { PartBuilder } from '../support/part-builder';

const BLOCK: Document = { ...PartBuilder.block('40 mm', '30 mm', '20 mm').document, id: 'block', name: 'Block' };

/** Snapshots as a page has them. */
const library = (): InstanceLibrary => new InstanceLibrary({ 'block@1': BLOCK });

/** Two blocks side by side, the second 50 mm along x, as wide as the assembly says. */
function pair(): Document {
  const beside = { origin: [50, 0, 0] as [number, number, number], turn: [1, 0, 0, 0] as [number, number, number, number] };
  const document = withComponents(
    withParameters('assembly', 'pair', { width: '40 mm' }),
    component('left', 'block'),
    component('right', 'block', { at: beside }),
  );
  const sizes = ['Narrow:20 mm', 'Wide:60 mm', 'Flat:0 mm'].map((row): [string, string] => [row.split(':')[0] ?? '', row.split(':')[1] ?? '']);
  return edited(
    driven(document, 'left.base_w', 'width', ['base_w']),
    {
      type: 'sizes.columns',
      columns: ['pair-width'],
    },
    ...sizes.map(([name, text]) => ({ type: 'size.put' as const, size: { type: 'size' as const, id: name, name, cells: { 'pair-width': { text } } } })),
  );
}

test('sizes of an assembly are built with their parts, and are told by mass, failing steps and interference', async () => {
  const document = pair();
  expect(document.records[SIZE_TABLE]).toBeDefined();
  const client = clientFromSource();
  const found = new Map<string, CheckedSize>();
  const pictures: SmallPicture[] = [];
  const sizes = listSizes(document).map(({ id }) => id);
  const keepPicture = (picture: SmallPicture): undefined => void pictures.push(picture);
  await checkSizes(client, document, library(), sizes, (size, checked) => void found.set(size, checked), keepPicture);
  // Flat has its second block alone.
  const named = nameFiles(document, NAME_PATTERN, 'step', () => undefined);
  const names = named.ok ? named.value : new Map<string, string>();
  const made = await exportSizes(client, document, library(), { format: 'step', names, table: 'size' }, () => undefined);
  client.close();
  expect(Object.keys(unzipSync(made?.zip ?? new Uint8Array()))).toEqual(['pair, Narrow.step', 'pair, Wide.step', 'pair, Flat.step', 'sizes.csv']);
  // Blocks of 30 by 20 mm in steel at 7.85 g/cm3.
  const mass = (...widths: number[]): unknown =>
    expect.closeTo(
      widths.reduce((sum, width) => sum + (width * 600 * 7.85) / 1e6, 0),
      9,
    );
  expect(found.get('Narrow')).toMatchObject({
    mass: mass(20, 40),
    volume: expect.closeTo(60 * 600, 6) as unknown,
    problems: [],
    held: [],
    readings: { 'pair-width': { value: 200_000, shown: '20 mm' } },
  });
  expect(pictures).toHaveLength(3);
  expect(found.get('Wide')).toMatchObject({ mass: mass(60, 40), problems: ['left and right stand in one another by 6000.0 mm³.'] });
  expect(found.get('Flat')?.problems.join(' ')).toMatch(/left: base: /);
});

describe('a table of fifty sizes', () => {
  const AMOUNTS = Array.from({ length: 50 }, (_, i) => i + 1);
  /** A block that no size changes, and a boss on it as high as the size says. */
  const stepped = (): Document => {
    const part = PartBuilder.block('40 mm', '30 mm', '20 mm')
      .value('height', '5 mm', 'length')
      .sketch('boss', 'top')
      .rectangle('boss', '10 mm', '10 mm', [100, 0], [10, 10])
      .step({ type: 'extrude', id: 'rise', sketch: 'boss', operation: 'start', extent: 'forward', body: 'p' }, { depth: 'height' });
    return edited(part.document, {
      type: 'sizes.put',
      sizes: AMOUNTS.map((height) => ({ id: `s${height}`, name: `H${height}`, cells: { height: { text: `${height} mm` } } })),
    });
  };

  test('is built size after size, and back again, and only what differs is built', async () => {
    const document = stepped();
    const regenerator = new Regenerator(await createKernel());
    const rebuild = (size: string | undefined) => {
      const sized = inSize(document, size);
      return regenerator.regenerate(sized, openValues(sized, library()));
    };
    expect(rebuild(undefined).rebuilt).toBe(4);
    // 5 mm is as it is written.
    expect(AMOUNTS.map((height) => rebuild(`s${height}`).rebuilt)).toEqual(AMOUNTS.map((height) => (height === 5 ? 0 : 1)));
    expect([...AMOUNTS].reverse().map((height) => rebuild(`s${height}`).rebuilt)).toEqual(AMOUNTS.map(() => 0));
  });

  test('is checked and written into one ZIP, each size as it should be', async () => {
    const document = stepped();
    const client = clientFromSource();
    const found = new Map<string, CheckedSize>();
    const sizes = listSizes(document).map(({ id }) => id);
    await checkSizes(client, document, library(), sizes, (size, checked) => void found.set(size, checked));
    const named = nameFiles(document, '{size} {height}', 'stl', (size) => `${size.slice(1)} mm`);
    const made = await exportSizes(client, document, library(), { format: 'stl', names: named.ok ? named.value : new Map() }, () => undefined);
    client.close();
    expect(AMOUNTS.map((height) => found.get(`s${height}`)?.volume)).toEqual(AMOUNTS.map((height) => expect.closeTo(24_000 + 100 * height, 6) as unknown));
    expect([...found.values()].every(({ problems }) => problems.length === 0)).toBe(true);
    expect(Object.keys(unzipSync(made?.zip ?? new Uint8Array()))).toEqual(AMOUNTS.map((height) => `H${height} ${height} mm.stl`));
  });
});
