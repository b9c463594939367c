'use client';
/** A copy of a document: under a name, in a project, with other formulas of its values. It opens at once. */
import { useRouter } from 'next/navigation';
import { useMemo, useState } from 'react';
import { listRecords, type Document, type Parameter } from '@/core/document';
import { FailedToLoad, Skeleton } from '../design/states';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { api } from '../state/api';
import { thisAuthor } from '../state/identity';
import { Select } from '../design/fields';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

interface CopyDialogProps {
  readonly document: string;
  readonly name: string;
  readonly project: string;
  /** Names of documents of its project. */
  readonly there: ReadonlySet<string>;
  readonly onClose: () => void;
}

export function CopyDialog({ document, name, project, there, onClose }: CopyDialogProps) {
  const router = useRouter();
  const { loaded, reload } = useLoaded(QUERIES.document(document));
  const projects = useLoaded(QUERIES.projects);
  const [wanted, setWanted] = useState(() => nextName(name, there));
  const [goal, setGoal] = useState(project);
  const [formulas, setFormulas] = useState<Readonly<Record<string, string>>>({});
  const [problem, setProblem] = useState<string>();
  const [isCopying, setCopying] = useState(false);
  const original = loaded.state === 'ready' ? loaded.value.document : undefined;
  const values = useMemo(() => (original ? copiedValues(original) : []), [original]);
  const copy = async (): Promise<void> => {
    setCopying(true);
    const changed = Object.fromEntries(values.flatMap(({ id, formula }) => changedFormula(id, formula.text, formulas[id])));
    const reply = await api.copyDocument(document, { project: goal, name: wanted, author: thisAuthor(), formulas: changed });
    setCopying(false);
    if (reply.ok) router.push(`/documents/${reply.value.id}`);
    else setProblem(reply.failure.message);
  };
  const isElsewhere = goal !== project;
  const goals =
    projects.loaded.state === 'ready' && original?.kind !== 'assembly'
      ? Object.fromEntries(projects.loaded.value.projects.map((one) => [one.id, one.id === project ? `${one.name} (this one)` : one.name]))
      : { [project]: 'this one' };
  return (
    <TaskDialog
      title={`Copy ${name}`}
      description={
        isElsewhere
          ? 'Links lead to documents and values of the same names there. What is not there becomes a value of the copy.'
          : 'The copy is a document of its own. Its links stay as they are.'
      }
      onClose={onClose}
    >
      {loaded.state === 'loading' && <Skeleton rows={4} />}
      {loaded.state === 'failed' && <FailedToLoad title="The document cannot be read" message={loaded.failure.message} onRetry={reload} />}
      {original && (
        <div className="grid grid-cols-2 gap-3">
          <label>
            <span className="text-walnut-soft">Name</span>
            <input
              className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5"
              value={wanted}
              maxLength={120}
              onChange={(event) => setWanted(event.target.value)}
            />
          </label>
          <Select label="Project" value={goal} options={goals} onChange={setGoal} />
          {values.length > 0 && (
            <fieldset className="col-span-2 max-h-[35vh] overflow-y-auto">
              <legend className="text-walnut-soft">Values of the copy</legend>
              {values.map(({ id, name: label, formula }) => (
                <label key={id} className="flex items-center gap-2 border-b border-rule/40 py-0.5">
                  <span className="w-48 shrink-0 truncate" title={label}>
                    {label}
                  </span>
                  <input
                    className="h-7 min-w-0 flex-1 rounded-box border border-rule bg-sheet px-1.5 font-mono"
                    value={formulas[id] ?? formula.text}
                    onChange={(event) => setFormulas({ ...formulas, [id]: event.target.value })}
                  />
                </label>
              ))}
            </fieldset>
          )}
        </div>
      )}
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      <TaskVerbs label="Copy" isDisabled={!original || wanted.trim() === '' || isCopying} onAccept={() => void copy()} />
    </TaskDialog>
  );
}

/** What a copy is most likely to have other: its user parameters, those that are pinned first. */
function copiedValues(document: Document): Parameter[] {
  const values = listRecords(document, 'parameters', 'parameter').filter(({ measure }) => measure === undefined);
  return [...values.filter(({ pinned }) => pinned === true), ...values.filter(({ pinned }) => pinned !== true)];
}

function changedFormula(id: string, before: string, typed: string | undefined): [string, string][] {
  const text = typed?.trim() ?? before;
  return text === before || text === '' ? [] : [[id, text]];
}

/** `Side frame 2`, or whatever number is free. */
export function nextName(name: string, there: ReadonlySet<string>): string {
  const stem = name.replace(/ \d+$/, '');
  let n = 2;
  while (there.has(`${stem} ${n}`)) n++;
  return `${stem} ${n}`;
}
