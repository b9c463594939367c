/** Levers put together in assemblies, without a kernel. */
import type { GeometryShape } from '@/core/kernel-port';
import { mateSlots, type Document, type MateRecord, type MateReference, type Parameter } from '@/core/document';
import { withParameters } from './assemblies';
import { edited } from './demo';

/** A lever whose ends are the axes of its faces `hub` and `tip`, along z, 30 mm apart. */
export const LEVER = { ...withParameters('part', 'lever', {}), name: 'lever' };
export const leverShapes = ({ name }: { readonly name: string }): GeometryShape | undefined => {
  const x = name === 'tip' ? 30 : 0;
  return { kind: 'round', area: 1, radius: 3, axis: { origin: [x, 0, 0], direction: [0, 0, 1] } };
};
export const face = (path: string[], name: string): MateReference => ({ path, body: 'b', name });
export const floor = (path: string[]): MateReference => ({ path, plane: 'top' });

/** With a mate, its one value beside it. */
export function mated(
  document: Document,
  name: string,
  kind: MateRecord['kind'],
  on: readonly [MateReference, MateReference],
  value?: string,
  more: Partial<MateRecord> = {},
): Document {
  const [slot] = mateSlots({ kind });
  const values: Parameter[] = slot
    ? [{ type: 'parameter', id: `${name}-v`, owner: name, name: `${name}_value`, formula: { text: value ?? slot.initial }, kind: slot.kind }]
    : [];
  const record: MateRecord = {
    type: 'mate',
    id: name,
    name,
    kind,
    first: on[0],
    second: on[1],
    sense: 1,
    values: slot ? { [slot.slot]: `${name}-v` } : {},
    ...(kind === 'angle' ? { about: [0, 0, 1] } : {}),
    ...more,
  };
  return edited(document, { type: 'mate.put', mate: record, values });
}
