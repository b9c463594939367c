import type { StepOf } from '../step-schema';
import { bodiesOfPlane, stepsOfPlane, type StepKind } from './kind';

export const split: StepKind<StepOf<'split'>> = {
  words: 'split',
  blank: ({ base, body }) => ({ type: 'split', ...base, plane: 'side', keep: 'both', body, values: {} }),
  nameOf: (_, names) => `${names.body()} split`,
  withPlane: (step, plane) => ({ ...step, plane }),
  under: ({ plane }) => stepsOfPlane(plane),
  bodiesUnder: ({ plane }) => bodiesOfPlane(plane),
  tidy: ({ other, ...rest }) => (other !== undefined && rest.keep === 'both' ? { ...rest, other } : rest),
};
