/** What picks lead to which mates, and the edits that these come to. */
import { component, withComponents, withParameters } from '../../../tests/support/assemblies';
import { edited } from '../../../tests/support/demo';
import { line, plane, spot, X, Z } from '../../../tests/support/random-assembly';
import type { MateGeometry } from '@/core/assembly';
import { findRecord, listRecords, type Document, type Edit } from '@/core/document';
import type { Stance } from '@/core/instances';
import { turnAbout } from '@/core/instances';
import { kindsOf, mateEdit, newMate, nextPick, senseOf, withKind, withPick } from './mate-draft';
import type { MateDraft, MatePick } from '../state/drafts';

const pick = (owner: string, geometry: MateGeometry, name = 'f'): MatePick => ({
  reference: { path: [owner], body: 'b', name },
  geometry,
  words: `${owner}: ${name}`,
});
const draftOf = (...picks: readonly MatePick[]): MateDraft => {
  let count = 0;
  return picks.reduce(
    withPick,
    newMate(() => `id${count++}`),
  );
};
const assembly = (...names: readonly string[]): Document =>
  withComponents(withParameters('assembly', 'unit', {}), ...names.map((name, i) => component(name, 'lever', { isAnchored: i === 0 })));
const standing = (turns: Readonly<Record<string, number>>): ReadonlyMap<string, Stance> =>
  new Map(Object.entries(turns).map(([id, turn]) => [id, { origin: [0, 0, 0], turn: turnAbout(Z, turn) }]));
const made = (document: Document, edit: Edit | undefined) => {
  if (!edit) throw new Error('no edit');
  return edited(document, edit);
};

describe('picks', () => {
  const axis = line([0, 0, 0], Z, 4);
  test.each([
    ['two faces', draftOf(pick('a', plane([0, 0, 0], Z)), pick('b', plane([0, 0, 0], Z))), 'coplanar', 'opposed'],
    ['a shaft and a face, whichever comes first', draftOf(pick('a', axis), pick('b', plane([0, 0, 0], X))), 'tangent', undefined],
    ['two axes that run against one another', draftOf(pick('a', axis), pick('b', line([0, 0, 0], [0, 0, -1]))), 'coaxial', 'opposed'],
    ['a point and an axis', draftOf(pick('a', spot([0, 0, 0])), pick('b', line([0, 0, 0], Z))), 'coincident', undefined],
  ] as const)('%s', (_, draft, kind, sense) => {
    expect([draft.kind, senseOf(draft)]).toEqual([kind, sense]);
    expect(kindsOf(draft)).toContain(draft.kind);
    expect(nextPick(draft)).toBeUndefined();
  });

  test('on a copy hold that copy, by its number; a second on another copy of the same takes its place', () => {
    const draft = draftOf(pick('a', plane([0, 0, 0], Z)), pick('b#3', plane([0, 0, 0], Z)));
    const document = made(assembly('a', 'b'), mateEdit(assembly('a', 'b'), draft, standing({})));
    expect(listRecords(document, 'mates', 'mate')[0]).toMatchObject({ name: 'b[3] on a', second: { path: ['b#3'] } });
    expect(draftOf(pick('b', axis, 'one'), pick('b#3', axis, 'two')).first?.words).toBe('b#3: two');
  });

  test('a point keeps a distance from a plane', () => {
    expect(kindsOf(draftOf(pick('a', plane([0, 0, 0], Z)), pick('b', spot([0, 0, 0]))))).toEqual(['coincident', 'coplanar', 'centred', 'together']);
  });

  test('on one component twice takes the place of the first', () => {
    const draft = draftOf(pick('a', plane([0, 0, 0], Z), 'one'), pick('a', plane([0, 0, 0], Z), 'two'));
    expect([draft.first?.words, draft.second]).toEqual(['a: two', undefined]);
  });

  test('a middle asks for the other face, of any component, and keeps the two that there are', () => {
    const two = withKind(draftOf(pick('left', plane([0, 0, 0], X)), pick('board', plane([0, 0, 0], X))), 'centred');
    expect(nextPick(two)).toBe('Click the face on the other side.');
    expect(mateEdit(assembly('left', 'board', 'right'), two, standing({}))).toBeUndefined();
    const three = withPick(two, pick('right', plane([50, 0, 0], [-1, 0, 0])));
    expect([three.first?.words, three.second?.words, three.third?.words, three.sense]).toEqual(['left: f', 'board: f', 'right: f', -1]);
    // An axis is not on the other side of anything.
    expect(withPick(two, pick('right', axis)).third).toBeUndefined();
    const document = made(assembly('left', 'board', 'right'), mateEdit(assembly('left', 'board', 'right'), three, standing({})));
    expect(listRecords(document, 'mates', 'mate')[0]).toMatchObject({ kind: 'centred', sense: -1, third: { path: ['right'] }, values: {} });
    // The third goes with the mate.
    expect(listRecords(edited(document, { type: 'component.remove', id: 'right' }), 'mates', 'mate')).toEqual([]);
  });
});

describe('edits', () => {
  const wheels = () => draftOf(pick('one', line([0, 0, 0], Z)), pick('two', line([0, 0, 0], Z)));

  test('gears are counted from how they stand, in what both are held by', () => {
    let document = assembly('frame', 'one', 'two');
    for (const wheel of ['one', 'two']) {
      const held = { ...draftOf(pick('frame', line([0, 0, 0], Z)), pick(wheel, line([0, 0, 0], Z))), id: `on-${wheel}` };
      document = made(document, mateEdit(document, held, standing({})));
    }
    const draft = { ...withKind(wheels(), 'gears'), id: 'mesh', formulas: { ratio: 'mesh_ratio = 17 / 31' } };
    expect(senseOf(draft)).toBe('turn opposite ways');
    document = made(document, mateEdit(document, draft, standing({ frame: 0.5, one: 0.5, two: 1.5 })));
    const mate = findRecord(document, 'mesh', 'mate');
    expect(mate).toMatchObject({ kind: 'gears', sense: -1, third: { path: ['frame'] } });
    const starts = [[1, 0, 0, 0], turnAbout(Z, 1)].flat();
    expect(mate?.starts?.flat().every((value, i) => Math.abs(value - (starts[i] ?? NaN)) < 1e-12)).toBe(true);
    expect(findRecord(document, mate?.values['ratio'] ?? '', 'parameter')).toMatchObject({ name: 'mesh_ratio', kind: 'number', formula: { text: '17 / 31' } });
  });

  test('two limits are two values with names of their own', () => {
    const draft = { ...draftOf(pick('one', plane([0, 0, 0], Z)), pick('two', plane([0, 0, 0], Z))), isLimited: true, formulas: { most: '80 mm' } };
    const document = made(assembly('one', 'two'), mateEdit(assembly('one', 'two'), draft, standing({})));
    const [mate] = listRecords(document, 'mates', 'mate');
    const values = ['least', 'most'].map((slot) => findRecord(document, mate?.values[slot] ?? '', 'parameter'));
    expect(values.map((value) => value?.formula?.text)).toEqual(['0 mm', '80 mm']);
    expect(new Set(values.map((value) => value?.name)).size).toBe(2);
  });
});
