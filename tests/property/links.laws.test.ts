import fc from 'fast-check';
import { applyEdit, contentText, createDocument, DocumentValues, limitsOf, type Document, type Edit, type TakenValue } from '@/core/document';
import { applySetting, catchUpProject, planCatchUp, planWithout, publishValues, type PlannedDocument } from '@/core/links';
import { demoDocuments, edited } from '../support/demo';
import { generateProject } from '../support/generated-project';

const planned = (document: Document, published?: Readonly<Record<string, TakenValue>>): PlannedDocument => ({
  document,
  revision: 1,
  hash: '',
  published: published ?? publishValues(new DocumentValues(document)),
});

/** How many taken values of each document are behind; documents that are not behind are left out. */
function findBehind(documents: readonly PlannedDocument[]): Map<string, number> {
  const plan = planCatchUp(documents, new Set(documents.map(({ document }) => document.id)), { isStrict: true });
  return new Map(plan.documents.map((entry) => [entry.id, entry.changes.filter((change) => change.isTaken).length]));
}

const setWidth = (documents: readonly Document[], text: string): readonly Document[] => {
  const result = applySetting(documents, `Loom sizes.weaving_width=${text}`);
  if (!result.ok) throw new Error(result.failure.message);
  return result.documents;
};

test('a changed master marks exactly the documents that take what changed', () => {
  const documents = setWidth(demoDocuments(), '480 mm');
  const behind = findBehind(documents.map((document) => planned(document)));
  expect(Object.fromEntries(behind)).toEqual({
    'side-frame': 1,
    'cross-rail': 1,
    'warp-beam': 2,
    reed: 2,
    'warp-tension': 1,
    // The number of dents.
    'let-off-brake': 1,
    // The wheel uses the calculation, and stands in the unit.
    'ratchet-wheel': 1,
    'beam-unit': 2,
    loom: 5,
  });
});

test('a change of nothing that is taken leaves everybody alone', () => {
  const documents = setWidth(demoDocuments(), '40 cm');
  expect(findBehind(documents.map((document) => planned(document))).size).toBe(0);
});

test('renaming at the source changes nothing downstream', () => {
  const documents = demoDocuments().map((document) =>
    document.kind === 'master' ? edited(document, { type: 'value.rename', id: 'frame-stock', name: 'board' }) : document,
  );
  expect(findBehind(documents.map((document) => planned(document))).size).toBe(0);
});

test('an error at the source arrives as one, with the reason', () => {
  const { documents } = catchUpProject(setWidth(demoDocuments(), '50 mm'));
  const side = documents.find((document) => document.name === 'Side frame');
  if (!side) throw new Error('no side');
  const values = new DocumentValues(side);
  expect(values.show('side-frame-depth')?.diagnostics[0]?.message).toContain('frame_depth has an error in Loom sizes');
  expect(values.show('edge-w')?.diagnostics[0]?.message).toBe('Waiting on frame_depth.');
});

/** A row of documents, each taking `out` of the one before as `in` and giving `out` = in * factor. */
function chain(factors: readonly number[]): Document[] {
  const documents: Document[] = [];
  for (const [i, factor] of factors.entries()) {
    const name = `D${i}`;
    const edits: Edit[] = [];
    if (i > 0) {
      const value: TakenValue = { kind: 'quantity', dimension: 'length=1', value: 10_000, unit: 'mm' };
      edits.push({
        type: 'link.put',
        link: { type: 'link', id: `l${i}`, source: `d${i - 1}`, sourceName: `D${i - 1}`, policy: 'ask', revision: 1, hash: '' },
        takes: [{ type: 'take', id: `t${i}`, link: `l${i}`, parameter: `out${i - 1}`, name: 'input', sourceName: 'out', value }],
      });
    }
    edits.push({
      type: 'parameter.add',
      parameter: { type: 'parameter', id: `out${i}`, name: 'out', formula: { text: i === 0 ? '7 mm' : `input * ${factor}` }, kind: 'length', offered: true },
    });
    documents.push(edited(createDocument(`d${i}`, i === 0 ? 'master' : 'part', name), ...edits));
  }
  return documents;
}

