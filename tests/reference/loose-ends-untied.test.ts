/**
 * Loose-end detection against the models of the demo, which were made for other ends: every dimension that follows a
 * value is untied in turn, as if its number had been typed, and is to be found. The labels are the formulas that stood
 * there; a tie is right when the value follows every driving value as it did before, whatever its formula looks like.
 */
import { DocumentValues, findRecord, listDriving, listNamed, type Document, type Parameter } from '@/core/document';
import { findTies, LIKELY, readState, type PastValues, type Tie } from '@/core/loose-ends';
import { demoDocuments, edited } from '../support/demo';
import { makeRandom } from '../support/random';

/** One value, a simple multiple or share of one, or a sum or difference of two: what a number can be recognised by. */
const SIMPLE = /^(?:[234] \* )?[a-z_]+$|^[a-z_]+ \/ [234]$|^[a-z_]+ [+-] [a-z_]+$/;

/** Sizes of a document, by what drives it: in internal units. */
type Sizes = ReadonlyMap<string, number>;

interface Untied {
  readonly original: Document;
  readonly document: Document;
  readonly parameter: Parameter;
  readonly sizes: Sizes;
}

/** Ties that are more than chance. */
const likely = (values: DocumentValues, past?: readonly PastValues[]): Tie[] => findTies(values, past).filter(({ confidence }) => confidence >= LIKELY);

/** How many other sizes each document is judged at. */
const ROUNDS = 6;
const MM = 10_000;

/** The numbers that drive a document: its plain ones, and those that it takes. */
function rootsOf(values: DocumentValues): string[] {
  return listDriving(values.document)
    .map(({ id }) => id)
    .filter((id) => values.show(id)?.type?.kind === 'quantity' && values.sheet.listReads(id).length === 0);
}

function isLength(values: DocumentValues, id: string): boolean {
  const { type } = values.sheet.read(id) ?? {};
  return type?.kind === 'quantity' && type.dimension.key === 'length=1';
}

function valuesAt(document: Document, sizes: Sizes): DocumentValues {
  const values = new DocumentValues(document);
  for (const [id, value] of sizes) values.sheet.setNumber(id, value);
  values.sheet.settle();
  return values;
}

/** Lengths as somebody might choose them, some tenths to twice what they are: whole millimetres, tenths below ten. The same in every run. */
function sizesOf(document: Document, random: () => number): Sizes {
  const values = new DocumentValues(document);
  return new Map(
    rootsOf(values).map((id): [string, number] => {
      const value = values.sheet.readNumber(id);
      if (!isLength(values, id)) return [id, value];
      const size = (value / MM) * (0.7 + 1.1 * random());
      return [id, size < 10 ? Math.round(size * 10) * (MM / 10) : Math.round(size) * MM];
    }),
  );
}

function setFormula(document: Document, id: string, text: string): Document {
  return edited(document, { type: 'parameter.setFormula', id, formula: { text } });
}

/** Each dimension with a formula, untied. */
function untieEach(original: Document, sizes: Sizes): Untied[] {
  const values = valuesAt(original, sizes);
  return listNamed(original).flatMap((parameter): Untied[] => {
    const shown = values.show(parameter.id);
    const isDimension = parameter.type === 'parameter' && parameter.owner !== undefined && !values.isMeasured(parameter.id);
    if (!isDimension || !shown || shown.isLiteral || shown.diagnostics.length > 0) return [];
    return [{ original, parameter, document: setFormula(original, parameter.id, shown.exact), sizes }];
  });
}

// Not the numbers that were looked at when the weight of round halves was raised: those came from another seed.
/** Drawn for each document by itself: what is added to the demo changes nothing of the others. */
const seedOf = ({ id }: Document, round: number): number => [...id].reduce((sum, letter) => (sum * 31 + letter.charCodeAt(0)) % 100_003, 471 + round);
const AS_THEY_ARE = demoDocuments().flatMap((original) => untieEach(original, new Map()));
const OTHER_SIZES = Array.from({ length: ROUNDS }, (_, round) =>
  demoDocuments().flatMap((original) => untieEach(original, sizesOf(original, makeRandom(seedOf(original, round))))),
).flat();

/** Another value for one driving number; a count stays whole. */
function nudged(values: DocumentValues, sizes: Sizes, root: string): Sizes {
  const value = values.sheet.readNumber(root);
  return new Map([...sizes, [root, isLength(values, root) ? value * 1.07 : value + 1]]);
}

function followsAlike({ original, document, parameter, sizes }: Untied, { formula }: Tie): boolean {
  const tied = setFormula(document, parameter.id, formula);
  const values = valuesAt(original, sizes);
  return rootsOf(values).every((root) => {
    const moved = nudged(values, sizes, root);
    const [a, b] = [valuesAt(original, moved).sheet.readNumber(parameter.id), valuesAt(tied, moved).sheet.readNumber(parameter.id)];
    return Math.abs(a - b) <= 1e-9 * Math.abs(a);
  });
}

/** Numbers that the designer left plain, and that are pointed out all the same: not one of them should be. */
function judgePlain(all: readonly Untied[]): string[] {
  const documents = new Map(all.map(({ original, sizes }) => [sizes, original]));
  return [...documents].flatMap(([sizes, document]) => {
    const values = valuesAt(document, sizes);
    return likely(values).map(({ id, formula }) => `${findRecord(document, id, 'parameter')?.name ?? ''} = ${formula}`);
  });
}

