/** What is wrong with a document as its values are, in words. */
import { findBrokenGuards, isNamed, listSteps, type Document, type DocumentValues } from '../document';

/** Errors of values and guards that do not hold; values that wait are told by what they wait on. */
export function problemsOfValues(values: DocumentValues): string[] {
  return [...errorsOfValues(values), ...findBrokenGuards(values).map(({ message }) => message)];
}

/** Errors of values; what waits on one is no error of its own. */
export function errorsOfValues(values: DocumentValues): string[] {
  const { document, sheet } = values;
  return Object.values(document.records).flatMap((record) => {
    const [problem] = isNamed(record) && record.type !== 'table' ? (sheet.read(record.id)?.diagnostics ?? []) : [];
    return problem && problem.code !== 'waiting' && isNamed(record) ? [`${record.name}: ${problem.message}`] : [];
  });
}

/** The values of the document through which a held result reaches one of its values, by name; none where it does not rest on any. */
export function heldSources(values: DocumentValues, id: string): string[] {
  const { document, sheet } = values;
  const seen = new Set<string>();
  const sources = new Set<string>();
  const look = (node: string): void => {
    if (seen.has(node) || !values.isHeld(node)) return;
    seen.add(node);
    const held = sheet.listReads(node).filter((read) => values.isHeld(read));
    held.forEach(look);
    const record = document.records[node];
    if (held.length === 0 && record && isNamed(record)) sources.add(record.name);
  };
  look(id);
  return [...sources];
}

/** What rests on a held result: those of the values, and the shape, by their names. */
export function heldAmong(values: DocumentValues, ids: readonly string[]): string[] {
  const { document } = values;
  const last = listSteps(document).at(-1);
  const names = ids.flatMap((id) => {
    const record = document.records[id];
    return record && isNamed(record) && values.isHeld(id) ? record.name : [];
  });
  return [...names, ...(last && values.isHeld(`${last.id}/built`) ? ['the shape'] : [])];
}

/** Steps that failed as a part was built. */
export function problemsOfSteps(
  document: Document,
  steps: readonly { readonly id: string; readonly status: string; readonly problem?: { readonly message: string } }[],
): string[] {
  return steps.flatMap(({ id, status, problem }) =>
    status === 'failed' ? [`${listSteps(document).find((step) => step.id === id)?.name ?? 'A step'}: ${problem?.message ?? 'it failed.'}`] : [],
  );
}

/** Of all bodies that are not used up, in kilograms; undefined where there is none, or one has no mass. */
export function massOfBodies(bodies: readonly { readonly mass?: number; readonly usedBy?: string }[]): number | undefined {
  const masses = bodies.flatMap(({ mass, usedBy }) => (usedBy === undefined ? [mass] : []));
  if (masses.length === 0) return undefined;
  return masses.reduce<number | undefined>((sum, mass) => (sum === undefined || mass === undefined ? undefined : sum + mass), 0);
}

/** Of all bodies that are not used up, in cubic millimetres; undefined where none was built. */
export function volumeOfBodies(bodies: readonly { readonly properties?: { readonly volume: number }; readonly usedBy?: string }[]): number | undefined {
  const volumes = bodies.flatMap(({ properties, usedBy }) => (properties && usedBy === undefined ? properties.volume : []));
  return volumes.length === 0 ? undefined : volumes.reduce((sum, volume) => sum + volume, 0);
}
