/** What a range run or a goal reads at one state of a document: values, and what its geometry tells, built beside the page. */
import { builtInOf, complete, WHOLE, type CompleteDocument, type InstanceSource } from '@/core/instances';
import { findBrokenGuards, listSteps, type Document, type DocumentValues } from '@/core/document';
import { massOfBodies, problemsOfSteps, type Outcome } from '@/core/studies';
import { JudgedPairs } from './assembly-judge';
import type { RegenerationClient } from './client';
import { buildWhole } from './whole-assembly';
import { problemsOfWhole } from './whole-problems';
import { KILOGRAM } from '@/core/units';

/** Stands for the mass of everything among the outputs, in internal units. */
export const MASS = '/mass';

export type Build = (document: Document, values: DocumentValues) => Promise<Outcome | undefined>;

export interface BuildWishes {
  /** Values that are read. */
  readonly outputs: readonly string[];
  /** Whether it is looked for what stands in one another, in an assembly. */
  readonly isJudged?: boolean | undefined;
}

/** Builds parts and assemblies; undefined for documents that have no geometry. Gives undefined itself once the client is closed. */
export function buildWith(client: RegenerationClient, document: Document, source: InstanceSource, wishes: BuildWishes): Build | undefined {
  if (document.kind === 'assembly') {
    const known = new JudgedPairs();
    return (state) => buildAssembly(client, state, source, { ...wishes, known });
  }
  if (document.kind === 'part' && listSteps(document).length > 0) return (state, values) => buildPart(client, complete(state, source), values);
  return undefined;
}

async function buildPart(client: RegenerationClient, document: CompleteDocument, values: DocumentValues): Promise<Outcome | undefined> {
  const reply = await client.regenerate(document);
  if (!reply.ok) return reply.failure.kind === 'closed' ? undefined : { outputs: {}, problems: ['It could not be built.'] };
  const { steps, bodies, measured } = reply.value.result;
  values.setMeasured(measured);
  return { outputs: { [MASS]: (massOfBodies(bodies) ?? NaN) * KILOGRAM }, problems: problemsOfSteps(document, steps) };
}

async function buildAssembly(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  { outputs, isJudged = false, known }: BuildWishes & { readonly known: JudgedPairs },
): Promise<Outcome | undefined> {
  const whole = await buildWhole(client, document, (id, revision) => source.snapshot(id, revision), { isJudged, known });
  if ('failure' in whole) return whole.failure.kind === 'closed' ? undefined : { outputs: {}, problems: [`${whole.part} could not be built.`] };
  const { values } = whole;
  const mass = builtInOf(values, WHOLE, 'mass', whole.source);
  return {
    outputs: { ...Object.fromEntries(outputs.map((id) => [id, values.sheet.readNumber(id)])), [MASS]: 'value' in mass ? mass.value : NaN },
    problems: [...problemsOfWhole(whole), ...findBrokenGuards(values).map(({ message }) => message)],
  };
}
