import fc from 'fast-check';
import type { Document } from '../document';
import { component, driven, linked, placeless, shownIn, sourceOf, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { drivenInside, instanceKey, Instances, openValues, sourcesInside, type ReachedInside } from '.';

const rail = withParameters('part', 'Rail', { length: '400 mm', tenon: '30 mm', over_all: 'length + 2 * tenon', width: '40 mm' });

const loom = (formulas: Readonly<Record<string, string>>): Document => withParameters('assembly', 'Loom', formulas);

describe('what is read', () => {
  test('values of components, by their names, as they are at home', () => {
    const host = withComponents(loom({ span: 'rail.length + 2 * rail.tenon', share: 'rail.over_all / rail.length' }), component('rail', 'Rail'));
    expect(shownIn(host, [rail])).toEqual({ span: '460 mm', share: '1.15' });
  });

  test('through sub-assemblies, any number of levels', () => {
    const frame = withComponents(withParameters('assembly', 'Frame', {}), component('low', 'Rail'));
    const unit = withComponents(withParameters('assembly', 'Unit', { inner: 'frame.low.length' }), component('frame', 'Frame'));
    const host = withComponents(loom({ a: 'unit.inner', b: 'unit.frame.low.over_all' }), component('unit', 'Unit'));
    expect(shownIn(host, [rail, frame, unit])).toEqual({ a: '400 mm', b: '460 mm' });
  });

  test('what is not there is said, with what is near', () => {
    const host = withComponents(loom({ a: 'rail.lenght', b: 'rial.length', c: 'rail' }), component('rail', 'Rail'));
    const { a, b, c } = shownIn(host, [rail]);
    expect(a).toContain('There is no value named rail.lenght here. Did you mean rail.length');
    expect(b).toContain('There is no value named rial.length here. Did you mean rail.length');
    expect(c).toContain('There is no value named rail here.');
  });

  test('a document that is not at hand, and one that contains itself', () => {
    const host = withComponents(loom({ a: 'rail.length', b: 'me.span' }), component('rail', 'Rail'), component('me', 'Frame'));
    const frame = withComponents(withParameters('assembly', 'Frame', { span: 'loom.a' }), component('loom', 'Loom'));
    const { a, b } = shownIn(host, [frame]);
    expect(a).toBe('Waiting on rail.length.');
    expect(b).toBe('Waiting on me.span.');
    const values = openValues(host, sourceOf([frame]));
    const { components } = values;
    if (!(components instanceof Instances)) throw new Error('no components');
    expect(components.find('rail')?.problem).toBe('Rail is being loaded.');
    const inner = components.find('me')?.values?.components;
    if (!(inner instanceof Instances)) throw new Error('no components');
    expect(inner.find('loom')?.problem).toContain('loom would contain itself: Loom is among those that it stands in.');
  });

  test('mass and volume of what was built, of sub-assemblies and in sum; a value of that name comes first', () => {
    const mass = (kilograms: number) => ({ measured: {}, mass: { value: kilograms * 1e8 }, volume: { value: 1e12 } });
    const unit = withComponents(withParameters('assembly', 'Unit', {}), component('one', 'Rail'), component('two', 'Rail'), component('off', 'Rail'));
    const less = edited(unit, { type: 'component.put', component: component('off', 'Rail', { suppressed: { text: 'yes' } }) });
    const odd = withParameters('part', 'Odd', { mass: '3 kg' });
    const host = withComponents(
      loom({ all: 'unit.mass', one: 'unit.one.mass', v: 'unit.volume', own: 'odd.mass' }),
      component('unit', 'Unit'),
      component('odd', 'Odd'),
    );
    const withBody = edited(rail, { type: 'body.put', body: { type: 'body', id: 'b', name: 'Body', material: '' } });
    expect(shownIn(host, [withBody, less, odd], { 'Rail@1': mass(1.5) })).toEqual({ all: '3 kg', one: '1.5 kg', v: '2 mm^3', own: '3 kg' });
    expect(shownIn(host, [withBody, less, odd])['all']).toBe('Waiting on unit.mass.');
  });
});

describe('what is set', () => {
  test('a drive reaches what follows from it in the part; others keep theirs', () => {
    const host = driven(
      withComponents(
        loom({ span: '500 mm', one: 'near.over_all', two: 'far.over_all', set: 'near.length' }),
        component('near', 'Rail'),
        component('far', 'Rail'),
      ),
      'near.length',
      'span - 20 mm',
    );
    expect(shownIn(host, [rail])).toEqual({ span: '500 mm', one: '540 mm', two: '460 mm', set: '480 mm' });
  });

  test('there and back through one component, in one go', () => {
    let host = withComponents(loom({ a: '100 mm', b: 'rail.over_all', c: 'other.over_all' }), component('rail', 'Rail'), component('other', 'Rail'));
    host = driven(host, 'rail.length', 'a');
    host = driven(host, 'rail.width', 'b + 1 mm');
    host = driven(host, 'other.length', 'rail.width');
    expect(shownIn(host, [rail])).toEqual({ a: '100 mm', b: '160 mm', c: '221 mm' });
  });

  test('a true circle is told with names on both sides; one of files alone is none', () => {
    const host = driven(withComponents(loom({ clearance: 'rail.over_all - 5 mm' }), component('rail', 'Rail')), 'rail.length', 'clearance');
    expect(shownIn(host, [rail])['clearance']).toBe('This value depends on itself: clearance → rail.over_all → rail.length → clearance.');
    const fine = driven(withComponents(loom({ clearance: 'rail.width - 5 mm' }), component('rail', 'Rail')), 'rail.length', 'clearance');
    expect(shownIn(fine, [rail])['clearance']).toBe('35 mm');
  });

  test('kind, limits and choices are those that the value has; the error is of the drive', () => {
    const bounded = edited(
      rail,
      { type: 'parameter.update', id: 'Rail-length', changes: { kind: 'length', least: { text: '2 * width' }, most: { text: '900 mm' } } },
      { type: 'parameter.update', id: 'Rail-tenon', changes: { kind: 'length', choices: ['20 mm', '30 mm'] } },
    );
    const host = (path: string, text: string) => driven(withComponents(loom({ x: 'rail.over_all' }), component('rail', 'Rail')), path, text);
    const told = (path: string, text: string): string => {
      const document = host(path, text);
      const values = openValues(document, sourceOf([bounded]));
      return values.sheet.read(`drive-${path.replace('.', '-')}`)?.diagnostics[0]?.message ?? 'fine';
    };
    expect(told('rail.length', '5 kg')).toContain('length');
    expect(told('rail.length', '79 mm')).toBe('This is below the least allowed, 2 * width.');
    expect(told('rail.length', '901 mm')).toBe('This is above the most allowed, 900 mm.');
    expect(told('rail.length', '80 mm')).toBe('fine');
    expect(told('rail.tenon', '25 mm')).toBe('This is not one of the choices: 20 mm, 30 mm.');
    expect(told('rail.tenon', '20 mm')).toBe('fine');
    expect(shownIn(host('rail.length', '901 mm'), [bounded])['x']).toBe('Waiting on rail.length.');
    const wider = driven(host('rail.length', '90 mm'), 'rail.width', '50 mm');
    expect(shownIn(wider, [bounded])['x']).toBe('Waiting on rail.length.');
  });

  test('a linked value may be set, a value inside a sub-assembly too, and what is set further out wins', () => {
    const part = linked(withParameters('part', 'Beam', { twice: '2 * width' }), 'Sizes', { width: 100 });
    const unit = driven(withComponents(withParameters('assembly', 'Unit', {}), component('beam', 'Beam')), 'beam.width', '150 mm', ['Beam-takes-width']);
    const host = withComponents(loom({ a: 'unit.beam.twice', b: 'beam.twice' }), component('unit', 'Unit'), component('beam', 'Beam'));
    expect(shownIn(host, [part, unit])).toEqual({ a: '300 mm', b: '200 mm' });
    const outer = driven(host, 'unit.beam.width', '170 mm', ['beam', 'Beam-takes-width']);
    expect(shownIn(driven(outer, 'beam.width', '10 mm', ['Beam-takes-width']), [part, unit])).toEqual({ a: '340 mm', b: '20 mm' });
  });

  test('a component without a place sets what all others take from that document, below as well; what is not reached stays', () => {
    const sizes = withParameters('master', 'Sizes', { width: '100 mm', depth: '2 * width', height: '7 mm' });
    const part = linked(withParameters('part', 'Beam', { all: 'width + depth + height' }), 'Sizes', { width: 100, depth: 200, height: 6 });
    const unit = withComponents(withParameters('assembly', 'Unit', { inner: 'beam.all' }), component('beam', 'Beam'));
    const plain = withComponents(
      loom({ a: 'beam.all', b: 'unit.beam.all', c: 'unit.inner', d: 'sizes.depth' }),
      placeless(component('sizes', 'Sizes')),
      component('beam', 'Beam'),
      component('unit', 'Unit'),
    );
    expect(shownIn(plain, [sizes, part, unit])).toEqual({ a: '306 mm', b: '306 mm', c: '306 mm', d: '200 mm' });
    const set = driven(plain, 'sizes.width', '110 mm');
    expect(shownIn(set, [sizes, part, unit])).toEqual({ a: '336 mm', b: '336 mm', c: '336 mm', d: '220 mm' });
    // A drive here beats it; a circle through it is a circle.
    expect(shownIn(driven(set, 'beam.depth', '1 mm', ['Beam-takes-depth']), [sizes, part, unit])['a']).toBe('117 mm');
    const circle = edited(set, { type: 'parameter.add', parameter: { type: 'parameter', id: 'x', name: 'x', formula: { text: 'unit.inner' }, kind: 'any' } });
    expect(shownIn(driven(circle, 'sizes.height', '9 mm'), [sizes, part, unit])['x']).toBe('339 mm');
    const looped = edited(circle, { type: 'drive.remove', id: 'drive-sizes-width' });
    expect(shownIn(driven(looped, 'sizes.width', 'x / 2'), [sizes, part, unit])['x']).toContain('x → unit.inner → sizes.width → x');
  });

  test('what a value drives inside components, and what it comes from there, at any depth and through a master from here', () => {
    const sizes = withParameters('master', 'Sizes', { width: '100 mm', height: '7 mm' });
    const part = linked(withParameters('part', 'Beam', { all: 'width + height', flat: 'height', half: 'own / 2', own: '3 mm' }), 'Sizes', {
      width: 100,
      height: 7,
    });
    const unit = driven(withComponents(withParameters('assembly', 'Unit', { inner: 'beam.all', own: '1 mm' }), component('beam', 'Beam')), 'beam.own', 'own');
    let host = withComponents(
      loom({ span: '110 mm', gap: '2 mm', total: 'unit.inner + gap' }),
      placeless(component('sizes', 'Sizes')),
      component('unit', 'Unit'),
      component('beam', 'Beam'),
    );
    host = driven(driven(host, 'sizes.width', 'span'), 'unit.own', 'gap', ['Unit-own']);
    const values = openValues(host, sourceOf([sizes, part, unit]));
    const id = (name: string): string => values.sheet.findByName(name) ?? '';
    const told = (reached: readonly ReachedInside[]): Record<string, string[]> =>
      Object.fromEntries(reached.map(({ name, values: inside }) => [name, inside.map((one) => one.name).sort()]));
    expect(told(drivenInside(values, id('span')))).toEqual({ sizes: ['width'], unit: ['inner'], 'unit.beam': ['all', 'width'], beam: ['all', 'width'] });
    expect(told(drivenInside(values, id('gap')))).toEqual({ unit: ['own'], 'unit.beam': ['half', 'own'] });
    expect(drivenInside(values, id('total'))).toEqual([]);
    expect(told(sourcesInside(values, id('total')))).toEqual({ unit: ['inner'], 'unit.beam': ['all', 'height', 'width'] });
    expect(sourcesInside(values, id('span'))).toEqual([]);
  });

  test('a value that is gone, measured, or a table', () => {
    const host = withComponents(loom({ x: 'rail.length' }), component('rail', 'Rail'));
    const values = openValues(driven(host, 'rail.gone', '1 mm'), sourceOf([rail]));
    expect(values.sheet.read('drive-rail-gone')?.diagnostics[0]?.message).toBe('rail.gone cannot be set: it is no longer in Rail.');
  });
});

describe('laws', () => {
  const chain = (length: number): { host: Document; documents: Document[] } => {
    const documents = [withParameters('part', 'Link', { a: '1 mm', b: 'a + 1 mm', c: '5 mm' })];
    let host = withComponents(loom({ start: '1 mm' }), ...Array.from({ length }, (_, i) => component(`l${i}`, 'Link')));
    for (let i = 0; i < length; i++) host = driven(host, `l${i}.a`, i === 0 ? 'start' : `l${i - 1}.b`);
    return {
      host: edited(host, {
        type: 'parameter.add',
        parameter: { type: 'parameter', id: 'end', name: 'end', formula: { text: `l${length - 1}.b` }, kind: 'any' },
      }),
      documents,
    };
  };

  test('a chain through fifty components comes to rest, and after a change as a new one would', () => {
    const { host, documents } = chain(50);
    const values = openValues(host, sourceOf(documents));
    expect(values.show('end')?.shown).toBe('51 mm');
    const after = edited(host, { type: 'parameter.setFormula', id: 'Loom-start', formula: { text: '7 mm' } });
    values.apply(after, {
      records: [{ id: 'Loom-start', before: host.records['Loom-start'] ?? null, after: after.records['Loom-start'] ?? null }],
      lists: [],
      fields: [],
    });
    expect(values.show('end')?.shown).toBe('57 mm');
  });

  test('equal snapshots under equal values are one evaluation; a drive to the value at home is the same geometry', () => {
    let host = withComponents(loom({ w: '12 mm' }), ...['a', 'b', 'c', 'd'].map((name) => component(name, 'Rail')));
    host = driven(driven(driven(host, 'a.width', 'w'), 'b.width', '12 mm'), 'c.width', '13 mm');
    const { components } = openValues(host, sourceOf([rail]));
    if (!(components instanceof Instances)) throw new Error('no components');
    const [a, b, c, d] = ['a', 'b', 'c', 'd'].map((name) => components.find(name));
    expect(a?.values).toBe(b?.values);
    expect(new Set([a?.key, c?.key, d?.key]).size).toBe(3);
    expect(d?.key).toBe(instanceKey({ source: 'Rail', revision: 1 }, { values: new Map(), above: [] }));
  });

  test('random edits of drives and values: readings equal those of values that are opened anew', () => {
    const names = ['length', 'tenon', 'width'] as const;
    const step = fc.record({
      target: fc.constantFrom('r0', 'r1', 'r2'),
      value: fc.constantFrom(...names),
      formula: fc.constantFrom('s', '2 * s', 'r0.over_all', 'r1.over_all / 3', 'r2.width', 'r1.length + s', '1 kg', 'nothing_there', '17 mm'),
      s: fc.integer({ min: 1, max: 900 }),
      what: fc.constantFrom('drive', 'undrive', 's', 'rename', 'suppress'),
    });
    fc.assert(
      fc.property(fc.array(step, { minLength: 1, maxLength: 12 }), (steps) => {
        let host = withComponents(
          loom({ s: '5 mm', p: 'r0.over_all + r1.over_all', q: 'r2.over_all - r0.tenon', m: 'r1.mass' }),
          ...['r0', 'r1', 'r2'].map((name) => component(name, 'Rail')),
        );
        const source = sourceOf([rail]);
        const values = openValues(host, source);
        for (const [i, { target, value, formula, s, what }] of steps.entries()) {
          const before = host;
          const id = `drive-${target}-${value}`;
          if (what === 'drive') host = driven(host, `${target}.${value}`, formula);
          else if (what === 'undrive' && host.records[id]) host = edited(host, { type: 'drive.remove', id });
          else if (what === 's') host = edited(host, { type: 'parameter.setFormula', id: 'Loom-s', formula: { text: `${s} mm` } });
          else if (what === 'rename' && host.records[target]) host = edited(host, { type: 'value.rename', id: target, name: `${target}_${i}` });
          else if (what === 'suppress')
            host = edited(host, { type: 'component.put', component: component(target, 'Rail', { suppressed: { text: 's > 100 mm' } }) });
          const ids = new Set([...Object.keys(before.records), ...Object.keys(host.records)]);
          values.apply(host, {
            records: [...ids].flatMap((one) =>
              before.records[one] === host.records[one] ? [] : [{ id: one, before: before.records[one] ?? null, after: host.records[one] ?? null }],
            ),
            lists: Object.keys({ ...before.lists, ...host.lists }).filter((list) => before.lists[list] !== host.lists[list]),
            fields: [],
          });
        }
        const fresh = openValues(host, source);
        const reading = (from: typeof fresh, id: string) => ({
          value: from.sheet.readNumber(id),
          told: from.sheet.read(id)?.diagnostics.map(({ code }) => code),
        });
        for (const record of Object.values(host.records)) {
          if (record.type === 'parameter' || record.type === 'drive')
            expect({ id: record.id, ...reading(values, record.id) }).toEqual({ id: record.id, ...reading(fresh, record.id) });
        }
      }),
      {
        numRuns: Number(process.env['RUNS'] ?? 80),
        // A component in a circle that is renamed, and told as a circle still.
        examples: [
          [
            (['drive', 'drive', 'rename', 'drive'] as const).map((what, i) => ({
              target: 'r0' as const,
              value: i === 0 ? ('tenon' as const) : ('length' as const),
              formula: i === 0 ? ('r0.over_all' as const) : ('s' as const),
              s: 1,
              what,
            })),
          ],
        ],
      },
    );
  }, 600_000);
});
