import { createDocument, DocumentValues } from '@/core/document';
import type { Place } from '@/core/drawing';
import { amountWords, baseWords } from '../state/amount-words';
import { readDraft } from './draft-reading';

const PLACES: Readonly<Record<string, Place>> = { a: [0, 0], b: [30, 40], c: [-10, 40] };
const point = (id: string): Place => PLACES[id] ?? [0, 0];
const line = (id: string, start: string, end: string) => ({ type: 'line', id, sketch: 's', start, end }) as const;

test('what is drawn is read as it is drawn', () => {
  expect(readDraft(undefined, [3, -4], [], point, () => 0)).toEqual([
    { kind: 'length', value: 3 },
    { kind: 'length', value: -4 },
  ]);
  const [length, angle] = readDraft([0, 0], [30, 40], [line('l', 'a', 'b')], point, () => 0);
  // The 3-4-5 triangle.
  expect(length).toEqual({ kind: 'length', value: 50 });
  expect(angle?.value).toBeCloseTo(53.130_102, 6);
  expect(readDraft([0, 0], [30, 40], [line('ab', 'a', 'b'), line('bc', 'b', 'c')], point, () => 0).map(({ value }) => value)).toEqual([50, 40]);
  expect(readDraft([0, 0], [30, 40], [{ type: 'circle', id: 'k', sketch: 's', centre: 'a', radius: 12 }], point, () => 12)).toEqual([
    { kind: 'length', value: 24, prefix: '⌀ ' },
  ]);
  expect(readDraft([0, 0], [30, 40], [], point, () => 0)[0]).toEqual({ kind: 'length', value: 50 });
});

test('lengths and angles are told in the units of the document', () => {
  const values = new DocumentValues(createDocument('d', 'part', 'D'));
  expect(amountWords(values, 'length', 50.8)).toBe('50.8 mm');
  expect(amountWords(values, 'angle', 53.130_102)).toBe('53.13°');
  expect(baseWords(values, 'area', 2_500 * 10_000 ** 2)).toBe('2500 mm²');
});
