'use client';
import { datumGeometry, placeGeometry } from '@/core/assembly';
import { listRecords, PLANES } from '@/core/document';
import { STANDING } from '@/core/instances';
import { useSession, useSessionState } from '../state/context';
import type { MatePick } from './mate-draft';

/** Planes that a mate can hold on to without a face: those of the assembly and of its components. */
export function PlaneChoice({ onPick }: { readonly onPick: (pick: MatePick) => void }) {
  const session = useSession();
  const components = useSessionState((state) => state.document);
  const owners = [
    { path: [], name: 'the assembly' },
    ...listRecords(components, 'components', 'component').flatMap(({ id, name, at }) => (at ? [{ path: [id], name }] : [])),
  ];
  const choices = owners.flatMap(({ path, name }) => PLANES.map((plane) => ({ path, plane, words: `${name}: ${plane} plane` })));
  const pick = (index: string): void => {
    const choice = choices[Number(index)];
    if (!choice) return;
    const at = session.store.getState().placement?.stances.get(choice.path.join(' ')) ?? STANDING;
    onPick({
      reference: { path: choice.path, plane: choice.plane },
      geometry: placeGeometry(datumGeometry(choice.plane), at),
      words: choice.words,
    });
  };
  return (
    <select
      aria-label="Use a plane"
      className="mb-2 h-7 w-full rounded-box border border-rule bg-sheet px-1"
      value=""
      onChange={(event) => pick(event.target.value)}
    >
      <option value="">or use a plane…</option>
      {choices.map(({ words }, i) => (
        <option key={words} value={i}>
          {words}
        </option>
      ))}
    </select>
  );
}
