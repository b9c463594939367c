/** Calc sheets used like functions: by parts, masters and other calc sheets, in one pass. */
import { applyEdit, createDocument, explainValue, readProjectFile, writeProjectFile, type Document, type Edit } from '@/core/document';
import { component, driven, placeless, shownIn, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { complete, openComplete } from '.';
import { openValues } from './instances';

/** Torque of a force on an arm, and the least hub that carries it: common practice, d = cube root of 16 T / (pi tau). */
const TENSION = withParameters('calc', 'tension', {
  force: '200 N',
  arm: '30 mm',
  torque: 'force * arm',
  least_hub: 'cbrt(16 * torque / (pi * 20 MPa))',
});

const use = (host: Document, name = 'tension', source = 'tension'): Document => withComponents(host, placeless(component(name, source)));
const refusal = (host: Document, edit: Edit): string => {
  const result = applyEdit(host, edit);
  return result.ok ? '' : result.failure.message;
};

describe.each(['part', 'master', 'calc', 'assembly'] as const)('a %s', (kind) => {
  const host = use(withParameters(kind, 'host', { beam_dia: '48 mm', hub: '10 mm' }));

  test('sets inputs of a calc sheet and reads its results, which follow in the same settling', () => {
    const driving = edited(driven(host, 'tension.arm', 'beam_dia / 2'), {
      type: 'parameter.setFormula',
      id: 'host-hub',
      formula: { text: 'max(tension.least_hub, 10 mm)' },
    });
    // 200 N on 24 mm: 4.8 N m; the cube root of 16 * 4800 / (pi * 20), by hand: 10.692 mm, and 13.471 mm for twice the arm.
    expect(shownIn(driving, [TENSION])).toEqual({ beam_dia: '48 mm', hub: '10.692 mm' });
    const values = openValues(driving, sourceOf([TENSION]));
    const wider = applyEdit(driving, { type: 'parameter.setFormula', id: 'host-beam_dia', formula: { text: '96 mm' } });
    if (!wider.ok) throw new Error(wider.failure.message);
    values.apply(wider.value.document, wider.value.diff);
    expect(values.show('host-hub')?.shown).toBe('13.471 mm');
    expect(values.show('host-hub')?.exact).toBe(openValues(wider.value.document, sourceOf([TENSION])).show('host-hub')?.exact);
  });

  test('says in numbers what it reads of a use', () => {
    const reading = edited(driven(host, 'tension.arm', 'beam_dia / 2'), {
      type: 'parameter.setFormula',
      id: 'host-hub',
      formula: { text: 'max(tension.least_hub, beam_dia / 4)' },
    });
    expect(explainValue(openValues(reading, sourceOf([TENSION])), 'host-hub')).toEqual([
      'hub',
      'max(tension.least_hub, beam_dia / 4)',
      'max(10.692 mm, 48 mm / 4)',
      '12 mm',
    ]);
  });

  test('uses it twice with other inputs, side by side', () => {
    const twice = edited(use(driven(driven(host, 'tension.arm', '24 mm'), 'tension.force', '100 N'), 'other'), {
      type: 'parameter.setFormula',
      id: 'host-hub',
      formula: { text: 'other.least_hub - tension.least_hub' },
    });
    const [one, other] = [16 * 100 * 24, 16 * 200 * 30].map((load) => Math.cbrt(load / (Math.PI * 20)));
    expect(openValues(twice, sourceOf([TENSION])).sheet.readNumber('host-hub') / 10_000).toBeCloseTo((other ?? 0) - (one ?? 0), 9);
  });

  test('that reads its own result through a use is told the cycle by its path', () => {
    const round = edited(driven(host, 'tension.arm', 'hub'), { type: 'parameter.setFormula', id: 'host-hub', formula: { text: 'tension.least_hub' } });
    expect(shownIn(round, [TENSION])['hub']).toMatch(/hub.*tension\.least_hub|tension\.least_hub.*hub|tension\.arm/);
  });

  test('is the same when it is handed on with what it uses', () => {
    const driving = edited(driven(host, 'tension.arm', 'beam_dia / 2'), {
      type: 'parameter.setFormula',
      id: 'host-hub',
      formula: { text: 'tension.least_hub' },
    });
    const whole = complete(driving, sourceOf([TENSION]));
    expect(openComplete(structuredClone(whole)).show('host-hub')?.exact).toBe(openValues(driving, sourceOf([TENSION])).show('host-hub')?.exact);
    expect(complete(TENSION, sourceOf([]))).toBe(TENSION);
  });

  test('cannot be used by itself, nor through a calc sheet that uses it', () => {
    expect(refusal(host, { type: 'component.put', component: placeless(component('me', 'host')) })).toMatch(/cannot contain itself/);
    const inner = openValues(host, sourceOf([use(TENSION, 'again', 'host'), host])).components?.valuesOf('tension');
    expect(inner?.components?.problemOf('again')).toMatch(/would contain itself/);
  });
});

describe.each(['part', 'master', 'calc'] as const)('only an assembly: a %s', (kind) => {
  const host = createDocument('host', kind, 'host');

  test('holds nothing that has a place', () => {
    expect(refusal(host, { type: 'component.put', component: component('rail', 'rail') })).toMatch(/Only in an assembly/);
    const forced = { ...host, records: { rail: component('rail', 'rail') }, lists: { components: ['rail'] } };
    expect(readProjectFile(writeProjectFile({ name: 'Forced', documents: [forced] })).ok).toBe(false);
  });

  test('takes nothing that has a shape for a calc sheet', () => {
    const values = openValues(use(host, 'rail', 'rail'), sourceOf([createDocument('rail', kind === 'part' ? 'assembly' : 'part', 'rail')]));
    expect(values.components?.problemOf('rail')).toMatch(/has a shape/);
  });
});

test('a calc sheet uses another, and a part reads through both', () => {
  const outer = edited(use(withParameters('calc', 'outer', { load: '50 N', hub: '1 mm' })), {
    type: 'parameter.setFormula',
    id: 'outer-hub',
    formula: { text: 'tension.least_hub' },
  });
  const driving = driven(outer, 'tension.force', 'load * 2');
  const part = edited(driven(use(withParameters('part', 'part', { p: '1 mm', q: '1 mm' }), 'calc', 'outer'), 'calc.load', '60 N'), {
    type: 'batch',
    edits: [
      { type: 'parameter.setFormula', id: 'part-p', formula: { text: 'calc.hub' } },
      { type: 'parameter.setFormula', id: 'part-q', formula: { text: 'calc.tension.least_hub' } },
    ],
  });
  const expected = Math.cbrt((16 * 120 * 30) / (Math.PI * 20));
  const values = openValues(part, sourceOf([driving, TENSION]));
  expect([values.sheet.readNumber('part-p') / 10_000, values.sheet.readNumber('part-q') / 10_000]).toEqual([
    expect.closeTo(expected, 9),
    expect.closeTo(expected, 9),
  ]);
});

test('a part that stands in an assembly calculates with what is set in it there', () => {
  const wheel = edited(driven(use(withParameters('part', 'wheel', { beam_dia: '48 mm', hub: '10 mm' })), 'tension.arm', 'beam_dia / 2'), {
    type: 'parameter.setFormula',
    id: 'wheel-hub',
    formula: { text: 'tension.least_hub' },
  });
  const loom = driven(
    withComponents(
      withParameters('assembly', 'loom', { dia: '96 mm', read: '1 mm', through: '1 mm' }),
      component('left', 'wheel'),
      component('right', 'wheel'),
    ),
    'left.beam_dia',
    'dia',
  );
  const read = (text: string): string =>
    shownIn(edited(loom, { type: 'parameter.setFormula', id: 'loom-read', formula: { text } }), [wheel, TENSION])['read'] ?? '';
  expect([read('left.hub'), read('right.hub')]).toEqual(['13.471 mm', '10.692 mm']);
  expect(read('left.tension.least_hub')).toBe('13.471 mm');
});

test('what an assembly sets in its own use of a calc sheet is no business of a part that uses it too', () => {
  const wheel = edited(use(withParameters('part', 'wheel', { hub: '10 mm' })), {
    type: 'parameter.setFormula',
    id: 'wheel-hub',
    formula: { text: 'tension.arm' },
  });
  const loom = driven(
    withComponents(
      withParameters('assembly', 'loom', { own: 'tension.arm', there: 'wheel.hub', inside: 'unit.wheel.hub' }),
      placeless(component('tension', 'tension')),
      component('wheel', 'wheel'),
      component('unit', 'unit'),
    ),
    'tension.arm',
    '99 mm',
  );
  const unit = withComponents(withParameters('assembly', 'unit', {}), component('wheel', 'wheel'));
  expect(shownIn(loom, [wheel, unit, TENSION])).toEqual({ own: '99 mm', there: '30 mm', inside: '30 mm' });
});

test('a master that an assembly drives reaches the calc sheet inside a part', () => {
  const sizes = withParameters('master', 'sizes', { pull: '200 N' });
  const calc = edited(
    withParameters('calc', 'tension', { arm: '24 mm', torque: '1 N * 1 mm' }),
    {
      type: 'link.put',
      link: { type: 'link', id: 'calc-to-sizes', source: 'sizes', sourceName: 'sizes', policy: 'ask', revision: 1, hash: '' },
      takes: [
        {
          type: 'take',
          id: 'calc-takes-pull',
          link: 'calc-to-sizes',
          parameter: 'sizes-pull',
          name: 'pull',
          sourceName: 'pull',
          value: openValues(sizes, sourceOf([])).handOver('sizes-pull'),
        },
      ],
    },
    { type: 'parameter.setFormula', id: 'tension-torque', formula: { text: 'pull * arm' } },
  );
  const wheel = use(withParameters('part', 'wheel', { hub: '10 mm' }));
  const loom = driven(
    withComponents(withParameters('assembly', 'loom', { read: 'wheel.tension.torque' }), placeless(component('sizes', 'sizes')), component('wheel', 'wheel')),
    'sizes.pull',
    '300 N',
  );
  expect(shownIn(loom, [sizes, calc, wheel])).toEqual({ read: '7.2 N*m' });
});
