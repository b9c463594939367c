/** Every size of an assembly built and judged, on a real worker thread: masses and what stands in one another, by hand. */
import { unzipSync } from 'fflate';
import { listSizes, SIZE_TABLE, type Document } from '@/core/document';
import type { CheckedSize } from '@/contract';
import { checkSizes } from '@/ui/sizes/check-sizes';
import { InstanceLibrary } from '@/core/instances';
import { exportSizes, nameFiles, NAME_PATTERN } from '@/ui/sizes/export-sizes';
import { RegenerationClient } from '@/workers/client';
import type { SmallPicture } from '@/workers/small-picture';
import { startSourceThread } from '@/workers/start-thread';
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
  const client = new RegenerationClient(startSourceThread);
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
