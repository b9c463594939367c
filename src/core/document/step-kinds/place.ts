import type { StepOf } from '../step-schema';
import { angle, bodiesOfAxis, bodiesOfPlane, length, stepsOfAxis, stepsOfPlane, type StepKind } from './kind';

export const place: StepKind<StepOf<'place'>> = {
  words: 'place',
  detail: ({ from, mirror }) => {
    if (from !== undefined) return mirror === undefined ? 'copies a body' : 'mirrored copy of a body';
    return mirror === undefined ? 'moves a body' : 'mirrors a body';
  },
  blank: ({ base, body }) => ({ type: 'place', ...base, body, values: {} }),
  nameOf: ({ from }, names) => (from === undefined ? `${names.body()} moved` : `${names.body(from)} copied`),
  slots: ({ mirror, about }) =>
    mirror === undefined
      ? [length('x', 'Along x', '0 mm'), length('y', 'Along y', '0 mm'), length('z', 'Along z', '0 mm'), ...(about ? [angle('angle', 'Angle', '90 deg')] : [])]
      : [],
  startsBody: ({ from }) => from !== undefined,
  under: ({ mirror, about }) => [...(mirror === undefined ? [] : stepsOfPlane(mirror)), ...(about ? stepsOfAxis(about) : [])],
  bodiesUnder: ({ from, mirror, about }) => [
    ...(from === undefined ? [] : [from]),
    ...(mirror === undefined ? [] : bodiesOfPlane(mirror)),
    ...(about ? bodiesOfAxis(about) : []),
  ],
};
