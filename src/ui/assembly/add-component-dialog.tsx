'use client';
/** Choosing documents of the project to be put into an assembly, or calc sheets to be used, at their latest revisions. */
import { useState } from 'react';
import type { DocumentCard } from '@/contract';
import { KIND_WORDS, findRecord } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { FailedToLoad, Skeleton } from '../design/states';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { goToRow } from '../ledger/go-to-row';
import { findItems, ShelfList } from '../shelf/shelf-dialog';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { api } from '../state/api';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { thisAuthor } from '../state/identity';
import { addComponents, freePlace, type ChosenDocument } from './component-edits';
import { DocumentIcon } from '../design/kind-icons';
import { replaceEdit } from './pattern-edits';

/** `instead`: the component whose document is replaced. */
export function AddComponentDialog({ onClose, instead }: { onClose: () => void; instead?: string | undefined }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const project = useSessionState((state) => state.project.id);
  const { loaded, reload } = useLoaded(QUERIES.project(project));
  const [wanted, setWanted] = useState<ReadonlySet<string>>(new Set());
  const [shelved, setShelved] = useState<ReadonlySet<string>>(new Set());
  const [text, setText] = useState('');
  const [problem, setProblem] = useState<string>();
  const [isAdding, setAdding] = useState(false);
  const isPart = instead !== undefined && session.values.components?.valuesOf(instead)?.document.kind === 'part';
  const words = session.document.kind === 'assembly' ? COMPONENTS : isPart ? PARTS : CALC_SHEETS;
  const documents = loaded.state === 'ready' ? loaded.value.documents.filter((one) => one.id !== session.id && words.isOffered(one)) : [];
  const shown = documents.filter(({ name }) => name.toLowerCase().includes(text.trim().toLowerCase()));

  const toggle = (id: string): void => {
    const next = new Set(instead === undefined ? wanted : []);
    if (wanted.has(id)) next.delete(id);
    else next.add(id);
    setWanted(next);
  };
  const add = async (): Promise<void> => {
    setAdding(true);
    // In the order in which they were chosen: the first one is what the others stand beside.
    const own = [...wanted].flatMap((id) => documents.find((one) => one.id === id) ?? []);
    const read = await readChosen(own, project, shelved);
    if (!read.ok) {
      setAdding(false);
      setProblem(read.failure);
      return;
    }
    const chosen = read.value;
    for (const { document, revision } of chosen) session.addSnapshot({ source: document.id, revision }, document);
    const replaced = instead === undefined ? undefined : findRecord(session.document, instead, 'component');
    const [other] = chosen;
    const added =
      replaced && other
        ? { edit: replaceEdit(session.document, replaced, session.values.components?.valuesOf(replaced.id)?.document, other), ids: [replaced.id] }
        : addComponents(session.document, chosen, freePlace(session.geometry.assembly?.box()?.max[0]));
    const failure = added && session.edit(added.edit);
    if (failure) {
      setAdding(false);
      setProblem(failure.message);
      return;
    }
    onClose();
    const last = added?.ids.at(-1);
    if (last !== undefined) goToRow(workspace, last);
  };

  return (
    <TaskDialog
      title={instead === undefined ? words.title : `Replace ${findRecord(session.document, instead, 'component')?.name ?? 'a component'}`}
      description={instead === undefined ? words.description : words.instead}
      onClose={onClose}
    >
      {loaded.state === 'loading' && <Skeleton rows={4} />}
      {loaded.state === 'failed' && <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {loaded.state === 'ready' && documents.length === 0 && <p className="mb-2 text-walnut-soft">{words.none}</p>}
      {documents.length > 0 && (
        <>
          <input
            aria-label="Search"
            placeholder="Search"
            className="mb-2 h-7 w-full rounded-box border border-rule bg-sheet px-1.5"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <ul aria-label="Documents" className="max-h-[45vh] overflow-y-auto">
            {shown.map((document) => (
              <li key={document.id}>
                <label className={`flex items-center gap-3 rounded-box px-2 hover:bg-flax ${words.hasPictures ? 'h-14' : 'h-9'}`}>
                  <input type="checkbox" checked={wanted.has(document.id)} onChange={() => toggle(document.id)} />
                  {words.hasPictures && <DocumentPicture document={document} />}
                  <span className="min-w-0 flex-1 truncate font-semibold">{document.name}</span>
                  <span className="text-walnut-soft">
                    <DocumentIcon kind={document.kind} />
                    {KIND_WORDS[document.kind]}, revision {document.revision}
                    {document.unsavedEdits > 0 && `, ${document.unsavedEdits} unsaved ${document.unsavedEdits === 1 ? 'edit' : 'edits'}`}
                  </span>
                </label>
              </li>
            ))}
          </ul>
          {shown.length === 0 && <p className="px-2 py-1 text-walnut-soft">No document matches.</p>}
        </>
      )}
      {words === CALC_SHEETS && instead === undefined && <ShelvedCalculations text={text} there={documents} wanted={shelved} onWant={setShelved} />}
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
      <TaskVerbs
        label={instead !== undefined ? 'Replace' : words.verb(wanted.size + shelved.size)}
        isDisabled={wanted.size + shelved.size === 0 || isAdding}
        onAccept={() => void add()}
      />
    </TaskDialog>
  );
}

/** Reads what was chosen, with copies from the shelf; the failure says what could not be read. */
async function readChosen(own: readonly DocumentCard[], project: string, shelved: ReadonlySet<string>): Promise<Result<ChosenDocument[], string>> {
  const taken = shelved.size > 0 ? await api.takeFromShelf(project, { items: [...shelved], author: thisAuthor() }) : undefined;
  if (taken && !taken.ok) return fail(taken.failure.message);
  const copies = (taken?.value.documents ?? []).map((copy) => ({ ...copy, revision: 1, bodies: [] }));
  const chosen: ChosenDocument[] = [];
  for (const { id, name, revision, bodies } of [...own, ...copies]) {
    const reply = await api.readRevision(id, revision);
    if (!reply.ok) return fail(`${name}: ${reply.failure.message}`);
    const boxes = bodies.flatMap(({ properties }) => properties?.box ?? []);
    const reach = [Math.min(...boxes.map(({ min }) => min[0])), Math.max(...boxes.map(({ max }) => max[0]))] as const;
    chosen.push({ document: reply.value.document, revision, hash: reply.value.hash, ...(boxes.length > 0 ? { reach } : {}) });
  }
  return succeed(chosen);
}

interface ShelvedProps {
  readonly text: string;
  /** What is in the project already. */
  readonly there: readonly DocumentCard[];
  readonly wanted: ReadonlySet<string>;
  readonly onWant: (wanted: ReadonlySet<string>) => void;
}

/** Calculations that ship with the program: one that is chosen is copied into the project first. */
function ShelvedCalculations({ text, there, wanted, onWant }: ShelvedProps) {
  const { loaded } = useLoaded(QUERIES.shelf);
  const calculations = loaded.state === 'ready' ? findItems(loaded.value.items, text).filter(({ kind }) => kind === 'calc') : [];
  return (
    <div className="mt-2 max-h-[30vh] overflow-y-auto">
      <ShelfList title="From the shelf" items={calculations} wanted={wanted} there={new Set(there.map(({ name }) => name))} onWant={onWant} />
    </div>
  );
}

const COMPONENTS = {
  isOffered: (_: DocumentCard) => true,
  hasPictures: true,
  title: 'Add components',
  description: 'Choose documents of this project, at their latest revisions. A master has no shape: it sets values for the components that link it.',
  instead: 'Choose another document of this project. Mates are kept on faces of the same names, and what is set here in values of the same names.',
  none: 'There is no other document in this project. Create a part first.',
  verb: (count: number) => (count > 1 ? `Add ${count} components` : 'Add the component'),
};

const CALC_SHEETS: typeof COMPONENTS = {
  isOffered: (document) => document.kind === 'calc',
  hasPictures: false,
  title: 'Use a calc sheet',
  description: 'Choose calc sheets of this project, at their latest revisions. Set their inputs here by formulas, and read their results.',
  instead: 'Choose another calc sheet of this project. What is set here is kept in inputs of the same names.',
  none: 'There is no calc sheet in this project yet: take one from the shelf, or create one on the project page.',
  verb: (count) => (count > 1 ? `Use ${count} calc sheets` : 'Use the calc sheet'),
};

/** In the place of one that a part starts from. */
const PARTS: typeof COMPONENTS = {
  ...COMPONENTS,
  isOffered: (document) => document.kind === 'part',
  instead: 'Choose another part of this project. What is set here is kept in values of the same names; choose its body in the step that starts from it.',
};

function DocumentPicture({ document }: { document: DocumentCard }) {
  if (!document.hasThumbnail) return <span className="h-12 w-16 shrink-0" />;
  return (
    // oxlint-disable-next-line nextjs/no-img-element -- small pictures that this server draws
    <img src={`/api/documents/${document.id}/thumbnail?revision=${document.revision}`} alt="" className="h-12 w-16 shrink-0 object-contain" />
  );
}
