'use client';
import Link from 'next/link';
import { Button } from '../design/button';
import { useSession } from '../state/context';
import { showSurroundings, useSurroundings } from '../state/surroundings';

/** From which assembly the document was opened, the way back, and whether its neighbours there are seen. */
export function SurroundingsStrip() {
  const session = useSession();
  const around = useSurroundings(session.id);
  if (!around) return null;
  return (
    <p
      data-over="top"
      className="absolute top-2 left-1/2 flex -translate-x-1/2 items-center gap-2 rounded-box border border-rule bg-sheet px-3 py-1 whitespace-nowrap shadow-box"
    >
      <span>
        <span className="font-mono">{around.component}</span> in{' '}
        <Link href={`/documents/${around.assembly.id}`} className="underline">
          {around.assembly.name}
        </Link>
      </span>
      <Button tone={around.isShown ? 'plain' : 'quiet'} className="h-6" aria-pressed={around.isShown} onClick={() => showSurroundings(!around.isShown)}>
        Neighbours
      </Button>
    </p>
  );
}
