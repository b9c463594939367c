/** Every size of a document built beside the page, in a worker of its own: what it weighs, and what fails in it. */
import { inSize, listSizes, listSteps, type Document } from '@/core/document';
import { builtInOf, complete, openValues, WHOLE, type InstanceSource } from '@/core/instances';
import { massOfBodies, problemsOfSteps, problemsOfValues } from '@/core/studies';
import type { RegenerationClient } from '@/workers/client';
import { buildWhole } from '@/workers/whole-assembly';
import { problemsOfWhole } from '@/workers/whole-problems';

export interface CheckedSize {
  /** Kilograms; undefined where it has none. */
  readonly mass: number | undefined;
  /** What is wrong, in words; none where all is well. */
  readonly problems: readonly string[];
}

/** Tells each size as it is done, by its id; ends early once the client is closed. */
export async function checkSizes(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  onDone: (size: string, checked: CheckedSize) => void,
): Promise<void> {
  for (const { id } of listSizes(document)) {
    const sized = inSize(document, id);
    if (sized.kind === 'assembly') {
      const checked = await checkAssembly(client, sized, source);
      if (!checked) return;
      onDone(id, checked);
      continue;
    }
    const values = openValues(sized, source);
    const reply =
      sized.kind === 'part' && listSteps(sized).length > 0 ? await client.regenerate(complete(sized, source), undefined, `part size ${id}`) : undefined;
    if (reply && !reply.ok) {
      if (reply.failure.kind === 'closed') return;
      onDone(id, { mass: undefined, problems: ['It could not be built.'] });
      continue;
    }
    const built = reply?.value.result;
    if (built) values.setMeasured(built.measured);
    onDone(id, {
      mass: massOfBodies(built?.bodies ?? []),
      problems: [...problemsOfSteps(sized, built?.steps ?? []), ...problemsOfValues(values)],
    });
  }
}

/** Internal units in a kilogram. */
const KILOGRAM = 1e8;

/** With its parts, its mates, and what stands in one another; undefined where the client was closed meanwhile. */
async function checkAssembly(client: RegenerationClient, document: Document, source: InstanceSource): Promise<CheckedSize | undefined> {
  const whole = await buildWhole(client, document, source.snapshot, { isJudged: true });
  if ('failure' in whole) return whole.failure.kind === 'closed' ? undefined : { mass: undefined, problems: [`${whole.part} could not be built.`] };
  const mass = builtInOf(whole.values, WHOLE, 'mass', whole.source);
  return { mass: 'value' in mass ? mass.value / KILOGRAM : undefined, problems: [...problemsOfWhole(whole), ...problemsOfValues(whole.values)] };
}
