/** Deleting what others may read: done at once when nothing reads it, asked about otherwise. */
import { applyEdit, findAny, type Edit, type Readers } from '@/core/document';
import type { DocumentSession } from './document-session';
import type { WorkspaceStore } from './workspace';

/**
 * Makes the edit, or opens the question in the workspace: first about values that other documents take, then about
 * formulas here. Any other failure is said by the session.
 */
export function editOrAsk(session: DocumentSession, workspace: WorkspaceStore, title: string, makeEdit: (readers: Readers) => Edit): void {
  const lines = [...findGoing(session, makeEdit)].flatMap((id) => {
    const users = workspace.getState().uses.get(id);
    const record = findAny(session.document, id);
    return users && record && 'name' in record ? [`${record.name}: taken by ${[...new Set(users)].join(', ')}`] : [];
  });
  const go = (): void => editOrAskReaders(session, workspace, title, makeEdit);
  if (lines.length === 0) {
    go();
    return;
  }
  workspace.setState({
    question: {
      title: `${title}?`,
      words: 'Other documents take what would go. They keep the value that they have until they catch up, and have an error then.',
      lines,
      answers: [{ label: 'Continue', run: go }],
    },
  });
}

/** Records that an edit would take out of the document. */
function findGoing(session: DocumentSession, makeEdit: (readers: Readers) => Edit): ReadonlySet<string> {
  const plain = applyEdit(session.document, makeEdit({ mode: 'refuse' }));
  const tried = plain.ok ? plain : applyEdit(session.document, makeEdit(presentNumbers(session, makeEdit)));
  return new Set(tried.ok ? tried.value.diff.records.flatMap(({ id, after }) => (after ? [] : id)) : []);
}

function editOrAskReaders(session: DocumentSession, workspace: WorkspaceStore, title: string, makeEdit: (readers: Readers) => Edit): void {
  const plain = makeEdit({ mode: 'refuse' });
  const tried = applyEdit(session.document, plain);
  if (tried.ok || tried.failure.code !== 'still-read') {
    session.edit(plain);
    return;
  }
  const works = (readers: Readers): boolean => applyEdit(session.document, makeEdit(readers)).ok;
  const numbers = presentNumbers(session, makeEdit);
  workspace.setState({
    removal: { title, makeEdit, readers: tried.failure.ids ?? [], canKeep: works({ mode: 'keep' }), numbers: works(numbers) ? numbers : undefined },
  });
}

/** The values that would go, each as a number that can be put in its place. */
function presentNumbers(session: DocumentSession, makeEdit: (readers: Readers) => Edit): Readers {
  const all: Record<string, string> = {};
  for (const record of Object.values(session.document.records)) {
    const exact = record.type === 'parameter' || record.type === 'take' ? session.values.show(record.id)?.exact : undefined;
    if (exact !== undefined && exact !== '') all[record.id] = exact;
  }
  const tried = applyEdit(session.document, makeEdit({ mode: 'numbers', numbers: all }));
  const going = new Set(tried.ok ? tried.value.diff.records.flatMap(({ id, after }) => (after ? [] : id)) : []);
  return { mode: 'numbers', numbers: Object.fromEntries(Object.entries(all).filter(([id]) => going.has(id))) };
}
