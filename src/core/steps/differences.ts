/** What two states of a part have and the other has not, as solids. */
import type { BodyMesh, KernelPort, Movement } from '../kernel-port';
import type { Regenerated } from './outcome';

/** A solid that only one of two states has. Volume in cubic millimetres. */
export interface OneSided {
  readonly volume: number;
  readonly mesh: BodyMesh;
}

/** Material that came to a body and that went from it; a side is absent where there is nothing, or where the kernel cannot tell. */
export interface BodyDifference {
  /** Id of the body. */
  readonly body: string;
  readonly added?: OneSided;
  readonly removed?: OneSided;
}

/** Slivers below this part of a body's volume come from rounding. */
const SLIVER = 1e-9;

/** Bodies by their ids; a body that only one state has is all added, or all removed. `handleOf` finds the shape of a key. */
export function findDifferences(port: KernelPort, handleOf: (key: string) => number | undefined, before: Regenerated, after: Regenerated): BodyDifference[] {
  const shapes = (state: Regenerated) =>
    new Map(
      state.bodies.flatMap(({ id, key, usedBy, properties }) => {
        const handle = key === undefined || usedBy !== undefined ? undefined : handleOf(key);
        return handle === undefined ? [] : [[id, { key, handle, volume: properties?.volume ?? 0 }] as const];
      }),
    );
  const [old, now] = [shapes(before), shapes(after)];
  const only = (
    has: { readonly handle: number; readonly volume: number } | undefined,
    other: { readonly handle: number } | undefined,
  ): OneSided | undefined => {
    if (!has) return undefined;
    if (!other) return { volume: has.volume, mesh: port.mesh(has.handle) };
    const rest = port.combine('remove', has.handle, [other.handle]);
    if (!rest.ok) return undefined;
    const { volume, solids } = port.measure(rest.value);
    const side = solids > 0 && volume > SLIVER * has.volume ? { volume, mesh: port.mesh(rest.value) } : undefined;
    port.release(rest.value);
    return side;
  };
  return [...new Set([...old.keys(), ...now.keys()])].flatMap((body) => {
    const [was, is] = [old.get(body), now.get(body)];
    if (was?.key === is?.key) return [];
    const [added, removed] = [only(is, was), only(was, is)];
    return added || removed ? [{ body, ...(added ? { added } : {}), ...(removed ? { removed } : {}) }] : [];
  });
}

/** Two bodies of one state that stand in one another. Volume in cubic millimetres. */
export interface Overlap {
  readonly bodies: readonly [string, string];
  readonly volume: number;
}

/** Bodies by their names, each pair once; what only touches does not overlap. */
export function findOverlaps(port: KernelPort, handleOf: (key: string) => number | undefined, { bodies }: Regenerated): Overlap[] {
  const solids = bodies.flatMap(({ name, key, usedBy, properties }) => {
    const handle = key === undefined || usedBy !== undefined ? undefined : handleOf(key);
    return handle === undefined || !properties ? [] : [{ name, handle, properties }];
  });
  return solids.flatMap((first, i) =>
    solids.slice(i + 1).flatMap((second): Overlap[] => {
      if (!doBoxesMeet(first.properties.box, second.properties.box)) return [];
      const common = port.combine('keep', first.handle, [second.handle]);
      if (!common.ok) return [];
      const { volume, solids: pieces } = port.measure(common.value);
      port.release(common.value);
      const isSliver = volume <= SLIVER * Math.min(first.properties.volume, second.properties.volume);
      return pieces === 0 || isSliver ? [] : [{ bodies: [first.name, second.name], volume }];
    }),
  );
}

const NOTHING_IN_COMMON = { volume: 0, solids: 0 } as const;

/**
 * Volume that two bodies have in common, in cubic millimetres, the second moved first; undefined where the kernel cannot tell. 0 for what only
 * touches, or is less than rounding.
 */
export function commonVolume(port: KernelPort, first: number, second: number, movements: readonly Movement[]): number | undefined {
  const moved = port.move(second, movements);
  if (!moved.ok) return undefined;
  const common = port.combine('keep', first, [moved.value]);
  const least = SLIVER * Math.min(port.measure(first).volume, port.measure(second).volume);
  const found = common.ok ? port.measure(common.value) : common.failure.isEmpty === true ? NOTHING_IN_COMMON : undefined;
  if (common.ok) port.release(common.value);
  port.release(moved.value);
  return found && (found.solids === 0 || found.volume <= least ? 0 : found.volume);
}

type Box = NonNullable<Regenerated['bodies'][number]['properties']>['box'];

function doBoxesMeet(a: Box, b: Box): boolean {
  return [0, 1, 2].every((axis) => (a.min[axis] ?? 0) < (b.max[axis] ?? 0) && (b.min[axis] ?? 0) < (a.max[axis] ?? 0));
}
