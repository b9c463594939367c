'use client';
import { useState } from 'react';
import { findNamed, findRecord, listRecords, pasteSteps, type StepClip } from '@/core/document';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import type { DocumentSession } from '../state/document-session';
import { newId } from '../state/identity';
import { Select } from '../design/fields';
import { PastedValues, type OwnFormulas } from './pasted-values';

/** The gap between an original and its copy, in millimetres. */
const GAP = 10;

/** Puts copied steps in: onto which body, and which values they stay tied to. */
export function PasteDialog({ clip, onClose }: { clip: StepClip; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const bodies = listRecords(document, 'bodies', 'body');
  const [tied, setTied] = useState<ReadonlySet<string>>(() => new Set(clip.outside.flatMap(({ name }) => (findNamed(document, name) ? [name] : []))));
  const [body, setBody] = useState(() => ownBody(clip, session) ?? bodies.at(-1)?.id);
  const [refusal, setRefusal] = useState<string>();
  const [own, setOwn] = useState<OwnFormulas>(new Map());
  const names = clip.records.flatMap((record) => ('name' in record && clip.steps.includes(record.id) ? [record.name] : []));
  const put = (): void => {
    const made = pasteSteps(document, clip, { newId, tied, body, beside: widthOf(session, body) + GAP, formulas: own });
    const failure = made.ok ? session.edit(made.value.edit) : made.failure;
    if (failure || !made.ok) {
      setRefusal(failure?.message);
      return;
    }
    const { loosened, steps } = made.value;
    if (loosened > 0)
      session.notify(`${loosened} dimension${loosened === 1 ? '' : 's'} and constraints to fixed places were left out, so that the copy can stand beside.`);
    workspace.setState({ selected: steps.at(-1) });
    onClose();
  };
  return (
    <TaskDialog title="Paste steps" description={names.join(', ')} onClose={onClose}>
      {bodies.length > 0 && worksElsewhere(clip) && (
        <Select
          label="Steps that work on a body which was not copied work on"
          value={body ?? ''}
          options={Object.fromEntries(bodies.map(({ id, name }) => [id, name]))}
          onChange={setBody}
        />
      )}
      {clip.outside.length > 0 && (
        <fieldset className="mb-3">
          <legend className="text-walnut-soft">Values that they read: tied here, or the number that they had</legend>
          {clip.outside.map(({ name, exact }) => {
            const isHere = findNamed(document, name) !== undefined;
            return (
              <label key={name} className="flex items-center gap-1.5">
                <input
                  type="checkbox"
                  checked={tied.has(name)}
                  disabled={!isHere}
                  onChange={(event) => {
                    const next = new Set(tied);
                    if (event.target.checked) next.add(name);
                    else next.delete(name);
                    setTied(next);
                  }}
                />
                <span className="font-mono">{name}</span>
                <span className="text-walnut-soft">{tied.has(name) ? 'stays tied' : isHere ? `becomes ${exact}` : `is not here: becomes ${exact}`}</span>
              </label>
            );
          })}
        </fieldset>
      )}
      <PastedValues clip={clip} own={own} onChange={setOwn} />
      {refusal !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {refusal}
        </p>
      )}
      <TaskVerbs label="Put them in" onAccept={put} />
    </TaskDialog>
  );
}

/** Whether a step works on a body that does not come along. */
function worksElsewhere({ records }: StepClip): boolean {
  const copied = new Set(records.flatMap((record) => (record.type === 'body' ? record.id : [])));
  return records.some((record) => 'body' in record && typeof record.body === 'string' && !copied.has(record.body));
}

/** The body that the copied steps worked on, where it is of this part. */
function ownBody(clip: StepClip, { document }: DocumentSession): string | undefined {
  const worked = clip.records.find((record) => 'body' in record && typeof record.body === 'string' && findRecord(document, record.body, 'body'));
  return worked && 'body' in worked && typeof worked.body === 'string' ? worked.body : undefined;
}

/** How broad a body is along x; that of all together without one. */
function widthOf(session: DocumentSession, body: string | undefined): number {
  const bodies = session.store.getState().regenerated?.bodies ?? [];
  const boxes = bodies.flatMap(({ id, properties }) => (properties && (body === undefined || id === body) ? [properties.box] : []));
  return boxes.length === 0 ? 0 : Math.ceil(Math.max(...boxes.map(({ max }) => max[0])) - Math.min(...boxes.map(({ min }) => min[0])));
}
