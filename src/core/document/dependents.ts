/** What is built on a step: the steps that would have nothing to stand on without it. */
import { findStep, listSteps } from './access';
import type { Document } from './schema';
import { allBodiesUnder, allStepsUnder } from './sketch-sources';
import { bodyOf, sketchesOf, startedBodies } from './step-kinds';

/** Steps that are built on one of those, directly or through others, in their order; without them. */
export function stepsBuiltOn(document: Document, ids: readonly string[]): string[] {
  const going = new Set(ids);
  const bodies = new Set(ids.flatMap((id) => bodiesStartedBy(document, id)));
  const found: string[] = [];
  // They stand after what they are built on: one pass is enough.
  for (const step of listSteps(document)) {
    if (going.has(step.id)) continue;
    const isBuiltOn =
      allStepsUnder(document, step).some((under) => going.has(under)) ||
      [bodyOf(step), ...allBodiesUnder(document, step)].some((body) => body !== undefined && bodies.has(body));
    if (!isBuiltOn) continue;
    going.add(step.id);
    for (const body of startedBodies(step)) bodies.add(body);
    found.push(step.id);
  }
  return found;
}

function bodiesStartedBy(document: Document, id: string): readonly string[] {
  const step = findStep(document, id);
  return step ? startedBodies(step) : [];
}

/** Sketches that only those steps are made from. */
export function sketchesOnlyFor(document: Document, ids: readonly string[]): string[] {
  const own = new Set(ids);
  const steps = listSteps(document);
  const wanted = new Set(steps.filter(({ id }) => own.has(id)).flatMap((step) => sketchesOf(step)));
  const others = new Set(steps.filter(({ id }) => !own.has(id)).flatMap((step) => allStepsUnder(document, step)));
  return [...wanted].filter((id) => !others.has(id) && !own.has(id));
}