interface Verdict {
  readonly name: string;
  readonly isSimple: boolean;
  readonly tie: Tie | undefined;
  readonly isRight: boolean;
}

function judge(untied: Untied, values: DocumentValues, past: readonly PastValues[]): Verdict {
  const { parameter } = untied;
  const tie = likely(values, past).find(({ id }) => id === parameter.id);
  const isSimple = SIMPLE.test(parameter.formula.text);
  return { name: parameter.name, isSimple, tie, isRight: tie !== undefined && followsAlike(untied, tie) };
}

/** Each number equals what it followed. */
function judgeNow(all: readonly Untied[]): Verdict[] {
  return all.map((untied) => judge(untied, valuesAt(untied.document, untied.sizes), []));
}

/** What it followed was changed since: each number is what that was before. */
function judgeBehind(all: readonly Untied[]): Verdict[] {
  return all.flatMap((untied) => {
    const { original, document, parameter, sizes } = untied;
    const values = valuesAt(document, sizes);
    const was = readState(values);
    const moved = rootsOf(values)
      .map((root) => nudged(values, sizes, root))
      .find((other) => valuesAt(original, other).sheet.readNumber(parameter.id) !== was.get(parameter.id));
    return moved ? [judge(untied, valuesAt(document, moved), [was])] : [];
  });
}

const GROUPS: readonly (readonly [string, readonly Verdict[], readonly string[]])[] = [
  ['equal now', judgeNow(AS_THEY_ARE), judgePlain(AS_THEY_ARE)],
  ['equal before a change', judgeBehind(AS_THEY_ARE), []],
  ['equal now, at other sizes', judgeNow(OTHER_SIZES), judgePlain(OTHER_SIZES)],
  ['equal before a change, at other sizes', judgeBehind(OTHER_SIZES), []],
];

function measure(verdicts: readonly Verdict[], plain: readonly string[]) {
  const simple = verdicts.filter(({ isSimple }) => isSimple);
  const pointedOut = verdicts.filter(({ tie }) => tie !== undefined);
  const wrong = [...pointedOut.flatMap(({ name, tie, isRight }) => (tie && !isRight ? [`${name} = ${tie.formula}`] : [])), ...plain];
  return {
    found: simple.filter(({ isRight }) => isRight).length,
    ofSimple: simple.length,
    right: pointedOut.length + plain.length - wrong.length,
    ofPointedOut: pointedOut.length + plain.length,
    missed: simple.filter(({ isRight }) => !isRight).map(({ name }) => name),
    wrong,
  };
}

describe.each(GROUPS)('%s', (_, verdicts, plain) => {
  const { found, ofSimple, right, ofPointedOut } = measure(verdicts, plain);

  test('of what follows one value or two, nearly all is pointed out', () => {
    expect(ofSimple).toBeGreaterThanOrEqual(30);
    expect(found / ofSimple).toBeGreaterThanOrEqual(0.95);
  });

  test('what is pointed out follows as it did, nine times in ten', () => {
    expect(right / ofPointedOut).toBeGreaterThanOrEqual(0.9);
  });
});

test('the figures, with the misses and the wrong ties by name', () => {
  const figures = GROUPS.map(([name, verdicts, plain]) => {
    const { found, ofSimple, right, ofPointedOut, missed, wrong } = measure(verdicts, plain);
    return [`${name}: found ${found} of ${ofSimple}, right ${right} of ${ofPointedOut}`, { missed: missed.join(', '), wrong: wrong.join(', ') }];
  });
  expect(Object.fromEntries(figures)).toMatchInlineSnapshot(`
   {
     "equal before a change, at other sizes: found 200 of 204, right 209 of 214": {
       "missed": "hub_bore, pawl_pivot, far_radius, journal_radius",
       "wrong": "screw_span = rail_section + frame_height, corner_round = screw_hole, screw_span = beam_height + beam_dia, far_radius = frame_stock, journal_radius = frame_stock",
     },
     "equal before a change: found 34 of 34, right 35 of 36": {
       "missed": "",
       "wrong": "mortise_place = beam_height - frame_stock",
     },
     "equal now, at other sizes: found 195 of 204, right 203 of 215": {
       "missed": "hub_bore, pawl_middle, pawl_middle, pawl_pivot, end_hole_across, end_hole_rise, far_radius, journal_radius, pawl_middle",
       "wrong": "screw_span = rail_section + frame_height, slot_rise = beam_height + beam_dia, corner_round = screw_hole, screw_span = beam_height + beam_dia, end_hole_across = 2 * screw_hole, end_hole_rise = 2 * screw_hole, far_radius = frame_stock, journal_radius = frame_stock, pawl_reach = 2 * frame_stock, screw_inset = beam_dia / 2, screw_rise = beam_dia / 2, side_openings_a = frame_stock",
     },
     "equal now: found 33 of 34, right 34 of 35": {
       "missed": "pawl_middle",
       "wrong": "side_openings_a = frame_stock",
     },
   }
  `);
});
