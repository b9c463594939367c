/** An assembly built whole in the background: what it publishes, what it weighs, and a small picture of it. */
import type { SavedBody } from '@/contract';
import type { Document } from '@/core/document';
import { builtInOf, pinText } from '@/core/instances';
import { publishValues } from '@/core/links';
import type { RegenerationClient } from '@/workers/client';
import type { RegenerationFailure } from '@/workers/one-worker';
import { drawnOfWhole } from '@/workers/small-picture';
import { buildWhole } from '@/workers/whole-assembly';
import type { Published } from './calculation/operations';
import { drawThumbnail } from './thumbnail';

export interface BuiltAssembly {
  readonly bodies: readonly SavedBody[];
  readonly published: Published;
  readonly thumbnail: Buffer | undefined;
}

const KILOGRAM = 1e8;

/** `stands`: what its components stand for, by `id@revision`. The failure of a part that could not be built at all. */
export async function buildAssembly(
  client: RegenerationClient,
  document: Document,
  stands: Readonly<Record<string, Document>>,
): Promise<BuiltAssembly | { readonly failure: RegenerationFailure }> {
  const whole = await buildWhole(client, document, (source, revision) => stands[pinText({ source, revision })], { withMeshes: true });
  if ('failure' in whole) return whole;
  const { values, source } = whole;
  const drawn = drawnOfWhole(whole);
  const mass = builtInOf(values, '', 'mass', source);
  return {
    bodies: drawn.length === 0 ? [] : [{ name: document.name, ...('value' in mass ? { mass: mass.value / KILOGRAM } : {}) }],
    published: publishValues(values),
    thumbnail: drawThumbnail(drawn),
  };
}
