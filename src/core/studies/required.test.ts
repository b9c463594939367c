/** What is required of a value with tolerances: closed forms of what is drawn, and sums by hand. */
import { component, driven, placeless, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { demoDocument, edited } from '../../../tests/support/demo';
import { DocumentValues, listIds, type ContributorReading, type Distribution, type Document, type Edit } from '../document';
import { cheapestToMeet, deviationsOf, evenNumbers, factorToMeet, judgedDocument, judgeRequired, needsGeometry, stackOf } from '.';
import { readDeviations } from './deviations';

const NOBODY = sourceOf([]);
const MM = 10_000;

function toleranced(document: Document, tolerances: Readonly<Record<string, string>>): Document {
  return Object.entries(tolerances).reduce(
    (before, [name, by]) =>
      edited(before, { type: 'parameter.update', id: `${document.id}-${name}`, changes: { tolerance: { kind: 'symmetric', by: { text: by } } } }),
    document,
  );
}

const HOUSING = toleranced(withParameters('part', 'h', { bore: '50 mm', shaft: '41 mm', washer: '3 mm', gap: 'bore - shaft - 2 * washer' }), {
  bore: '0.3 mm',
  shaft: '0.4 mm',
  washer: '0.05 mm',
});

function stack(document: Document, name: string, distribution: Distribution = 'even', source = NOBODY) {
  const found = stackOf(document, `${document.id}-${name}`, source, { random: evenNumbers(1), reading: { distribution } });
  if (!found) throw new Error('no stack');
  return found;
}

describe('what is drawn', () => {
  // Variances of the three distributions over a width of two: 1/3, 1/6, 1/9 (any text on probability).
  test.each<[Distribution, number]>([
    ['even', 1 / 3],
    ['triangular', 1 / 6],
    ['normal', 1 / 9],
  ])('%s: mean and deviation of a sum are those of its closed form', (distribution, variance) => {
    const { drawn } = stack(HOUSING, 'gap', distribution);
    const count = drawn.values.length;
    const deviation = Math.sqrt((0.3 ** 2 + 0.4 ** 2 + 0.1 ** 2) * variance) * MM;
    expect(count).toBe(20_000);
    // Four standard errors.
    expect(Math.abs(drawn.mean - 3 * MM)).toBeLessThan((4 * deviation) / Math.sqrt(count));
    expect(Math.abs(drawn.deviation / deviation - 1)).toBeLessThan(4 / Math.sqrt(2 * count));
  });

  test('of two even ones: the quantiles of a triangle', () => {
    const two = toleranced(withParameters('part', 't', { a: '10 mm', b: '10 mm', both: 'a + b' }), { a: '1 mm', b: '1 mm' });
    const { drawn } = stack(two, 'both');
    // A share p of a triangle from -2 to 2 lies below -2 + sqrt(8 p).
    const below = -2 + Math.sqrt(8 * 0.00135);
    expect(Math.abs((drawn.lower / MM - 20) / below - 1)).toBeLessThan(0.02);
    expect(Math.abs((drawn.upper / MM - 20) / -below - 1)).toBeLessThan(0.02);
  });

  test('the same seed, the same figures', () => {
    expect(stack(HOUSING, 'gap').drawn).toEqual(stack(HOUSING, 'gap').drawn);
  });
});

describe('the worst case of what bends', () => {
  test('lies within the limits, though what is made normally may lie beyond them', () => {
    const { worstCase, drawn } = stack(HOUSING, 'gap', 'normal');
    expect([worstCase.lower / MM, worstCase.upper / MM].map((at) => Number(at.toFixed(9)))).toEqual([2.2, 3.8]);
    const one = stack(toleranced(withParameters('part', 'o', { a: '10 mm', b: 'a * 1' }), { a: '1 mm' }), 'b', 'normal');
    expect([one.worstCase.lower / MM, one.worstCase.upper / MM]).toEqual([9, 11]);
    expect(one.drawn.values.at(-1)).toBeGreaterThan(11 * MM);
    expect(drawn.values.length).toBe(20_000);
  });

  test('is what the formulas come to, not what slopes add up to', () => {
    const bent = toleranced(withParameters('part', 'b', { a: '10 mm', b: '10 mm', apart: 'abs(a - b)', less: 'min(a, b)' }), { a: '1 mm', b: '0.5 mm' });
    const apart = stack(bent, 'apart');
    expect([apart.worstCase.lower / MM, apart.worstCase.upper / MM]).toEqual([0, 1.5]);
    expect(apart.contributors.map(({ isCorner }) => isCorner)).toEqual([true, true]);
    const less = stack(bent, 'less');
    expect([less.worstCase.lower / MM, less.worstCase.upper / MM]).toEqual([9, 10.5]);
  });

  test('of twenty contributors is the sum of all of them', () => {
    const names = Array.from({ length: 20 }, (_, i) => `v${i}`);
    const many = toleranced(
      withParameters('part', 'm', {
        ...Object.fromEntries(names.map((name) => [name, '5 mm'])),
        total: names
          .map((name, i) => (i % 2 ? `- ${name}` : `+ ${name}`))
          .join(' ')
          .slice(2),
      }),
      Object.fromEntries(names.map((name) => [name, '0.1 mm'])),
    );
    const { worstCase } = stack(many, 'total');
    expect([worstCase.lower / MM, worstCase.upper / MM].map((value) => Number(value.toFixed(9)))).toEqual([-2, 2]);
  });
});

describe('what is required', () => {
  test('is missed by as much as the sums say; one tolerance alone, or all together, are tightened to meet it', () => {
    const found = stack(HOUSING, 'gap');
    const required = { lower: 2.4 * MM, upper: 4 * MM };
    // 0.3 + 0.4 + 2 * 0.05 = 0.8 below 3.
    const verdict = judgeRequired(found, required);
    expect([Number((verdict.worstCase / MM).toFixed(9)), verdict.rootSumSquare]).toEqual([0.2, 0]);
    // Evenly made, the corner of a box of 0.6 by 0.8 by 0.2 is missed that is 0.2 along each edge.
    const corner = 0.2 ** 3 / 6 / (0.6 * 0.8 * 0.2);
    expect([verdict.outsideBetween.lower < corner, verdict.outsideBetween.upper > corner]).toEqual([true, true]);
    const factor = (names: string[], basis: 'worst-case' | 'root-sum-square', lower = 2.4) =>
      factorToMeet(
        found,
        names.map((name) => `h-${name}`),
        { lower: lower * MM },
        basis,
      );
    expect(factor(['shaft'], 'worst-case')).toBeCloseTo(0.2 / 0.4, 6);
    expect(factor(['bore'], 'worst-case')).toBeCloseTo(0.1 / 0.3, 6);
    expect(factor(['washer'], 'worst-case')).toBeUndefined();
    expect(factor(['bore', 'shaft', 'washer'], 'worst-case')).toBeCloseTo(0.6 / 0.8, 6);
    expect(factor(['shaft'], 'root-sum-square')).toBe(1);
    // By squares: 0.4² is left of 0.3² + s² + 0.1².
    expect(factor(['shaft'], 'root-sum-square', 2.6)).toBeCloseTo(Math.sqrt(0.4 ** 2 - 0.3 ** 2 - 0.1 ** 2) / 0.4, 6);
    expect(factor(['bore', 'shaft', 'washer'], 'worst-case', 3.1)).toBeUndefined();
  });

  test('of what is made normally, as many miss it as the normal distribution says', () => {
    const one = toleranced(withParameters('part', 'n', { a: '10 mm', out: 'a * 1' }), { a: '0.3 mm' });
    const found = stack(one, 'out', 'normal');
    // One standard deviation is 0.1 mm. Beyond two of them lie 2.275 % on each side, beyond three to both sides Cpk is 1 (tables of the normal distribution).
    const { outside, outsideBetween } = judgeRequired(found, { upper: 10.2 * MM });
    expect([outsideBetween.lower < 0.02275, outsideBetween.upper > 0.02275, Math.abs(outside - 0.02275) < 0.005]).toEqual([true, true, true]);
    expect(judgeRequired(found, { lower: 9.7 * MM, upper: 10.3 * MM }).cpk).toBeCloseTo(1, 1);
  });

  test('may be the limits of the value itself: what lies beyond them is told, not refused', () => {
    const limited = edited(HOUSING, { type: 'parameter.update', id: 'h-gap', changes: { least: { text: '2.9 mm' }, most: { text: '3.1 mm' } } });
    const { outside } = judgeRequired(stack(limited, 'gap'), { lower: 2.9 * MM, upper: 3.1 * MM });
    expect(outside).toBeGreaterThan(0.5);
    expect(stack(limited, 'gap').worstCase).toEqual(stack(HOUSING, 'gap').worstCase);
  });
});

test('through components, whole documents are evaluated, to the same sums', () => {
  const rail = withParameters('part', 'rail', { length: '100 mm', inside: 'length - 20 mm' });
  const host = toleranced(withParameters('assembly', 'host', { width: '140 mm' }), { width: '0.5 mm' });
  const set = driven(withComponents(host, placeless(component('beam', 'rail'))), 'beam.length', 'width - 10 mm');
  const read = edited(set, {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'host-gap', name: 'gap', kind: 'length', formula: { text: 'width - beam.inside / 2' } },
  });
  const found = stack(read, 'gap', 'even', sourceOf([rail]));
  expect(found.contributors.map(({ name, sensitivity }) => [name, Number(sensitivity.toFixed(9))])).toEqual([['width', 0.5]]);
  expect([found.nominal / MM, found.worstCase.lower / MM, found.worstCase.upper / MM].map((value) => Number(value.toFixed(9)))).toEqual([85, 84.75, 85.25]);
  expect(found.way).toBe('differences');
});

