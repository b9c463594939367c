/**
 * Whatever edit is acknowledged, well-formed or made to do harm, leaves a document that opens, saves, exports and imports again
 * to the same bytes.
 */
import fc from 'fast-check';
import {
  applyEdit,
  contentText,
  DocumentValues,
  editSchema,
  readProjectFile,
  writeProjectFile,
  type Document,
  type DocumentRecord,
  type Edit,
} from '@/core/document';
import { publishValues } from '@/core/links';
import { demoDocument } from '../support/demo';

const STARTS = ['Side frame', 'Loom sizes', 'Ratchet wheel', 'Warp beam'].map((name) => demoDocument(name));

type PatchOp = Extract<Edit, { readonly type: 'patch' }>['ops'][number];

/** What a hostile or broken client puts in the place of anything. */
const POISON = fc.constantFrom<unknown>(
  '__proto__',
  'constructor',
  '../x',
  '',
  'nowhere',
  'x-axis',
  '1 mm ^ 100',
  '1e999999999',
  'mm^100',
  'length=99999999',
  'foot-pound',
  '\u0000',
  '\ud800',
  'a\u202eb',
  'parameters',
  'steps',
  -1,
  0,
  1e308,
  1e9,
  null,
  true,
  [],
  {},
  { text: '1' },
);

function check(document: Document): void {
  const text = writeProjectFile({ name: 'Project', documents: [document] });
  const read = readProjectFile(text);
  expect(read.ok ? [] : read.failure).toEqual([]);
  expect(read.ok && writeProjectFile(read.value)).toBe(text);
  const values = new DocumentValues(document);
  for (const id of Object.keys(document.records)) values.show(id);
  publishValues(values);
  contentText(document);
}

/** All places in a piece of JSON. */
function placesIn(data: unknown, path: readonly (string | number)[] = []): (readonly (string | number)[])[] {
  if (typeof data !== 'object' || data === null) return [path];
  const inside = Array.isArray(data)
    ? data.map((entry, i) => placesIn(entry, [...path, i]))
    : Object.entries(data).map(([key, entry]) => placesIn(entry, [...path, key]));
  return [path, ...inside.flat()];
}

function putAt(data: unknown, path: readonly (string | number)[], value: unknown): unknown {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  if (Array.isArray(data)) return data.map((entry: unknown, i) => (i === key ? putAt(entry, rest, value) : entry));
  return Object.fromEntries(Object.entries(data as Record<string, unknown>).map(([name, entry]) => [name, name === key ? putAt(entry, rest, value) : entry]));
}

