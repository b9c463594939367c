/** Loose-end detection against parts labelled by hand (invented; not tuned on): precision and recall. */
import { findRecord } from '@/core/document';
import { findTies } from '@/core/loose-ends';
import { buildLabelled, LABELLED_PARTS } from '../support/labelled-parts';

const judged = LABELLED_PARTS.map((part) => {
  const { values, past } = buildLabelled(part);
  const ties = findTies(values, past).map(({ id, to, formula }) => ({
    name: findRecord(values.document, id, 'parameter')?.name ?? '',
    to: to.map((target) => findRecord(values.document, target, 'parameter')?.name ?? ''),
    formula,
  }));
  const isRight = ({ name, to }: (typeof ties)[number]): boolean => part.loose[name] !== undefined && to.includes(part.loose[name]);
  return {
    part: part.name,
    right: ties.filter(isRight).map(({ name }) => name),
    wrong: ties.filter((tie) => !isRight(tie)).map(({ name, formula }) => `${name} = ${formula}`),
    missed: Object.keys(part.loose).filter((name) => !ties.some((tie) => tie.name === name && isRight(tie))),
  };
});

const count = (of: 'right' | 'wrong' | 'missed'): number => judged.reduce((sum, part) => sum + part[of].length, 0);

test('of what is pointed out, at least nine in ten should be tied', () => {
  expect(count('right') / (count('right') + count('wrong'))).toBeGreaterThanOrEqual(0.9);
});

test('of what should be tied, at least 95 in a hundred is pointed out', () => {
  expect(count('right') / (count('right') + count('missed'))).toBeGreaterThanOrEqual(0.95);
});

test('what is missed and what is wrong is known by name', () => {
  expect(judged.filter(({ wrong, missed }) => wrong.length + missed.length > 0).map(({ part, wrong, missed }) => ({ part, wrong, missed })))
    .toMatchInlineSnapshot(`
   [
     {
       "missed": [
         "tenon",
       ],
       "part": "Bench",
       "wrong": [],
     },
   ]
  `);
});
