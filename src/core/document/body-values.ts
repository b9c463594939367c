/** Which steps and values a body comes from. */
import { findAny, isNamed, listIds, listSteps } from './access';
import type { Document } from './schema';
import { allStepsUnder } from './sketch-sources';
import { bodyOf, startedBodies } from './step-kinds';
import type { DocumentValues } from './values';

/** Steps that make or change a body, and the sketches and planes that they are made from, in their order. */
export function stepsOfBody(document: Document, body: string): string[] {
  const own = listSteps(document).filter((step) => bodyOf(step) === body || startedBodies(step).includes(body));
  const wanted = new Set(own.flatMap((step) => [step.id, ...allStepsUnder(document, step)]));
  return listIds(document, 'steps').filter((id) => wanted.has(id));
}

/** Every value that drives a body: those of its steps, and what they read. */
export function valuesOfBody(values: DocumentValues, body: string): ReadonlySet<string> {
  const { document, sheet } = values;
  const steps = stepsOfBody(document, body);
  const wave = [...steps.flatMap((step) => [...listIds(document, `${step}/values`), `${step}/suppressed`]), `${body}/density`];
  const seen = new Set(wave);
  for (let id = wave.pop(); id !== undefined; id = wave.pop()) {
    for (const read of sheet.listReads(id)) {
      if (seen.has(read)) continue;
      seen.add(read);
      wave.push(read);
    }
  }
  return new Set(
    [...seen].filter((id) => {
      const record = findAny(document, id);
      return record !== undefined && isNamed(record);
    }),
  );
}
