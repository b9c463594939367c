/** Directions that a step keeps to: read off the geometry that it is made on, as long as it is made on the same. */
import { findStep, type Step } from '@/core/document';
import type { SessionState } from '../state/session-state';

/** What tells whether a step is made on the same geometry: everything but its words and numbers. */
function groundOf({ name: _, suppressed: __, directions: ___, ...step }: Step): string {
  return JSON.stringify({ ...step, values: undefined, isReversed: undefined });
}

/** The step after it was changed: where it is made on something else, the old directions mean nothing. */
export function onItsGround(before: Step, after: Step): Step {
  if (after.directions === undefined || groundOf(before) === groundOf(after)) return after;
  const { directions: _, ...rest } = after;
  return rest;
}

/** The step with the directions that its preview read, if that was of the same. */
export function keepDirections(step: Step, preview: SessionState['preview']): Step {
  const previewed = preview && findStep(preview.document, step.id);
  const directions = preview?.result.steps.find(({ id }) => id === step.id)?.directions;
  return previewed && directions && groundOf(previewed) === groundOf(step) ? { ...step, directions } : step;
}
