/** An assembly as a file: with its structure where the format has one, else its bodies where they stand. */
import { movementsOf, placeMesh, type TreeNode } from '@/core/assembly';
import { combine, openComplete, STANDING, type Stance } from '@/core/instances';
import { colourOfBody, type KeyedProduct, type Regenerated, type Regenerator } from '@/core/steps';
import { readColour, type MeshedBody } from '@/formats/mesh-file';
import type { WorkerRequest } from './protocol';

type Wish = Extract<WorkerRequest, { readonly kind: 'export-assembly' }>;

/** Bytes, and how many bodies they hold. */
export async function exportAssembly(
  regenerator: Regenerator,
  { parts, root, format }: Wish,
): Promise<{ readonly bytes: Uint8Array; readonly bodies: number }> {
  const built = new Map(Object.entries(parts).map(([key, part]) => [key, regenerator.regenerate(part, openComplete(part))]));
  const leaves = listLeaves(root);
  const bodies = leaves.reduce((sum, { part }) => sum + (built.get(part)?.bodies.filter(({ key }) => key !== undefined).length ?? 0), 0);
  if (bodies === 0) return { bytes: new Uint8Array(), bodies };
  if (format === 'step') return { bytes: regenerator.exportProducts(productsOf(root, parts, built), keyOf(root)), bodies };
  const meshed = leaves.flatMap(({ name, part, at, colour }) => meshesOf(regenerator, { name, at, colour, part: parts[part], result: built.get(part) }));
  if (format === '3mf') return { bytes: (await import('@/formats/write-3mf')).write3mf(meshed, root.product), bodies };
  return { bytes: await (await import('@/formats/write-gltf')).writeGltf(meshed, root.product), bodies };
}

interface Leaf {
  readonly name: string;
  readonly part: string;
  /** Where it stands in the whole. */
  readonly at: Stance;
  readonly colour: string | undefined;
}

/** The parts of a tree, called by the names on the way to them. */
function listLeaves(root: TreeNode): Leaf[] {
  const visit = (node: TreeNode, around: Stance, above: string): Leaf[] => {
    const at = combine(around, node.at);
    const name = above === '' ? node.name : `${above}.${node.name}`;
    return node.part === undefined ? node.children.flatMap((child) => visit(child, at, name)) : [{ name, part: node.part, at, colour: node.colour }];
  };
  return root.children.flatMap((child) => visit(child, STANDING, ''));
}

function keyOf({ part, product, children, colour = '' }: TreeNode): string {
  return part !== undefined
    ? `${part}${colour}`
    : `${product} ${children.map((child) => `${child.name} ${keyOf(child)} ${JSON.stringify(child.at)}`).join(' ')}`;
}

function productsOf(root: TreeNode, parts: Wish['parts'], built: ReadonlyMap<string, Regenerated>): Map<string, KeyedProduct> {
  const products = new Map<string, KeyedProduct>();
  const visit = (node: TreeNode): void => {
    const key = keyOf(node);
    if (products.has(key)) return;
    const part = node.part === undefined ? undefined : parts[node.part];
    const bodies = (node.part === undefined ? [] : (built.get(node.part)?.bodies ?? [])).flatMap(({ id, name, key: shape }) =>
      shape === undefined || !part ? [] : { key: shape, name, colour: readColour(node.colour ?? colourOfBody(part, id)) },
    );
    products.set(key, {
      name: node.product,
      bodies,
      parts: node.children.map((child) => ({ name: child.name, product: keyOf(child), movements: movementsOf(child.at) })),
    });
    for (const child of node.children) visit(child);
  };
  visit(root);
  return products;
}

interface MeshWish {
  readonly name: string;
  readonly at: Stance;
  readonly colour: string | undefined;
  readonly part: Wish['document'] | undefined;
  readonly result: Regenerated | undefined;
}

function meshesOf(regenerator: Regenerator, { name, at, colour, part, result }: MeshWish): MeshedBody[] {
  return (result?.bodies ?? []).flatMap(({ id, name: body, key }): MeshedBody[] => {
    const mesh = key === undefined ? undefined : regenerator.mesh(key);
    if (!mesh || !part) return [];
    const isOnly = result?.bodies.length === 1;
    return [{ name: isOnly ? name : `${name}: ${body}`, colour: colour ?? colourOfBody(part, id), mesh: placeMesh(mesh, at) }];
  });
}
