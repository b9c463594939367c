/** Every size of a part built beside the page, in a worker of its own: what it weighs, and what fails in it. */
import { DocumentValues, findBrokenGuards, inSize, listSizes, listSteps, type Document } from '@/core/document';
import type { RegenerationClient } from '@/workers/client';

export interface CheckedSize {
  /** Kilograms and cubic millimetres; undefined where it has none. */
  readonly mass: number | undefined;
  readonly volume: number | undefined;
  /** What is wrong, in words; none where all is well. */
  readonly problems: readonly string[];
}

/** Tells each size as it is done, by its id; ends early once the client is closed. */
export async function checkSizes(client: RegenerationClient, document: Document, onDone: (size: string, checked: CheckedSize) => void): Promise<void> {
  for (const { id } of listSizes(document)) {
    const sized = inSize(document, id);
    const values = new DocumentValues(sized);
    const reply = sized.kind === 'part' && listSteps(sized).length > 0 ? await client.regenerate(sized, undefined, `part size ${id}`) : undefined;
    if (reply && !reply.ok) {
      if (reply.failure.kind === 'closed') return;
      onDone(id, { mass: undefined, volume: undefined, problems: ['It could not be built.'] });
      continue;
    }
    const built = reply?.value.result;
    if (built) values.setMeasured(built.measured);
    const bodies = built?.bodies.filter(({ usedBy }) => usedBy === undefined) ?? [];
    const sum = (amounts: readonly (number | undefined)[]): number | undefined =>
      amounts.length === 0 ? undefined : amounts.reduce<number | undefined>((all, one) => (all === undefined || one === undefined ? undefined : all + one), 0);
    const failing = built?.steps.filter(({ status }) => status === 'failed') ?? [];
    const wrong = Object.values(sized.records).flatMap((record) => {
      const [problem] = record.type === 'parameter' ? (values.sheet.read(record.id)?.diagnostics ?? []) : [];
      return problem && problem.code !== 'waiting' && record.type === 'parameter' ? [`${record.name}: ${problem.message}`] : [];
    });
    onDone(id, {
      mass: sum(bodies.map(({ mass }) => mass)),
      volume: sum(bodies.map(({ properties }) => properties?.volume)),
      problems: [
        ...wrong,
        ...failing.map(({ id: step, problem }) => `${listSteps(sized).find((one) => one.id === step)?.name ?? 'A step'}: ${problem?.message ?? 'it failed.'}`),
        ...findBrokenGuards(values).map(({ message }) => message),
      ],
    });
  }
}
