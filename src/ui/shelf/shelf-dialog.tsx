'use client';
/** Documents that ship with the program, to be taken into a project as copies. */
import { useState } from 'react';
import type { ShelfItem } from '@/contract';
import { FailedToLoad, Skeleton } from '../design/states';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { api } from '../state/api';
import { thisAuthor } from '../state/identity';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

interface ShelfDialogProps {
  readonly project: string;
  /** Names of what is in the project. */
  readonly there: ReadonlySet<string>;
  readonly onTaken: () => void;
  readonly onClose: () => void;
}

export function ShelfDialog({ project, there, onTaken, onClose }: ShelfDialogProps) {
  const { loaded, reload } = useLoaded(QUERIES.shelf);
  const [wanted, setWanted] = useState<ReadonlySet<string>>(new Set());
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const [isTaking, setTaking] = useState(false);
  const shown = loaded.state === 'ready' ? findItems(loaded.value.items, text) : [];
  const take = async (): Promise<void> => {
    setTaking(true);
    const reply = await api.takeFromShelf(project, { items: [...wanted], author: thisAuthor() });
    setTaking(false);
    if (reply.ok) onTaken();
    else setProblem(reply.failure.message);
  };
  return (
    <TaskDialog
      title="From the shelf"
      description="Tables and calculations that ship with Warpbeam. The project gets copies, which are its own from then on: link their values, use their calculations."
      width="wide"
      onClose={onClose}
    >
      {loaded.state === 'loading' && <Skeleton rows={6} />}
      {loaded.state === 'failed' && <FailedToLoad title="The shelf cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {loaded.state === 'ready' && (
        <>
          <input
            aria-label="Search"
            placeholder="Search"
            className="mb-2 h-7 w-full rounded-box border border-rule bg-sheet px-1.5"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <div className="max-h-[50vh] overflow-y-auto">
            <ShelfList title="Masters" items={shown.filter(({ kind }) => kind !== 'calc')} wanted={wanted} there={there} onWant={setWanted} />
            <ShelfList title="Calculations" items={shown.filter(({ kind }) => kind === 'calc')} wanted={wanted} there={there} onWant={setWanted} />
            {shown.length === 0 && <p className="px-2 py-1 text-walnut-soft">{text === '' ? 'The shelf is empty.' : 'Nothing on the shelf matches.'}</p>}
            {loaded.value.broken.map(({ item, reason }) => (
              <p key={item} className="px-2 py-1 text-madder">
                {item} cannot be read: {reason}
              </p>
            ))}
          </div>
        </>
      )}
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      <TaskVerbs
        label={wanted.size > 1 ? `Take ${wanted.size} documents` : 'Take the document'}
        isDisabled={wanted.size === 0 || isTaking}
        onAccept={() => void take()}
      />
    </TaskDialog>
  );
}

export function findItems(items: readonly ShelfItem[], text: string): ShelfItem[] {
  const words = text.trim().toLowerCase();
  return items.filter(({ name, about }) => `${name} ${about}`.toLowerCase().includes(words));
}

interface ShelfListProps {
  readonly title: string;
  readonly items: readonly ShelfItem[];
  readonly wanted: ReadonlySet<string>;
  readonly there: ReadonlySet<string>;
  readonly onWant: (wanted: ReadonlySet<string>) => void;
}

export function ShelfList({ title, items, wanted, there, onWant }: ShelfListProps) {
  if (items.length === 0) return null;
  const toggle = (item: string): void => {
    const next = new Set(wanted);
    if (!next.delete(item)) next.add(item);
    onWant(next);
  };
  return (
    <section aria-label={title} className="mb-2">
      <h3 className="px-2 font-semibold text-walnut-soft">{title}</h3>
      <ul>
        {items.map(({ item, name, about }) => (
          <li key={item}>
            <label className="flex items-start gap-3 rounded-box px-2 py-1 hover:bg-flax">
              <input type="checkbox" className="mt-1" checked={wanted.has(item)} onChange={() => toggle(item)} />
              <span className="min-w-0 flex-1">
                <span className="font-semibold">{name}</span>
                {there.has(name) && <span className="ml-2 text-walnut-soft">in this project already</span>}
                <span className="line-clamp-2 block text-[13px] text-walnut-soft">{about}</span>
              </span>
            </label>
          </li>
        ))}
      </ul>
    </section>
  );
}
