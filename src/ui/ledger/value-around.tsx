'use client';
import { useSession } from '../state/context';
import { useSurroundings } from '../state/surroundings';

/** What the selected value comes to in that assembly, where it is another. */
export function ValueAround({ id, shown }: { readonly id: string; readonly shown: string }) {
  const session = useSession();
  const around = useSurroundings(session.id);
  const there = around?.values.get(id);
  if (!around || there === undefined || there === shown) return null;
  return (
    <p>
      <span className="text-walnut-soft">
        As {around.component} in {around.assembly.name}:{' '}
      </span>
      <span className="font-mono tabular-nums">{there}</span>
    </p>
  );
}
