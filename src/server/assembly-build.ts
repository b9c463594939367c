/** An assembly built whole in the background: what it publishes, what it weighs, and a small picture of it. */
import type { SavedBody } from '@/contract';
import { placeMesh } from '@/core/assembly';
import type { Document } from '@/core/document';
import { builtInOf, listPlaced, pinText } from '@/core/instances';
import { publishValues } from '@/core/links';
import { colourOfBody } from '@/core/steps';
import type { RegenerationClient, RegenerationFailure } from '@/workers/client';
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
  const { values, source, results, meshes, standing } = whole;
  const drawn = listPlaced(values, standing).flatMap(({ key, document: part, at }) =>
    (results.get(key)?.bodies ?? []).flatMap(({ id, key: shape }) => {
      const mesh = shape === undefined ? undefined : meshes.get(shape);
      return mesh ? [{ mesh: placeMesh(mesh, at), colour: colourOfBody(part, id) }] : [];
    }),
  );
  const mass = builtInOf(values, '', 'mass', source);
  return {
    bodies: drawn.length === 0 ? [] : [{ name: document.name, ...('value' in mass ? { mass: mass.value / KILOGRAM } : {}) }],
    published: publishValues(values),
    thumbnail: drawThumbnail(drawn),
  };
}
