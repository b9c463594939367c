import type { StepOf } from '../step-schema';
import { angle, length, OPERATION_WORDS, type StepKind } from './kind';

export const extrude: StepKind<StepOf<'extrude'>> = {
  words: 'extrude',
  detail: ({ operation }) => `extrude, ${OPERATION_WORDS[operation]}`,
  blank: ({ base, sketch, body, bodies: { length: count } }) => ({
    type: 'extrude',
    ...base,
    sketch,
    operation: count === 0 ? 'start' : 'remove',
    extent: count === 0 ? 'forward' : 'through',
    body,
    values: {},
  }),
  nameOf: (step, names) => `${names.step(step.sketch)} ${{ start: 'extruded', add: 'added', remove: 'removed', keep: 'kept' }[step.operation]}`,
  slots: ({ extent, isTapered }) => [
    ...(extent === 'through' || extent === 'up-to' ? [] : [length('depth', 'Depth', '18 mm')]),
    ...(extent === 'both' ? [length('back', 'Depth the other way', '10 mm')] : []),
    ...(isTapered === true ? [angle('taper', 'Taper', '3 deg')] : []),
  ],
  startsBody: ({ operation }) => operation === 'start',
  sketches: (step) => [step.sketch],
  isRepeatable: true,
  missing: ({ extent, upTo }) => (extent === 'up-to' && upTo === undefined ? 'Pick the face that it reaches up to.' : undefined),
  tidy: ({ upTo, ...rest }) => (upTo !== undefined && rest.extent === 'up-to' ? { ...rest, upTo } : rest),
};