/** Edits and patches that fit the document, as starting points for harm. */
function soundEdits(document: Document): fc.Arbitrary<Edit> {
  const ids = Object.keys(document.records);
  const someId = fc.constantFrom(...ids);
  const someRecord = someId.map((id) => document.records[id] as DocumentRecord);
  const lists = fc.constantFrom(...Object.keys(document.lists));
  const put: fc.Arbitrary<PatchOp> = fc.tuple(someRecord, someRecord, fc.boolean()).map(([before, other, isGone]) => ({
    op: 'put',
    id: before.id,
    before,
    after: isGone ? null : other.type === before.type ? { ...other, id: before.id } : before,
  }));
  const drop: fc.Arbitrary<PatchOp> = lists.map((list) => ({ op: 'remove', list, id: document.lists[list]?.[0] ?? '', after: null }));
  const insert: fc.Arbitrary<PatchOp> = fc.tuple(lists, someId).map(([list, id]) => ({ op: 'insert', list, id, after: null }));
  const replace = someRecord.map((record): Edit => {
    switch (record.type) {
      case 'parameter':
        return {
          type: 'parameter.update',
          id: record.id,
          changes: { displayUnit: 'mm', note: 'note', kind: 'length', choices: ['1 mm', '2 mm'], least: { text: '1 mm' } },
        };
      case 'table':
        return { type: 'table.put', table: record };
      case 'guard':
        return { type: 'guard.put', guard: record };
      case 'goal':
        return { type: 'goal.put', goal: record };
      case 'link':
        return {
          type: 'link.put',
          link: record,
          takes: Object.values(document.records).flatMap((one) => (one.type === 'take' && one.link === record.id ? one : [])),
        };
      case 'take':
        return {
          type: 'link.catchUp',
          id: record.link,
          revision: 3,
          hash: 'abc',
          values: { [record.id]: { kind: 'quantity', dimension: 'length=1', value: 20_000, unit: 'mm' } },
        };
      case 'body':
        return { type: 'body.put', body: record };
      case 'point':
        return { type: 'sketch.reshape', sketch: record.sketch, points: { [record.id]: [1, 2] }, radii: {} };
      case 'dimension':
        return { type: 'dimension.update', id: record.id, at: [1, 2], isReference: true };
      case 'constraint':
        return {
          type: 'sketch.draw',
          sketch: record.sketch,
          entities: [{ type: 'point', id: 'fresh', sketch: record.sketch, x: 1, y: 2 }],
          constraints: [{ ...record, id: 'fresh-constraint' }],
          dimensions: [
            {
              type: 'dimension',
              id: 'fresh-dimension',
              sketch: record.sketch,
              kind: 'horizontal',
              on: ['origin', 'fresh'],
              parameter: 'fresh-value',
              at: [0, 0],
            },
          ],
          values: [{ type: 'parameter', id: 'fresh-value', owner: record.sketch, name: 'fresh_value', formula: { text: '3 mm' }, kind: 'length' }],
        };
      case 'line':
        return { type: 'sketch.reconnect', id: record.id, start: record.end };
      case 'sketch':
        return { type: 'step.update', step: record, values: [] };
      default:
        return { type: 'dismissal.put', dismissal: { type: 'dismissal', id: 'fresh-dismissal', key: 'key', reason: 'reason' } };
    }
  });
  return fc.oneof(
    replace,
    fc.array(fc.oneof(put, drop, insert), { minLength: 1, maxLength: 3 }).map((ops): Edit => ({ type: 'patch', ops })),
    fc.constant<Edit>({ type: 'document.setUnits', units: { length: 'in', angle: 'deg', mass: 'lb' } }),
    fc.constant<Edit>({ type: 'document.rename', name: 'Renamed' }),
    someId.map((id): Edit => ({ type: 'parameter.setFormula', id, formula: { text: '2 * 3 mm', names: { a: id } } })),
    fc.constant<Edit>({
      type: 'parameter.add',
      parameter: { type: 'parameter', id: 'fresh', name: 'fresh', formula: { text: '1' }, kind: 'any', tolerance: { kind: 'symmetric', by: { text: '1' } } },
    }),
  );
}

test('an edit that is acknowledged leaves a document that opens, saves, exports and imports to the same bytes', () => {
  const counts = { made: 0, refusedByEdit: 0, refusedAtDoor: 0 };
  const start = fc.constantFrom(...STARTS);
  const harm = fc.array(
    fc.tuple(
      fc.nat(),
      fc.oneof(
        POISON,
        fc.nat({ max: 200 }).map((pick) => ({ pick })),
      ),
    ),
    { maxLength: 2 },
  );
  fc.assert(
    fc.property(
      start.chain((document) => fc.tuple(fc.constant(document), fc.array(fc.tuple(soundEdits(document), harm), { minLength: 1, maxLength: 4 }))),
      ([document, edits]) => {
        let now = document;
        for (const [sound, changes] of edits) {
          let data: unknown = JSON.parse(JSON.stringify(sound));
          for (const [place, value] of changes) {
            const places = placesIn(data);
            const ids = Object.keys(document.records);
            const poison = typeof value === 'object' && value !== null && 'pick' in value ? ids[Number(value.pick) % ids.length] : value;
            data = putAt(data, places[place % places.length] ?? [], poison);
          }
          // What the door lets in is what a server applies.
          const read = editSchema.safeParse(data);
          if (!read.success) {
            counts.refusedAtDoor++;
            continue;
          }
          const result = applyEdit(now, read.data);
          if (!result.ok) {
            counts.refusedByEdit++;
            expect(result.failure.message).not.toBe('');
            continue;
          }
          counts.made++;
          now = result.value.document;
          check(now);
          const undone = applyEdit(now, result.value.inverse);
          expect(undone.ok ? undone.value.document.records : undone.failure).toEqual(expect.any(Object));
          if (undone.ok) check(undone.value.document);
        }
      },
    ),
    { numRuns: 600 },
  );
  for (const count of Object.values(counts)) expect(count).toBeGreaterThan(100);
});

