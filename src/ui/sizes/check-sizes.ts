/** Every size of a document built beside the page, in a worker of its own: what it weighs, and what fails in it. */
import { inSize, listSizes, listSteps, type Document } from '@/core/document';
import { complete, openValues, type InstanceSource } from '@/core/instances';
import { massOfBodies, problemsOfSteps, problemsOfValues } from '@/core/studies';
import type { RegenerationClient } from '@/workers/client';
import { buildWhole } from '@/workers/whole-assembly';
import { massOfWhole, problemsOfWhole } from '@/workers/whole-problems';

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

/** With its parts, its mates, and what stands in one another; undefined where the client was closed meanwhile. */
async function checkAssembly(client: RegenerationClient, document: Document, source: InstanceSource): Promise<CheckedSize | undefined> {
  const whole = await buildWhole(client, document, (id, revision) => source.snapshot(id, revision), { isJudged: true });
  if ('failure' in whole) return whole.failure.kind === 'closed' ? undefined : { mass: undefined, problems: [`${whole.part} could not be built.`] };
  return { mass: massOfWhole(whole), problems: [...problemsOfWhole(whole), ...problemsOfValues(whole.values)] };
}
