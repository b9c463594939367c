/** Sizes of a document built beside the page, in a worker of its own: what each weighs, how it looks, and what fails in it. */
import type { CheckedSize } from '@/contract';
import { inSize, listSteps, type Document, type DocumentValues } from '@/core/document';
import { builtInOf, complete, openValues, WHOLE, type InstanceSource } from '@/core/instances';
import { errorsOfValues, heldAmong, keyOfSize, massOfBodies, problemsOfSteps, problemsOfValues, valuesOfTable, volumeOfBodies } from '@/core/studies';
import type { RegenerationClient } from '@/workers/client';
import { drawnOfPart, drawnOfWhole, drawPicture, type DrawnBody, type SmallPicture } from '@/workers/small-picture';
import { buildWhole } from '@/workers/whole-assembly';
import { massOfWhole, problemsOfWhole } from '@/workers/whole-problems';
import { CUBIC_MILLIMETRE } from '@/core/units';

/** What is kept of each, at most. */
const MOST_PROBLEMS = 100;
const MOST_LETTERS = 1000;

export interface CheckedState extends Pick<CheckedSize, 'mass' | 'volume'> {
  readonly problems: readonly string[];
  /** The document as it is in the size, with what was measured; undefined where it could not be built. */
  readonly values?: DocumentValues;
  /** What is seen of it; nothing where it could not be built. */
  readonly drawn: readonly DrawnBody[];
}

/**
 * Tells each size as it is done, by its id; ends early once the client is closed. `writePicture` gives a picture as a data address,
 * where pictures are wanted.
 */
export async function checkSizes(
  client: RegenerationClient,
  document: Document,
  source: InstanceSource,
  sizes: readonly string[],
  onDone: (size: string, checked: CheckedSize) => void,
  writePicture?: (picture: SmallPicture) => string | undefined,
): Promise<void> {
  for (const size of sizes) {
    const start = performance.now();
    const found = await checkState(client, inSize(document, size), source);
    if (!found) return;
    const { mass, volume, values } = found;
    const time = performance.now() - start;
    // Where a value has an error, what was built is not this size.
    const drawing = writePicture && values && errorsOfValues(values).length === 0 ? drawPicture(found.drawn) : undefined;
    const picture = drawing && writePicture?.(drawing);
    onDone(size, {
      key: keyOfSize(document, size),
      ...(mass === undefined ? {} : { mass }),
      ...(volume === undefined ? {} : { volume }),
      problems: cut(found.problems),
      held: values ? cut(heldAmong(values, valuesOfTable(document))) : [],
      readings: values ? readingsOf(values) : {},
      time,
      ...(picture === undefined ? {} : { picture }),
    });
  }
}

function cut(words: readonly string[]): string[] {
  return words.slice(0, MOST_PROBLEMS).map((word) => word.slice(0, MOST_LETTERS));
}

function readingsOf(values: DocumentValues): CheckedSize['readings'] {
  return Object.fromEntries(
    valuesOfTable(values.document).flatMap((id) => {
      const reading = values.show(id);
      if (!reading || reading.diagnostics.length > 0) return [];
      return [[id, { value: Number.isFinite(reading.value) ? reading.value : null, shown: reading.shown.slice(0, MOST_LETTERS) }]];
    }),
  );
}

/** Builds one state of a document and judges it; undefined where the client was closed meanwhile. */
export async function checkState(client: RegenerationClient, document: Document, source: InstanceSource): Promise<CheckedState | undefined> {
  if (document.kind === 'assembly') return checkAssembly(client, document, source);
  const values = openValues(document, source);
  if (document.kind !== 'part' || listSteps(document).length === 0) return { problems: problemsOfValues(values), values, drawn: [] };
  const reply = await client.regenerate(complete(document, source), [], 'part size');
  if (!reply.ok) return reply.failure.kind === 'closed' ? undefined : { problems: ['It could not be built.'], drawn: [] };
  const { result, meshes } = reply.value;
  values.setMeasured(result.measured);
  const failed = problemsOfSteps(document, result.steps);
  return {
    ...(failed.length === 0 ? weightOf(values, massOfBodies(result.bodies), volumeOfBodies(result.bodies)) : {}),
    problems: [...problemsOfValues(values), ...failed],
    values,
    drawn: drawnOfPart(document, result, meshes),
  };
}

/** With its parts, its mates, and what stands in one another; undefined where the client was closed meanwhile. */
async function checkAssembly(client: RegenerationClient, document: Document, source: InstanceSource): Promise<CheckedState | undefined> {
  const whole = await buildWhole(client, document, (id, revision) => source.snapshot(id, revision), { isJudged: true, withMeshes: true });
  if ('failure' in whole) return whole.failure.kind === 'closed' ? undefined : { problems: [`${whole.part} could not be built.`], drawn: [] };
  const volume = builtInOf(whole.values, WHOLE, 'volume', whole.source);
  const hasFailed = [...whole.results.values()].some(({ steps }) => steps.some(({ status }) => status === 'failed'));
  return {
    ...(hasFailed ? {} : weightOf(whole.values, massOfWhole(whole), 'value' in volume ? volume.value / CUBIC_MILLIMETRE : undefined)),
    problems: [...problemsOfValues(whole.values), ...problemsOfWhole(whole)],
    values: whole.values,
    drawn: drawnOfWhole(whole),
  };
}

/** Where a value has an error, what was built is not this size: it has no mass then. */
function weightOf(values: DocumentValues, mass: number | undefined, volume: number | undefined): Pick<CheckedSize, 'mass' | 'volume'> {
  if (errorsOfValues(values).length > 0) return {};
  return { ...(mass === undefined ? {} : { mass }), ...(volume === undefined ? {} : { volume }) };
}