test('what is measured on the geometry on the way is asked for with what was built at its limits', () => {
  const rail = demoDocument('Cross rail');
  const [body] = Object.values(rail.records).flatMap((record) => (record.type === 'body' ? [record.id] : []));
  const dimensions = Object.values(rail.records).flatMap((record) =>
    record.type === 'parameter' && record.owner !== undefined && record.kind === 'length' && record.tolerance === undefined ? [record.id] : [],
  );
  const measured = edited(
    rail,
    ...dimensions.map((id): Edit => ({ type: 'parameter.update', id, changes: { tolerance: { kind: 'symmetric', by: { text: '0.1 mm' } } } })),
    {
      type: 'measure.add',
      parameter: {
        type: 'parameter',
        id: 'filled',
        name: 'filled',
        kind: 'volume',
        owner: listIds(rail, 'steps').at(-1),
        formula: { text: '' },
        measure: { of: 'body', body: body ?? '', what: 'volume' },
      },
    },
    { type: 'parameter.add', parameter: { type: 'parameter', id: 'share', name: 'share', kind: 'any', formula: { text: '1 m^3 - filled' } } },
  );
  const known = { measured: { filled: { value: 5e14 } } };
  expect(needsGeometry(measured, 'share', NOBODY, known)).toBe(true);
  expect(needsGeometry(measured, 'share', NOBODY, {})).toBe(true);
  expect(stackOf(measured, 'share', NOBODY, { random: evenNumbers(1), ...known })).toBeUndefined();
  // A geometry whose volume grows by the sum of all lengths.
  const states = deviationsOf(judgedDocument(measured, 'share'), 'share', NOBODY, known.measured);
  const deviations = readDeviations(states, (state) => {
    const sum = dimensions.reduce((whole, id) => whole + new DocumentValues(state).sheet.readNumber(id), 0);
    return { value: 1e21 - 5e14 - sum * 1e8 };
  });
  const found = stackOf(measured, 'share', NOBODY, { random: evenNumbers(1), ...known, deviations });
  expect(found?.way).toBe('differences');
  expect(found?.contributors.map(({ sensitivity }) => Number((sensitivity / -1e8).toFixed(6)))).toEqual(dimensions.map(() => 1));
  const half = dimensions.length * 0.1 * MM * 1e8;
  expect([found?.worstCase.lower, found?.worstCase.upper].map((end) => Number((((end ?? NaN) - (found?.nominal ?? NaN)) / half).toFixed(4)))).toEqual([-1, 1]);
});

