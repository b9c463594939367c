import type { StepOf } from '../step-schema';
import { angle, bodiesOfPlane, stepsOfPlane, type StepKind } from './kind';

export const draft: StepKind<StepOf<'draft'>> = {
  words: 'taper of faces',
  blank: ({ base, body }) => ({ type: 'draft', ...base, faces: [], plane: 'top', body, values: {} }),
  nameOf: (_, names) => `${names.body()} tapered`,
  slots: () => [angle('angle', 'Angle', '3 deg')],
  withPlane: (step, plane) => ({ ...step, plane }),
  under: ({ plane }) => stepsOfPlane(plane),
  bodiesUnder: ({ plane }) => bodiesOfPlane(plane),
  missing: ({ faces }) => (faces.length === 0 ? 'Pick the faces that lean.' : undefined),
};
