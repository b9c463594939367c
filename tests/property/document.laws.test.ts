import fc from 'fast-check';
import { applyEdit, DocumentValues, editSchema, planRestore, readProjectFile, writeProjectFile, type Document, type Edit } from '@/core/document';
import { sameData } from '@/core/kit';
import { formulaText } from '../support/arbitraries';
import { DEMO_TEXT, demoDocument, demoDocuments } from '../support/demo';

const START = demoDocument('Side frame');
const IDS = Object.keys(START.records);
const NAMES = Object.values(START.records).flatMap((record) => ('name' in record ? record.name : []));

const someId = fc.constantFrom(...IDS, 'nowhere');
const someName = fc.oneof(fc.constantFrom(...NAMES), fc.constantFrom('fresh', 'max', 'two words', '3d', 'rail_gap'));
const readers = fc.constantFrom(
  { mode: 'refuse' as const },
  { mode: 'keep' as const },
  { mode: 'numbers' as const, numbers: Object.fromEntries(IDS.map((id) => [id, '1 mm'])) },
);

const anyEdit: fc.Arbitrary<Edit> = fc.oneof(
  fc.record({
    type: fc.constant('parameter.setFormula' as const),
    id: someId,
    formula: fc.record({ text: formulaText(NAMES.filter((name) => /^[a-z_]+$/.test(name))) }),
  }),
  fc.record({ type: fc.constant('value.rename' as const), id: someId, name: someName }),
  fc.record({ type: fc.constant('parameter.remove' as const), id: someId, readers }),
  fc.record({ type: fc.constant('parameter.move' as const), id: someId, after: fc.option(someId) }),
  fc.record({ type: fc.constant('step.move' as const), id: someId, after: fc.option(someId) }),
  fc.record({ type: fc.constant('step.remove' as const), id: someId, readers }),
  fc.record({ type: fc.constant('step.rename' as const), id: someId, name: someName }),
  fc.record({
    type: fc.constant('sketch.erase' as const),
    sketch: fc.constantFrom('outline', 'openings'),
    ids: fc.array(someId, { minLength: 1, maxLength: 3 }),
    readers,
  }),
  fc.record({ type: fc.constant('link.remove' as const), id: fc.constantFrom('side-sizes', 'nowhere'), readers }),
  fc.record({
    type: fc.constant('document.setUnits' as const),
    units: fc.constantFrom({ length: 'in', angle: 'deg', mass: 'lb' }, { length: 'mm', angle: 'deg', mass: 'kg' }),
  }),
  fc.record({ type: fc.constant('document.rename' as const), name: fc.constantFrom('Left side', 'Side frame') }),
  fc.record({
    type: fc.constant('parameter.add' as const),
    parameter: fc.record({
      type: fc.constant('parameter' as const),
      id: fc.constantFrom('new1', 'new2'),
      name: someName,
      formula: fc.record({ text: formulaText() }),
      kind: fc.constant('any'),
    }),
  }),
  fc.record({
    type: fc.constant('parameter.update' as const),
    id: someId,
    changes: fc.record({ pinned: fc.boolean(), note: fc.option(fc.string({ maxLength: 5 })), kind: fc.constantFrom('length', 'count', 'any') }),
  }),
);

/** The documents that a row of edits passes through; refused ones change nothing. */
function walk(edits: readonly Edit[], visit: (before: Document, edit: Edit, result: ReturnType<typeof applyEdit>) => void): Document {
  let document = START;
  for (const edit of edits) {
    const result = applyEdit(document, edit);
    visit(document, edit, result);
    if (result.ok) document = result.value.document;
  }
  return document;
}

test('applying the inverse gives the document back, and applying that inverse gives it again', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), (edits) => {
      walk(edits, (before, _, result) => {
        if (!result.ok) return;
        const undone = applyEdit(result.value.document, result.value.inverse);
        expect(undone.ok && sameData(undone.value.document, before)).toBe(true);
        const redone = undone.ok ? applyEdit(undone.value.document, undone.value.inverse) : undefined;
        expect(redone?.ok === true && sameData(redone.value.document, result.value.document)).toBe(true);
      });
    }),
    { numRuns: 150 },
  );
});

test('the difference names exactly the records that changed', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 8 }), (edits) => {
      walk(edits, (before, _, result) => {
        if (!result.ok) return;
        const after = result.value.document;
        const ids = new Set([...Object.keys(before.records), ...Object.keys(after.records)]);
        const changed = [...ids].filter((id) => !sameData(before.records[id], after.records[id])).sort();
        expect(result.value.diff.records.map(({ id }) => id).sort()).toEqual(changed);
      });
    }),
    { numRuns: 100 },
  );
});

test('values kept up to date by differences equal those of a new start', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), (edits) => {
      const living = new DocumentValues(START);
      const end = walk(edits, (_, __, result) => {
        if (result.ok) living.apply(result.value.document, result.value.diff);
      });
      const fresh = new DocumentValues(end);
      for (const id of Object.keys(end.records)) {
        expect({ id, shown: living.show(id)?.exact, codes: living.show(id)?.diagnostics.map((d) => d.code) }).toEqual({
          id,
          shown: fresh.show(id)?.exact,
          codes: fresh.show(id)?.diagnostics.map((d) => d.code),
        });
      }
    }),
    { numRuns: 100 },
  );
});

test('documents and edits survive JSON and structured clone', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 6 }), (edits) => {
      const end = walk(edits, (_, edit, result) => {
        if (result.ok) expect(editSchema.safeParse(JSON.parse(JSON.stringify(edit))).success).toBe(true);
      });
      expect(JSON.parse(JSON.stringify(end))).toEqual(end);
      expect(structuredClone(end)).toEqual(end);
      const read = readProjectFile(writeProjectFile({ name: 'p', documents: [end] }));
      expect(read.ok ? [] : read.failure).toEqual([]);
    }),
    { numRuns: 60 },
  );
});

test('restoring leads from any state back to any other, exactly', () => {
  fc.assert(
    fc.property(fc.array(anyEdit, { minLength: 1, maxLength: 12 }), fc.nat(), (edits, pick) => {
      const passed: Document[] = [START];
      const end = walk(edits, (_, __, result) => {
        if (result.ok) passed.push(result.value.document);
      });
      const wanted = passed[pick % passed.length] ?? START;
      const restored = applyEdit(end, planRestore(end, wanted));
      expect(restored.ok && sameData(restored.value.document, wanted)).toBe(true);
    }),
    { numRuns: 150 },
  );
});

test('the demo file is byte-stable: reading and writing gives it again', () => {
  expect(writeProjectFile({ name: 'Table loom', documents: demoDocuments() })).toBe(DEMO_TEXT);
});