describe('at least cost', () => {
  const ANY = { nominal: 0, dimension: 'length=1', unit: 'mm', isCorner: false, pieces: 1, distribution: 'even', share: 0 } as const;
  const read = (document: Document, contributors: Record<string, ContributorReading> = {}) => {
    const found = stackOf(document, `${document.id}-gap`, NOBODY, { random: evenNumbers(1), reading: { contributors } });
    if (!found) throw new Error('no stack');
    return found;
  };

  test('equal slopes and costs: all are held equally closely, and what is close already stays', () => {
    const document = toleranced(withParameters('part', 'e', { a: '9 mm', b: '5 mm', c: '1 mm', gap: 'a - b - c' }), { a: '0.4 mm', b: '0.3 mm', c: '0.05 mm' });
    const found = read(document);
    // 0.05 stays; 0.45 is shared by the other two.
    const factors = cheapestToMeet(found, ['e-a', 'e-b', 'e-c'], { lower: 2.5 * MM }, 'worst-case');
    expect(['a', 'b', 'c'].map((name, i) => Number(((factors?.get(`e-${name}`) ?? 0) * ([0.4, 0.3, 0.05][i] ?? 0)).toFixed(6)))).toEqual([0.225, 0.225, 0.05]);
    expect(cheapestToMeet(found, ['e-a'], { lower: 2.9 * MM }, 'worst-case')).toBeUndefined();
    expect([...(cheapestToMeet(found, ['e-a'], { lower: 1 * MM }, 'worst-case')?.values() ?? [])]).toEqual([1]);
  });

  test('what is four times as dear keeps twice the tolerance in the worst case', () => {
    const document = toleranced(withParameters('part', 'd', { a: '9 mm', b: '5 mm', gap: 'a - b' }), { a: '0.4 mm', b: '0.4 mm' });
    const factors = cheapestToMeet(read(document, { 'd-a': { cost: 4 } }), ['d-a', 'd-b'], { upper: 4.3 * MM }, 'worst-case');
    expect([factors?.get('d-a'), factors?.get('d-b')].map((factor) => Number(((factor ?? 0) * 0.4).toFixed(6)))).toEqual([0.2, 0.1]);
  });

  test('nothing that also meets it costs less: 200 random stacks, both ways of adding up', () => {
    const random = evenNumbers(11);
    for (let run = 0; run < 200; run++) {
      const names = ['a', 'b', 'c', 'd'].slice(0, 2 + Math.floor(random() * 3));
      const slopes = names.map(() => (random() < 0.5 ? -1 : 1) * (1 + Math.floor(random() * 3)));
      const sizes = names.map(() => Number((0.05 + random()).toFixed(2)));
      const costs = names.map(() => Number((0.2 + 5 * random()).toFixed(2)));
      const contributors = names.map((name, i) => ({
        ...ANY,
        id: name,
        name,
        lower: -(sizes[i] ?? 0),
        upper: sizes[i] ?? 0,
        sensitivity: slopes[i] ?? 0,
        cost: costs[i] ?? 1,
      }));
      const basis = run % 2 ? 'worst-case' : 'root-sum-square';
      const half = (factors: readonly number[]): number => {
        const parts = names.map((_, i) => Math.abs(slopes[i] ?? 0) * (sizes[i] ?? 0) * (factors[i] ?? 1));
        return basis === 'worst-case' ? parts.reduce((sum, part) => sum + part, 0) : Math.hypot(...parts);
      };
      const room = half(names.map(() => 1)) * (0.1 + 0.85 * random());
      const required = { lower: -room, upper: room };
      const factors = cheapestToMeet({ nominal: 0, contributors }, names, required, basis);
      const best = names.map((name) => factors?.get(name) ?? NaN);
      const cost = (at: readonly number[]): number => names.reduce((sum, _, i) => sum + (costs[i] ?? 1) / ((sizes[i] ?? 1) * (at[i] ?? 1)), 0);
      expect(half(best)).toBeLessThanOrEqual(room * (1 + 1e-6));
      expect(best.every((factor) => factor > 0 && factor <= 1)).toBe(true);
      for (let trial = 0; trial < 50; trial++) {
        const moved = best.map((factor) => Math.min(1, factor * (0.7 + 0.6 * random())));
        if (half(moved) <= room) expect(cost(moved)).toBeGreaterThanOrEqual(cost(best) * (1 - 1e-6));
      }
    }
  });
});

