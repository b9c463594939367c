/**
 * Where components stand among the values: a node for each component (`<component>/placed`), which reads everything that decides the shape
 * and the place of what mates join it to. A value that is measured between components reads these, so that one which drives what it is
 * measured on is told as the cycle that it is.
 */
import { quantityType } from '../formula';
import type { InputDefinition } from '../network';
import { PLAIN } from '../units';
import { listIds, listRecords } from './access';
import { mateOwners, plainId } from './copy-ids';
import { matePlaces } from './mate-kinds';
import type { MateRecord } from './assembly-schema';
import type { Document } from './schema';

/** The node for everything that stands in the assembly. */
export const allPlacements = '/placed';

export function placementNode(component: string): string {
  return `${component}/placed`;
}

export function placementNodes(document: Document): Map<string, InputDefinition> {
  const components = listRecords(document, 'components', 'component');
  const mates = listRecords(document, 'mates', 'mate');
  const root = new Map(components.map(({ id }) => [id, id]));
  const rootOf = (id: string): string => {
    const above = root.get(id) ?? id;
    return above === id ? id : rootOf(above);
  };
  for (const mate of mates) {
    const [a, ...others] = mateOwners(mate).flatMap((owner) => owner ?? []);
    for (const b of others) if (a !== undefined) root.set(rootOf(a), rootOf(b));
  }
  // A copy that is held is set out by what its pattern runs along.
  const byCopies = components.filter(({ id, pattern }) => pattern !== undefined && mates.some((mate) => holdsCopyOf(mate, id)));
  for (const { id, pattern } of byCopies) {
    const along = pattern && 'path' in pattern.along ? pattern.along.path[0] : undefined;
    if (along !== undefined && root.has(along)) root.set(rootOf(id), rootOf(along));
  }
  const decides = new Map<string, string[]>();
  const note = (group: string, ids: readonly string[]): void => {
    decides.set(group, [...(decides.get(group) ?? []), ...ids]);
  };
  for (const { id } of components) note(rootOf(id), [`${id}/suppressed`, ...listIds(document, `${id}/drives`)]);
  for (const { id } of byCopies) note(rootOf(id), listIds(document, `${id}/values`));
  for (const mate of mates) {
    const { id } = mate;
    const owner = mateOwners(mate).find((one) => one !== undefined);
    if (owner !== undefined) note(rootOf(owner), [`${id}/suppressed`, ...listIds(document, `${id}/values`)]);
  }
  // What sets values for the others reaches all of them.
  const above = components.flatMap(({ id, at }) => (at === undefined ? listIds(document, `${id}/drives`) : []));
  const nodes = new Map<string, InputDefinition>();
  for (const [group, reads] of decides) nodes.set(`${group}/joined`, node('where components stand', [...reads, ...above]));
  for (const { id, name } of components) nodes.set(placementNode(id), node(`where ${name} stands`, [`${rootOf(id)}/joined`]));
  nodes.set(
    allPlacements,
    node(
      'where everything stands',
      components.map(({ id }) => placementNode(id)),
    ),
  );
  return nodes;
}

function holdsCopyOf(mate: MateRecord, component: string): boolean {
  return matePlaces(mate).some(({ path: [first = ''] }) => first !== component && plainId(first) === component);
}

/** Names with a space are none that a formula could read. */
function node(name: string, reads: readonly string[]): InputDefinition {
  return { kind: 'input', name, type: quantityType(PLAIN), value: 0, reads };
}