test('catching up in any order, one by one, ends where catching up all at once does', () => {
  fc.assert(
    fc.property(
      fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 2, maxLength: 6 }),
      fc.array(fc.nat(5), { minLength: 40, maxLength: 40 }),
      (factors, order) => {
        const all = chain(factors);
        const expected = catchUpProject(all).documents.map((document) => new DocumentValues(document).sheet.readNumber(`out${document.id.slice(1)}`));
        let documents = all.map((document) => planned(document));
        for (const pick of order) {
          const target = documents[pick % documents.length]?.document.id ?? '';
          const plan = planCatchUp(documents, new Set([target]));
          documents = documents.map((entry) => {
            const done = plan.documents.find(({ id }) => id === entry.document.id);
            return done ? planned(done.after, done.publishedAfter) : entry;
          });
        }
        // Enough rounds over all of them bring everything to rest.
        for (let round = 0; round < factors.length; round++) {
          const plan = planCatchUp(documents, new Set(documents.map(({ document }) => document.id)));
          documents = documents.map((entry) => {
            const done = plan.documents.find(({ id }) => id === entry.document.id);
            return done ? planned(done.after, done.publishedAfter) : entry;
          });
        }
        expect(documents.map(({ document }) => new DocumentValues(document).sheet.readNumber(`out${document.id.slice(1)}`))).toEqual(expected);
        expect(findBehind(documents).size).toBe(0);
      },
    ),
    { numRuns: 60 },
  );
});

test('two documents that link each other are fine while no value depends on itself', () => {
  const link = (to: string, from: string, parameter: string, value: number): Edit => ({
    type: 'link.put',
    link: { type: 'link', id: `${to}-link`, source: from, sourceName: from, policy: 'ask', revision: 1, hash: '' },
    takes: [
      {
        type: 'take',
        id: `${to}-take`,
        link: `${to}-link`,
        parameter,
        name: 'taken',
        sourceName: 'x',
        value: { kind: 'quantity', dimension: 'length=1', value, unit: 'mm' },
      },
    ],
  });
  const add = (id: string, name: string, text: string): Edit => ({
    type: 'parameter.add',
    parameter: { type: 'parameter', id, name, formula: { text }, kind: 'length' },
  });
  const a = edited(createDocument('a', 'master', 'A'), link('a', 'b', 'b-own', 0), add('a-own', 'own', '5 mm'), add('a-sum', 'total', 'taken + own'));
  const b = edited(createDocument('b', 'part', 'B'), link('b', 'a', 'a-own', 0), add('b-own', 'own', '3 mm'), add('b-sum', 'total', 'taken * 2'));
  const { documents, plan } = catchUpProject([a, b]);
  expect(plan.cycle).toEqual([]);
  expect(documents.map((document) => new DocumentValues(document).show(`${document.id}-sum`)?.shown)).toEqual(['8 mm', '10 mm']);

  const loop = edited(b, { type: 'parameter.setFormula', id: 'b-own', formula: { text: 'taken + 1' } });
  const looped = edited(a, { type: 'parameter.setFormula', id: 'a-own', formula: { text: 'taken + 1' } });
  expect(catchUpProject([looped, loop]).plan.cycle).toEqual(['A: taken', 'B: own', 'B: taken', 'A: own']);
});

test('a held link stays where it is, and its document is not behind', () => {
  const source = edited(createDocument('s', 'master', 'S'), {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'width', name: 'width', formula: { text: '5 mm' }, kind: 'length' },
  });
  const taker = (policy: 'ask' | 'hold') =>
    edited(createDocument(policy, 'part', policy), {
      type: 'link.put',
      link: { type: 'link', id: 'l', source: 's', sourceName: 'S', policy, revision: 1, hash: '' },
      takes: [
        {
          type: 'take',
          id: 't',
          link: 'l',
          parameter: 'width',
          name: 'width',
          sourceName: 'width',
          value: { kind: 'quantity', dimension: 'length=1', value: 1, unit: 'mm' },
        },
      ],
    });
  const { plan } = catchUpProject([source, taker('ask'), taker('hold')]);
  expect(plan.documents.map(({ id }) => id)).toEqual(['ask']);
});

test('a link to a taken name asks for an alias and never adds a suffix by itself', () => {
  const side = demoDocuments().find((document) => document.name === 'Side frame');
  if (!side) throw new Error('no side');
  const value: TakenValue = { kind: 'quantity', dimension: 'length=1', value: 1, unit: 'mm' };
  const result = applyEdit(side, {
    type: 'link.put',
    link: { type: 'link', id: 'other', source: 'cross-rail', sourceName: 'Cross rail', policy: 'ask', revision: 1, hash: '' },
    takes: [{ type: 'take', id: 'clash', link: 'other', parameter: 'rail-length', name: 'depth', sourceName: 'rail_length', value }],
  });
  expect(result).toMatchObject({ ok: false, failure: { code: 'bad-name', repairs: [{ text: 'depth_2' }] } });
});

