'use client';
/** Where a value of the assembly leads inside its components, and where it comes from in them: each name leads to its document. */
import Link from 'next/link';
import { listRecords } from '@/core/document';
import { drivenInside, sourcesInside, type ReachedInside } from '@/core/instances';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';

/** Names of one component that are told at most. */
const MOST_NAMES = 8;

export function DrivenInside({ id }: { readonly id: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  useSessionState((state) => state.version);
  const inside = drivenInside(session.values, id);
  if (inside.length === 0) return null;
  const isAssembly = session.document.kind === 'assembly';
  const words = `Drives in ${isAssembly ? 'components' : 'calculations'}`;
  const showOnly = (): void => {
    const kept = new Set(inside.map(({ path }) => path[0]));
    const others = listRecords(session.document, 'components', 'component').flatMap((one) => (one.at && !kept.has(one.id) ? [one.id] : []));
    workspace.setState({ hidden: new Set(others), opened: undefined });
  };
  return (
    <>
      <h3 className="mt-2 flex items-center gap-2 font-semibold text-walnut-soft">
        {words}
        {isAssembly && (
          <Button tone="quiet" className="h-6 font-normal" onClick={showOnly}>
            Show only these
          </Button>
        )}
      </h3>
      <InsideList label={words} inside={inside} />
    </>
  );
}

export function SourcesInside({ id }: { readonly id: string }) {
  const session = useSession();
  useSessionState((state) => state.version);
  const inside = sourcesInside(session.values, id);
  if (inside.length === 0) return null;
  const words = `Comes from ${session.document.kind === 'assembly' ? 'components' : 'calculations'}`;
  return (
    <>
      <h3 className="mt-2 font-semibold text-walnut-soft">{words}</h3>
      <InsideList label={words} inside={inside} />
    </>
  );
}

function InsideList({ label, inside }: { readonly label: string; readonly inside: readonly ReachedInside[] }) {
  return (
    <ul aria-label={label}>
      {inside.map(({ path, name, document, values, steps }) => (
        <li key={path.join(' ')}>
          <Link href={`/documents/${document.id}`} className="font-semibold underline decoration-rule underline-offset-4">
            {name}
          </Link>{' '}
          <span className="font-mono text-[13px]">
            {values.slice(0, MOST_NAMES).map((value, i) => (
              <span key={value.id}>
                {i > 0 && ', '}
                <Link href={`/documents/${document.id}#${encodeURIComponent(value.id)}`} className="hover:underline">
                  {value.name}
                </Link>
              </span>
            ))}
            {values.length > MOST_NAMES && ` and ${values.length - MOST_NAMES} more`}
          </span>
          {steps.length > 0 && <span className="text-walnut-soft"> in {steps.map((step) => step.name).join(', ')}</span>}
        </li>
      ))}
    </ul>
  );
}
