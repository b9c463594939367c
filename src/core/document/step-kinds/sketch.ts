import type { StepOf } from '../step-schema';
import { bodiesOfPlane, stepsOfPlane, type StepKind } from './kind';

export const sketch: StepKind<StepOf<'sketch'>> = {
  words: 'sketch',
  blank: ({ base }) => ({ type: 'sketch', ...base, plane: 'front' }),
  nameOf: () => ({ lettered: 'Profile' }),
  withPlane: (step, plane) => ({ ...step, plane }),
  under: ({ plane }) => stepsOfPlane(plane),
  bodiesUnder: ({ plane }) => bodiesOfPlane(plane),
};
