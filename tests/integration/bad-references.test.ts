/**
 * The loom of the demo with one thing wrong at a time, more than two hundred of them: each is told where it is, in words, nothing throws, and
 * everything else is still there. Records are changed behind the back of the edits, as a file or another program might.
 */
import { placeComponents, type ShapeSource } from '@/core/assembly';
import { findRecord, listRecords, type Component, type Document, type DocumentRecord, type DocumentValues, type Drive } from '@/core/document';
import { headsOf, openValues, type InstanceSource } from '@/core/instances';
import { clientFromSource } from '@/workers/start-thread';
import { buildWhole } from '@/workers/whole-assembly';
import { demoDocument, demoDocuments } from '../support/demo';

const loom = demoDocument('Loom');
let source: InstanceSource;
let shapes: ShapeSource;
let usual: ReturnType<typeof look>;

beforeAll(async () => {
  const client = clientFromSource();
  const whole = await buildWhole(client, loom, headsOf(demoDocuments()).snapshot);
  client.close();
  if ('failure' in whole) throw new Error(whole.part);
  source = whole.source;
  // What was not looked at is not there: the parts are built.
  shapes = (wanted) => whole.shapes(wanted) ?? 'lost';
  usual = look(loom);
}, 240_000);

function look(document: Document, as: ShapeSource = shapes) {
  const values = openValues(document, source);
  return { values, placement: placeComponents(values, as) };
}

const withRecord = (id: string, change: (record: DocumentRecord) => DocumentRecord): Document => {
  const record = loom.records[id];
  if (!record) throw new Error(id);
  return { ...loom, records: { ...loom.records, [id]: change(record) } };
};
const withFormula = (id: string, text: string): Document =>
  withRecord(id, (record) => (record.type === 'parameter' || record.type === 'drive' ? { ...record, formula: { text } } : record));
const withComponent = (id: string, changes: Partial<Component>): Document => withRecord(id, (record) => ({ ...record, ...changes }) as Component);

/** Everything that stood in the loom stands somewhere, and each mate that does not hold says why. */
function expectRest(found: ReturnType<typeof look>, except: ReadonlySet<string>): void {
  for (const id of usual.placement.stances.keys()) {
    if (except.has(id)) continue;
    const at = found.placement.stances.get(id);
    expect([id, at?.origin.every(Number.isFinite)]).toEqual([id, true]);
  }
  for (const mate of listRecords(found.values.document, 'mates', 'mate')) {
    const outcome = found.placement.mates.get(mate.id);
    expect([mate.name, outcome?.status]).not.toEqual([mate.name, undefined]);
    if (outcome?.status !== 'holds' && outcome?.status !== 'suppressed' && outcome?.status !== 'redundant') expect(outcome?.message).toMatch(/^[A-Z].{8,}\.$/);
  }
}

const mates = listRecords(loom, 'mates', 'mate');
const sides = mates.flatMap((mate) => (['first', 'second'] as const).map((side) => ({ mate, side, words: `${mate.name}, ${side}` })));

describe.each(sides)('$words', ({ mate, side }) => {
  const { path } = mate[side];
  test.each([
    ['a face that is gone', { path, body: 'b', name: 'gone/side(x)' }, 'failed', 'no longer there'],
    ['a component that is gone', { path: ['nobody'], plane: 'top' }, 'waiting', 'not there'],
    ['a component inside that is gone', { path: [...path, 'nobody'], plane: 'top' }, 'waiting', 'not there'],
    ['thirty-two levels of nothing', { path: Array.from({ length: 32 }, () => path[0] ?? ''), plane: 'top' }, 'waiting', 'not there'],
    ['geometry of another sort', { path, origin: true }, 'failed', 'does not go with'],
  ] as const)('%s', (_, reference, status, words) => {
    const found = look(withRecord(mate.id, (record) => ({ ...record, [side]: reference })));
    const outcome = found.placement.mates.get(mate.id);
    // A plane takes a point too: then it holds, or says what it cannot be with.
    if ('origin' in reference && side === 'second' && mate.kind === 'coplanar') expect(outcome?.status).toMatch(/holds|conflicting|redundant/);
    else expect([outcome?.status, outcome?.message]).toEqual([status, expect.stringContaining(words)]);
    expectRest(found, new Set());
  });

  test('a face that is bent now', () => {
    const { [side]: reference } = mate;
    if (!('body' in reference)) return;
    const bent: ShapeSource = (wanted) => (wanted.name === reference.name && wanted.body === reference.body ? { kind: 'other', area: 1 } : shapes(wanted));
    const found = look(loom, bent);
    expect(found.placement.mates.get(mate.id)).toMatchObject({ status: 'failed', message: expect.stringContaining('cannot use') as string });
    expectRest(found, new Set());
  });
});

