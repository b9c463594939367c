/** An assembly built whole in the background: what it publishes, what it weighs, and a small picture of it. */
import type { SavedBody } from '@/contract';
import { listWanted, placeComponents, placeMesh, type GeometryShape, type ShapeSource, type WantedShape } from '@/core/assembly';
import type { Document } from '@/core/document';
import { builtInOf, listPlaced, openValues, pinText, type BuiltInstance, type InstanceSource } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { publishValues } from '@/core/links';
import { colourOfBody, readWhole, type Regenerated } from '@/core/steps';
import type { RegenerationClient, RegenerationFailure } from '@/workers/client';
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
  const built = new Map<string, BuiltInstance>();
  const results = new Map<string, Regenerated>();
  const meshes = new Map<string, BodyMesh>();
  const shapes = new Map<string, GeometryShape | 'lost'>();
  const source: InstanceSource = { snapshot: (id, revision) => stands[pinText({ source: id, revision })], built: (key) => built.get(key) };
  for (;;) {
    const values = openValues(document, source);
    const wanted = listWanted(values).filter((one) => !shapes.has(shapeKey(one)));
    const next = listPlaced(values).find(({ key }) => !built.has(key) || wanted.some((one) => one.key === key));
    if (!next) break;
    const describe = wanted.filter(({ key }) => key === next.key);
    const reply = await client.regenerate(next.document, [...meshes.keys()], 'show', describe);
    if (!reply.ok) return { failure: reply.failure };
    built.set(next.key, readWhole(reply.value.result));
    results.set(next.key, reply.value.result);
    for (const [key, mesh] of Object.entries(reply.value.meshes)) meshes.set(key, mesh);
    describe.forEach((one, i) => shapes.set(shapeKey(one), reply.value.shapes?.[i] ?? 'lost'));
  }
  const values = openValues(document, source);
  const shapeOf: ShapeSource = (one) => shapes.get(shapeKey(one));
  const drawn = listPlaced(values, (inside) => placeComponents(inside, shapeOf).stances).flatMap(({ key, document: part, at }) =>
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

function shapeKey({ key, body, name }: WantedShape): string {
  return `${key} ${body} ${name}`;
}
