'use client';
/** The items of the parts list on the picture: a number on a line to each make, and the list beside it. */
import type { PartsRow } from '@/core/assembly';
import type { Point3 } from '@/core/geometry';
import type { SpaceLabel } from '../canvas3d/space-labels';
import type { DocumentSession } from '../state/document-session';

/** How far a number stands from its part, as a share of how far the part is from the middle, and at least, in millimetres. */
const OUT = 0.45;
const LEAST_OUT = 60;

/** `shifts`: how far components are drawn apart. */
export function itemLabels({ geometry }: DocumentSession, parts: readonly PartsRow[], shifts: ReadonlyMap<string, Point3>): SpaceLabel[] {
  const items = (geometry.assembly?.itemPlaces() ?? []).map(({ item, component, at }) => {
    const [x, y, z] = shifts.get(component) ?? [0, 0, 0];
    return { item, from: [at[0] + x, at[1] + y, at[2] + z] as const };
  });
  const middle = ([0, 1, 2] as const).map((axis) => items.reduce((sum, { from }) => sum + from[axis], 0) / Math.max(1, items.length));
  return items.map(({ item, from }) => {
    const out = ([0, 1, 2] as const).map((axis) => from[axis] - (middle[axis] ?? 0));
    const far = Math.hypot(...out);
    const share = far < 1e-6 ? 0 : Math.max(OUT, LEAST_OUT / far);
    const [x = 0, y = 0, z = 0] = far < 1e-6 ? [0, 0, LEAST_OUT] : out.map((one) => one * share);
    const name = parts.find((row) => row.item === item)?.document ?? '';
    return {
      key: `item ${item}`,
      from,
      at: [from[0] + x, from[1] + y, from[2] + z],
      shift: 0,
      content: (
        <span title={name} className="flex h-6 min-w-6 items-center justify-center rounded-full border border-orchil bg-sheet px-1 font-mono text-[13px]">
          {item}
        </span>
      ),
    };
  });
}

export function ItemList({ parts }: { readonly parts: readonly PartsRow[] }) {
  return (
    <table aria-label="Parts" className="pointer-events-none absolute top-2 right-2 rounded-box bg-sheet/90 text-[13px]">
      <tbody>
        {parts.map(({ item, quantity, document, set }) => (
          <tr key={item}>
            <td className="px-2 text-right font-mono">{item}</td>
            <td className="pr-2">
              {document}
              {set.startsWith('mirrored') && ', mirrored'}
            </td>
            <td className="pr-2 text-right font-mono">{quantity}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
