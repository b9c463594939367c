/** Loose-end detection against parts labelled by hand (invented): precision and recall, of those that were looked at and of those that were not. */
import { findRecord } from '@/core/document';
import { findTies, LIKELY } from '@/core/loose-ends';
import { buildLabelled, HELD_OUT_PARTS, LABELLED_PARTS, ROUND_PARTS, type LabelledPart } from '../support/labelled-parts';

function judge(parts: readonly LabelledPart[], least = LIKELY) {
  return parts.map((part) => {
    const { values, past } = buildLabelled(part);
    const ties = findTies(values, past)
      .filter(({ confidence }) => confidence >= least)
      .map(({ id, to, formula }) => ({
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
}

describe.each([
  ['all labelled parts', [...LABELLED_PARTS, ...HELD_OUT_PARTS], 0.95],
  ['parts that were held out', HELD_OUT_PARTS, 0.95],
])('%s', (_, parts, leastRecall) => {
  const judged = judge(parts);
  const count = (of: 'right' | 'wrong' | 'missed'): number => judged.reduce((sum, part) => sum + part[of].length, 0);

  test('of what is pointed out, at least nine in ten should be tied', () => {
    expect(count('right') / (count('right') + count('wrong'))).toBeGreaterThanOrEqual(0.9);
  });

  test('of what should be tied, nearly all is pointed out', () => {
    expect(count('right') / (count('right') + count('missed'))).toBeGreaterThanOrEqual(leastRecall);
  });
});

test('what is missed and what is wrong is known by name', () => {
  const judged = judge([...LABELLED_PARTS, ...HELD_OUT_PARTS]);
  expect(judged.filter(({ wrong, missed }) => wrong.length + missed.length > 0).map(({ part, wrong, missed }) => ({ part, wrong, missed })))
    .toMatchInlineSnapshot(`
   [
     {
       "missed": [],
       "part": "Castle post, raised since",
       "wrong": [
         "notch = post_stock / 2",
       ],
     },
     {
       "missed": [
         "bottom_groove",
       ],
       "part": "Tool tray",
       "wrong": [],
     },
   ]
  `);
});

describe('round numbers', () => {
  const sum = (judged: ReturnType<typeof judge>, of: 'right' | 'wrong' | 'missed'): number => judged.reduce((total, part) => total + part[of].length, 0);

  test('all that should be tied are listed, and most of what is listed should be', () => {
    const listed = judge(ROUND_PARTS, 0);
    expect([sum(listed, 'right'), sum(listed, 'wrong'), sum(listed, 'missed')]).toEqual([26, 4, 0]);
  });

  test('those that are called likely should nearly all be tied', () => {
    const likely = judge(ROUND_PARTS);
    expect([sum(likely, 'right'), sum(likely, 'wrong')]).toEqual([12, 1]);
  });
});
