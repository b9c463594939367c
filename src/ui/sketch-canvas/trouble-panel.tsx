'use client';
import { findAny, findRecord } from '@/core/document';
import { nameConstraint, type SolvedSketch } from '@/core/steps';
import { Button } from '../design/button';
import { useSession, useWorkspaceStore } from '../state/context';
import { editOrAsk } from '../state/removal';

/**
 * The conflicts of a sketch: the smallest set that cannot hold together, or what says nothing new, each with
 * its repairs.
 */
export function TroublePanel({ sketch, solved, problem }: { sketch: string; solved: SolvedSketch | undefined; problem: string | undefined }) {
  const isConflict = (solved?.conflicting.length ?? 0) > 0;
  const about = isConflict ? (solved?.conflicting ?? []) : (solved?.redundant ?? []);
  if (about.length === 0 && problem === undefined) return null;
  return (
    <section
      aria-label="Conflicts"
      aria-live="polite"
      className={`absolute inset-x-0 bottom-0 z-20 border-t px-3 py-1.5 ${problem === undefined ? 'border-weld bg-weld-wash' : 'border-madder bg-madder-wash'}`}
    >
      <p className={problem === undefined ? 'text-weld' : 'text-madder'}>
        {problem ?? 'Constrained twice: this says nothing that does not follow from the rest.'}
      </p>
      <ul className="flex flex-wrap gap-x-4 gap-y-1">
        {about.map((id) => (
          <Culprit key={id} sketch={sketch} id={id} />
        ))}
      </ul>
    </section>
  );
}

function Culprit({ sketch, id }: { sketch: string; id: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const record = findAny(session.document, id);
  if (!record) return null;
  const name = nameConstraint(session.document, id, session.values);
  const parameter = record.type === 'dimension' ? findRecord(session.document, record.parameter, 'parameter') : undefined;
  return (
    <li className="flex items-center gap-1">
      <button
        type="button"
        className="font-mono text-[13px] underline decoration-rule underline-offset-2"
        onClick={() => {
          if (parameter) workspace.setState({ selected: parameter.id });
        }}
      >
        {name}
      </button>
      {record.type === 'dimension' && (
        <Button className="h-6" onClick={() => session.edit({ type: 'dimension.update', id, isReference: true })}>
          make it a reference
        </Button>
      )}
      <Button
        className="h-6"
        aria-label={`remove ${name}`}
        onClick={() => {
          editOrAsk(session, workspace, `Delete ${name}`, (readers) => ({ type: 'sketch.erase', sketch, ids: [id], readers }));
        }}
      >
        remove
      </Button>
    </li>
  );
}