test.each<[string, unknown]>([
  [
    'a value under the id of a guard',
    { type: 'guard.put', guard: { type: 'guard', id: 'weaving-width', condition: { text: 'yes' }, message: '', severity: 'error' } },
  ],
  [
    'a value under the id of a goal',
    { type: 'goal.put', goal: { type: 'goal', id: 'weaving-width', of: { text: '1' }, wanted: { text: '1' }, by: [{ text: 'teeth' }] } },
  ],
  ['a dismissal under the id of a value', { type: 'dismissal.put', dismissal: { type: 'dismissal', id: 'weaving-width', key: 'k', reason: '' } }],
  [
    'a link under the id of a value',
    { type: 'link.put', link: { type: 'link', id: 'weaving-width', source: 'x', sourceName: '', policy: 'ask', revision: 0, hash: '' }, takes: [] },
  ],
  [
    'a record that is in no list',
    { type: 'patch', ops: [{ op: 'put', id: 'ghost', before: null, after: { type: 'dismissal', id: 'ghost', key: 'k', reason: '' } }] },
  ],
  ['a list entry without a record', { type: 'patch', ops: [{ op: 'insert', list: 'parameters', id: 'ghost', after: null }] }],
  [
    'two values of one name',
    {
      type: 'patch',
      ops: [
        {
          op: 'put',
          id: 'teeth',
          before: demoDocument('Loom sizes').records['teeth'],
          after: { ...demoDocument('Loom sizes').records['teeth'], name: 'weaving_width' },
        },
      ],
    },
  ],
])('%s is refused, and says so', (_, data) => {
  const read = editSchema.safeParse(data);
  expect(read.success).toBe(true);
  if (read.success)
    expect(applyEdit(demoDocument('Loom sizes'), read.data)).toMatchObject({
      ok: false,
      failure: { message: expect.stringMatching(/here already|would break/) as string },
    });
});

test.each<[string, unknown]>([
  ['units that are none', { type: 'document.setUnits', units: { length: 'foot-pound', angle: 'deg', mass: 'kg' } }],
  ['units of another kind', { type: 'document.setUnits', units: { length: 'kg', angle: 'deg', mass: 'mm' } }],
  ['a display unit that is none', { type: 'parameter.update', id: 'teeth', changes: { displayUnit: 'mm^100' } }],
  [
    'a taken value of a dimension beyond measure',
    { type: 'link.catchUp', id: 'a', revision: 1, hash: '', values: { b: { kind: 'quantity', dimension: 'length=100', value: 1, unit: '' } } },
  ],
  ['an id of the language', { type: 'patch', ops: [{ op: 'put', id: '__proto__', before: null, after: null }] }],
  ['a name that cannot be seen', { type: 'document.rename', name: 'Side\u202e frame' }],
  ['half a character', { type: 'parameter.update', id: 'teeth', changes: { note: '\ud800' } }],
])('%s does not come in', (_, data) => {
  expect(editSchema.safeParse(data).success).toBe(false);
});

test('a byte order mark is read over', () => {
  expect(readProjectFile(`\uFEFF${writeProjectFile({ name: 'Project', documents: STARTS })}`).ok).toBe(true);
});
