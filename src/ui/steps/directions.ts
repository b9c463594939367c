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

/** Whether a preview stands on the same geometry as the step: what it has read, or has not, holds for the step too. */
export function isPreviewOf(preview: SessionState['preview'], step: Step): boolean {
  const previewed = preview && findStep(preview.document, step.id);
  return previewed !== undefined && groundOf(previewed) === groundOf(step);
}

/** The step with the directions that its preview read, if that was of the same. */
export function keepDirections(step: Step, preview: SessionState['preview']): Step {
  const directions = isPreviewOf(preview, step) ? preview?.result.steps.find(({ id }) => id === step.id)?.directions : undefined;
  return directions ? { ...step, directions } : step;
}

/** Whether a direction is to be read off a body for the step: it lies on a face, runs along an edge or drills into what is there. */
export function readsDirections(step: Step): boolean {
  return step.type === 'hole' || Object.values(step).some((part) => typeof part === 'object' && 'body' in part);
}