test('one contributor has a distribution of its own', () => {
  // Variances over a width of two: 1/3 and 1/9; the washer counts twice.
  const found = stackOf(HOUSING, 'h-gap', NOBODY, { random: evenNumbers(1), reading: { contributors: { 'h-shaft': { distribution: 'normal' } } } });
  const deviation = Math.sqrt((0.3 ** 2 + 0.1 ** 2) / 3 + 0.4 ** 2 / 9) * MM;
  expect(Math.abs((found?.drawn.deviation ?? 0) / deviation - 1)).toBeLessThan(4 / Math.sqrt(40_000));
  expect(found?.contributors.map(({ name, distribution }) => [name, distribution])).toEqual([
    ['shaft', 'normal'],
    ['bore', 'even'],
    ['washer', 'even'],
  ]);
});

test('what stands in components counts, each by itself: as whole documents opened anew come to', () => {
  const rail = toleranced(withParameters('part', 'rail', { length: '100 mm', cut: '20 mm', inside: 'length - cut' }), { length: '0.2 mm', cut: '0.1 mm' });
  const host = toleranced(withParameters('assembly', 'host', { width: '240 mm' }), { width: '0.5 mm' });
  const two = withComponents(host, component('one', 'rail'), component('other', 'rail'));
  const read = edited(driven(two, 'other.length', 'width / 2', ['rail-length']), {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: 'host-gap', name: 'gap', kind: 'length', formula: { text: 'width - one.inside - 2 * other.inside' } },
  });
  const found = stack(read, 'gap', 'even', sourceOf([rail]));
  // Of the other one the length has a tolerance of its own: what it is set by counts where it stands in the formula only.
  expect(Object.fromEntries(found.contributors.map(({ name, sensitivity }) => [name, Number(sensitivity.toFixed(9))]))).toEqual({
    width: 1,
    'one.length': -1,
    'one.cut': 1,
    'other.length': -2,
    'other.cut': 2,
  });
  expect(found.nominal / MM).toBeCloseTo(240 - 80 - 2 * 100, 9);
  expect((found.worstCase.upper - found.nominal) / MM).toBeCloseTo(0.5 + 0.2 + 0.1 + 0.4 + 0.2, 9);
  expect((found.rootSumSquare.upper - found.nominal) / MM).toBeCloseTo(Math.hypot(0.5, 0.2, 0.1, 0.4, 0.2), 9);
});