const values = mates.flatMap((mate) => Object.values(mate.values).map((id) => ({ id, mate: mate.id, name: findRecord(loom, id, 'parameter')?.name ?? id })));

describe.each(values)('the value $name', ({ id, mate, name }) => {
  test.each(['1 kg', 'nothing_there + 1 mm', '2 mm *', name, '1 mm / 0', '"text"'])('%s', (text) => {
    const found = look(withFormula(id, text));
    expect(found.placement.mates.get(mate)).toMatchObject({ status: 'failed', message: expect.stringMatching(/^Its value has an error: [A-Z"1-9]/) as string });
    expectRest(found, new Set());
  });
});

const drives = listRecords(loom, 'components', 'component').flatMap((component) => listRecords(loom, `${component.id}/drives`, 'drive'));

describe.each(drives)('$sourceName that is set', (drive) => {
  const told = ({ sheet }: DocumentValues): string => sheet.read(drive.id)?.diagnostics[0]?.message ?? '';
  test.each([
    ['1 kg', 'length'],
    ['nothing_there', 'nothing_there'],
    ['2 *', ''],
    [`if(${'('.repeat(20)}`, ''],
  ])('to %s', (text, words) => {
    const found = look(withFormula(drive.id, text));
    expect(told(found.values)).toMatch(/^[A-Z"].{5,}/);
    if (drive.sourceName !== 'thread_pull') expect(told(found.values)).toContain(words);
    expectRest(found, new Set());
  });

  test.each([
    ['a value that was removed', ['gone']],
    ['a component inside that was removed', ['gone', 'gone']],
    ['a record that is no value', [Object.values(documentOf(drive).records).find(({ type }) => type === 'guard' || type === 'point')?.id ?? 'none']],
  ])('%s', (_, path) => {
    const found = look(withRecord(drive.id, (record) => ({ ...record, path }) as Drive));
    expect(told(found.values)).toMatch(/cannot be set/);
    expectRest(found, new Set());
  });
});

function documentOf(drive: Drive): Document {
  const component = findRecord(loom, drive.component, 'component');
  const found = demoDocuments().find(({ id }) => id === component?.source);
  if (!found) throw new Error(drive.sourceName);
  return found;
}

describe.each(listRecords(loom, 'components', 'component'))('the component $name', (component) => {
  const { id } = component;
  test('of a document that is not there, or that it stands in', () => {
    for (const [changes, words] of [
      [{ source: 'nowhere' }, 'being loaded'],
      [{ source: loom.id }, 'would contain itself'],
      [{ size: { text: '"Enormous"' } }, 'has no size'],
      [{ size: { text: '1 kg' } }, 'has an error'],
    ] as const) {
      const found = look(withComponent(id, changes));
      expect(found.values.components?.problemOf(id)).toContain(words);
      expectRest(found, new Set([id]));
    }
  });

  test('left out by a condition with an error, or truly', () => {
    const broken = look(withComponent(id, { suppressed: { text: '1 kg' } }));
    expect(broken.values.conditionProblem(id)).toMatch(/^[A-Z].{8,}/);
    expectRest(broken, new Set([id]));
    const gone = look(withComponent(id, { suppressed: { text: '1 < 2' } }));
    expect(gone.placement.stances.has(id)).toBe(false);
    expectRest(gone, new Set([id]));
  });
});
