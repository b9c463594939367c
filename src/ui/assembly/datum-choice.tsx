'use client';
import { datumGeometry, placeGeometry } from '@/core/assembly';
import { listRecords, PLANES, type MateReference } from '@/core/document';
import { STANDING } from '@/core/instances';
import { useSession, useSessionState } from '../state/context';
import type { MatePick } from '../state/drafts';

/** Planes, axes and origins that a mate can hold on to: those of the assembly and of its components. */
export function DatumChoice({ onPick }: { readonly onPick: (pick: MatePick) => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const components = listRecords(document, 'components', 'component').filter(({ at }) => at !== undefined);
  const owners = [{ path: [], name: 'The assembly' }, ...components.map(({ id, name }) => ({ path: [id], name }))];
  const pick = (value: string): void => {
    const [owner, own] = value.split(' ').map(Number);
    const { path, name } = owners[owner ?? -1] ?? {};
    const choice = DATUMS[own ?? -1];
    if (!path || !choice) return;
    const reference: MateReference = { path, ...choice.datum };
    const geometry = datumGeometry(reference);
    const at = session.store.getState().placement?.stances.get(path.join(' ')) ?? STANDING;
    if (geometry) onPick({ reference, geometry: placeGeometry(geometry, at), words: `${name ?? ''}: ${choice.words}` });
  };
  return (
    <select
      aria-label="Use a plane, axis or origin"
      className="mb-2 h-7 w-full rounded-box border border-rule bg-sheet px-1"
      value=""
      onChange={(event) => pick(event.target.value)}
    >
      <option value="">or use a plane, axis or origin…</option>
      {owners.map(({ name }, owner) => (
        <optgroup key={name} label={name}>
          {DATUMS.map(({ words }, own) => (
            <option key={words} value={`${owner} ${own}`}>
              {words}
            </option>
          ))}
        </optgroup>
      ))}
    </select>
  );
}

type Datum = { readonly plane: (typeof PLANES)[number] } | { readonly axis: 'x' | 'y' | 'z' } | { readonly origin: true };

const DATUMS: readonly { readonly words: string; readonly datum: Datum }[] = [
  ...PLANES.map((plane) => ({ words: `${plane} plane`, datum: { plane } })),
  ...(['x', 'y', 'z'] as const).map((axis) => ({ words: `${axis} axis`, datum: { axis } })),
  { words: 'origin', datum: { origin: true } },
];
