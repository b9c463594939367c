import type { StepOf } from '../step-schema';
import { angle, bodiesOfPlane, length, stepsOfPlane, type StepKind } from './kind';

export const datum: StepKind<StepOf<'datum'>> = {
  words: 'datum plane',
  blank: ({ base }) => ({ type: 'datum', ...base, from: 'top', turn: 'none', values: {} }),
  nameOf: () => ({ lettered: 'Plane' }),
  slots: ({ turn }) => [length('offset', 'Offset', '20 mm'), ...(turn === 'none' ? [] : [angle('angle', 'Angle', '30 deg')])],
  withPlane: (step, plane) => ({ ...step, from: plane }),
  under: ({ from }) => stepsOfPlane(from),
  bodiesUnder: ({ from }) => bodiesOfPlane(from),
};
