/** What a sketch takes its geometry from, beside its own: edges of bodies, curves of other sketches. */
import { findAny, listIds } from './access';
import type { Document } from './schema';
import { bodiesUnder, stepsUnder } from './step-kinds';
import type { Step } from './step-schema';

interface Sources {
  readonly sketches: ReadonlySet<string>;
  readonly bodies: ReadonlySet<string>;
}

function sourcesOfSketch(document: Document, sketch: string): Sources {
  const sketches = new Set<string>();
  const bodies = new Set<string>();
  for (const id of listIds(document, `${sketch}/entities`)) {
    const entity = findAny(document, id);
    if (!entity || !('from' in entity) || typeof entity.from !== 'object') continue;
    if ('sketch' in entity.from) sketches.add(entity.from.sketch);
    else if ('body' in entity.from) bodies.add(entity.from.body);
  }
  return { sketches, bodies };
}

/** Steps that a step is built on, geometry taken into a sketch included. */
export function allStepsUnder(document: Document, step: Step): readonly string[] {
  return step.type === 'sketch' ? [...stepsUnder(step), ...sourcesOfSketch(document, step.id).sketches] : stepsUnder(step);
}

/** Bodies that a step reads beside the one that it works on, edges taken into a sketch included. */
export function allBodiesUnder(document: Document, step: Step): readonly string[] {
  return step.type === 'sketch' ? [...bodiesUnder(step), ...sourcesOfSketch(document, step.id).bodies] : bodiesUnder(step);
}
