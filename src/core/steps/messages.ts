/** The words for what keeps a sketch from being solved or built on. */
import { findAny, findRecord, listRecords, type Document, type DocumentValues } from '../document';
import type { ProfileProblem } from '../geometry';
import type { SketchSolution } from '../sketch';
import type { StepProblem } from './outcome';
import { LARGEST } from './build/context';
import { TAKEN_PREFIX, toMillimetres } from './sketch-model';

/**
 * A dimension that no shape can have: a length, radius or diameter that is not above zero, or one beyond all measure. Horizontal
 * and vertical ones, and those from a line, may be zero or negative, which is the other side.
 */
export function findBadSize(document: Document, sketch: string, values: DocumentValues): StepProblem | undefined {
  for (const { id, kind, on, parameter, isReference } of listRecords(document, `${sketch}/constraints`, 'dimension')) {
    const value = values.sheet.readNumber(parameter);
    if (isReference === true || Number.isNaN(value) || kind === 'angle') continue;
    const millimetres = toMillimetres(value);
    const said = nameConstraint(document, id, values);
    if (Math.abs(millimetres) > LARGEST) return { message: `${said} is too large; the most is ${LARGEST / 1e6} km.`, about: [id] };
    const hasSides = kind === 'length' && on.length > 1 && on.some((one) => findAny(document, one)?.type === 'line' || one.endsWith('-axis'));
    if (kind === 'horizontal' || kind === 'vertical' || hasSides || millimetres > SMALLEST) continue;
    return { message: `${said}, but must be above zero.`, about: [id] };
  }
  return undefined;
}

/** Below this nothing has a length, in millimetres: ends closer than it are one point. */
const SMALLEST = 1e-6;

/** Undefined when the sketch is solved. */
export function describeSolution(document: Document, sketch: string, solution: SketchSolution, values: DocumentValues): StepProblem | undefined {
  if (solution.invalid.length > 0) {
    return { message: 'A constraint or dimension does not fit the geometry that it is on.', about: solution.invalid };
  }
  if (solution.status === 'conflicting') {
    const names = solution.conflicting.map((id) => nameConstraint(document, id, values));
    return { message: `These cannot hold together: ${names.join(', ')}.`, about: solution.conflicting };
  }
  if (solution.status === 'not-converged') {
    const turning = findTurning(document, sketch, values);
    const why = turning.map(({ words }) => words).join(', ');
    return {
      message: why === '' ? `${NO_SHAPE} without turning something over; the last shape is kept.` : `${NO_SHAPE}: ${why}. The last shape is kept.`,
      about: turning.map(({ id }) => id),
    };
  }
  return undefined;
}

const NO_SHAPE = 'No shape was found that meets the dimensions';

/** Horizontal and vertical dimensions across one line that leave it no length, or turn it over: where a shape is not found, they are why. */
function findTurning(document: Document, sketch: string, values: DocumentValues): { readonly id: string; readonly words: string }[] {
  const lines = listRecords(document, `${sketch}/entities`, 'line');
  return listRecords(document, `${sketch}/constraints`, 'dimension').flatMap(({ id, kind, on, parameter, isReference }) => {
    const millimetres = toMillimetres(values.sheet.readNumber(parameter));
    if ((kind !== 'horizontal' && kind !== 'vertical') || isReference === true || !(millimetres < SMALLEST)) return [];
    const isOfLine = lines.some((line) => on.includes(line.id) || (on.includes(line.start) && on.includes(line.end)));
    const said = nameConstraint(document, id, values);
    return isOfLine ? [{ id, words: `${said} ${millimetres > -SMALLEST ? 'leaves its line without length' : 'would turn its line over'}` }] : [];
  });
}

/** `rail_gap = 21 mm`, or `horizontal`. */
export function nameConstraint(document: Document, id: string, values: DocumentValues): string {
  if (id.startsWith(TAKEN_PREFIX)) return 'geometry taken from elsewhere';
  const record = findAny(document, id);
  if (record?.type === 'constraint') return record.kind;
  if (record?.type !== 'dimension') return 'a constraint';
  const parameter = findRecord(document, record.parameter, 'parameter');
  return `${parameter?.name ?? record.kind} = ${values.show(record.parameter)?.shown ?? '?'}`;
}

export function describeProfileProblem(problem: ProfileProblem): StepProblem {
  const about = problem.curves;
  const at = problem.at ? ` at ${problem.at.map((v) => Number(v.toFixed(2))).join(', ')}` : '';
  switch (problem.code) {
    case 'no-curves':
      return { message: 'There is nothing drawn yet.', about };
    case 'zero-size':
      return { message: 'A line or arc has no length.', about };
    case 'open':
      return { message: problem.at ? `The outline is open${at}.` : 'A line belongs to no outline: the same region is on both its sides.', about };
    case 'touching':
      return { message: `Outlines meet in nothing but a point${at}. Move them apart, or let them overlap.`, about };
  }
}
