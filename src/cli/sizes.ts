/** The sizes of one document, each evaluated and built: what the command `sizes` prints. */
import { findBrokenGuards, inSize, listSizes, sizeColumns, type Document } from '../core/document';
import { complete, openValues, type InstanceSource } from '../core/instances';
import { massOfBodies, problemsOfSteps } from '../core/studies';
import type { RegenerationClient } from '../workers/client';
import { buildWhole } from '../workers/whole-assembly';
import { massOfWhole, problemsOfWhole } from '../workers/whole-problems';
import { reportDocument, type ValueReport } from './report';

export interface SizeReport {
  /** Null for the document as it is written. */
  readonly size: string | null;
  /** The values that sizes set, as they are in it. */
  readonly values: readonly ValueReport[];
  /** In kilograms; null where it has none. */
  readonly mass: number | null;
  readonly failing: readonly string[];
  readonly guards: readonly string[];
}

export async function reportSizes(client: RegenerationClient, source: InstanceSource, document: Document): Promise<SizeReport[]> {
  const reports: SizeReport[] = [];
  for (const size of [undefined, ...listSizes(document)]) {
    const sized = inSize(document, size?.id);
    const built = await build(client, source, sized);
    const columns = new Set(sizeColumns(document).map(({ id }) => id));
    const values = openValues(sized, source);
    values.setMeasured(built.measured);
    const { values: rows } = reportDocument(sized, source, { measured: built.measured });
    reports.push({
      size: size?.name ?? null,
      values: rows.filter(({ id }) => columns.has(id)),
      mass: built.mass,
      failing: built.failing,
      guards: findBrokenGuards(values).map(({ message }) => message),
    });
  }
  return reports;
}

async function build(client: RegenerationClient, source: InstanceSource, document: Document) {
  if (document.kind === 'assembly') {
    const whole = await buildWhole(client, document, source.snapshot, { isJudged: true });
    if ('failure' in whole) return { measured: {}, mass: null, failing: [`${whole.part} could not be built`] };
    const own = whole.measured.find((one) => one.document === document);
    return { measured: own?.measured ?? {}, mass: massOfWhole(whole) ?? null, failing: problemsOfWhole(whole) };
  }
  const reply = document.kind === 'part' ? await client.regenerate(complete(document, source)) : undefined;
  if (!reply) return { measured: {}, mass: null, failing: [] };
  if (!reply.ok) return { measured: {}, mass: null, failing: [`It could not be built (${reply.failure.kind}).`] };
  const { steps, bodies, measured } = reply.value.result;
  return { measured, mass: massOfBodies(bodies) ?? null, failing: problemsOfSteps(document, steps) };
}

/** A line for each size: its name, its values, mass, what is wrong. */
export function formatSizes(reports: readonly SizeReport[]): string {
  return reports
    .flatMap(({ size, values, mass, failing, guards }) => [
      `${size ?? '(as written)'}: ${values.map(({ name, shown }) => `${name} ${shown || 'error'}`).join(', ')}${mass === null ? '' : `; ${mass.toFixed(4)} kg`}`,
      ...failing.map((one) => `  failed: ${one}`),
      ...guards.map((one) => `  guard broken: ${one}`),
    ])
    .join('\n');
}