test('a network of documents that catch up one by one, in any order, has the very content of one that does so at once', () => {
  const generated = generateProject([1, 3, 6, 8]);
  const [master] = generated.documents;
  if (!master) throw new Error('no master');
  const changed = edited(master, { type: 'parameter.setFormula', id: 'out', formula: { text: '141 mm' } });
  const start = generated.documents.map((document) => planned(document === master ? changed : document));
  const everybody = new Set(start.map(({ document }) => document.id));
  const apply = (documents: readonly PlannedDocument[], targets: ReadonlySet<string>): PlannedDocument[] => {
    const plan = planCatchUp(documents, targets);
    return documents.map((entry) => {
      const done = plan.documents.find(({ id }) => id === entry.document.id);
      return done ? { ...planned(done.after, done.publishedAfter), revision: entry.revision + 1 } : entry;
    });
  };
  const contents = (documents: readonly PlannedDocument[]): string[] => documents.map(({ document }) => contentText(document));
  const atOnce = contents(apply(start, everybody));
  fc.assert(
    fc.property(fc.array(fc.nat(start.length - 1), { maxLength: 30 }), (order) => {
      let documents: PlannedDocument[] = [...start];
      for (const pick of order) documents = apply(documents, new Set([start[pick]?.document.id ?? '']));
      expect(contents(apply(documents, everybody))).toEqual(atOnce);
    }),
    { numRuns: 25 },
  );
});

test('a document that is held out of a plan keeps what depends on it out too', async () => {
  const generated = generateProject([1, 3, 6]);
  const [master] = generated.documents;
  if (!master) throw new Error('no master');
  const documents = generated.documents.map((document) =>
    planned(document === master ? edited(master, { type: 'parameter.setFormula', id: 'out', formula: { text: '9 mm' } }) : document),
  );
  const { plan, left } = await planWithout(
    documents,
    new Set(documents.map(({ document }) => document.id)),
    ({ id }) => (id === 'g1-0' ? 'Not today.' : undefined),
    (among, targets) => Promise.resolve(planCatchUp(among, targets)),
  );
  const isLeft = new Set(left.map(({ id }) => id));
  expect(left[0]).toEqual({ id: 'g1-0', name: 'g1-0', reason: 'Not today.' });
  for (const { after } of plan.documents) {
    const sources = Object.values(after.records).flatMap((record) => (record.type === 'link' ? record.source : []));
    expect(sources.some((source) => isLeft.has(source))).toBe(false);
  }
  expect(plan.documents.length + left.length).toBe(9);
});

test('what follows comes along only where its source changes, and never against a hold', () => {
  const documents = generateProject([1, 2, 4], 'follow').documents;
  const [master] = documents;
  if (!master) throw new Error('no master');
  const changed = edited(master, { type: 'parameter.setFormula', id: 'out', formula: { text: '5 mm' } });
  const fresh = documents.map((document) => (document === master ? { ...planned(changed), isFresh: true } : planned(document)));
  expect(planCatchUp(fresh, new Set()).documents).toHaveLength(6);
  expect(planCatchUp(fresh, new Set()).documents.every(({ comesAlong }) => comesAlong)).toBe(true);
  expect(planCatchUp(fresh, new Set(), { isStrict: true }).documents).toEqual([]);
  // Nothing was saved just now: whoever was asked before is still asked.
  const stale = fresh.map((entry) => ({ ...entry, isFresh: false }));
  expect(planCatchUp(stale, new Set()).documents).toEqual([]);
});

test('a tolerance that changes at the source marks those who take the value, and comes with it', () => {
  const [master, taker] = generateProject([1, 1]).documents;
  if (!master || !taker) throw new Error('no documents');
  const fit = edited(master, { type: 'parameter.update', id: 'out', changes: { tolerance: { kind: 'symmetric', by: { text: '0.2 mm' } } } });
  const plan = planCatchUp([planned(fit), planned(taker)], new Set([taker.id]));
  const [entry] = plan.documents;
  expect(entry?.changes).toEqual([{ id: 't0', name: 'in_0', before: '100 mm', after: '100 mm ±0.2 mm', isTaken: true }]);
  expect(entry && limitsOf(new DocumentValues(entry.after), 't0')).toMatchObject({ shown: '99.8 mm to 100.2 mm' });
  expect(findBehind([planned(fit), planned(entry?.after ?? taker)]).size).toBe(0);
});
