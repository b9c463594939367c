/** From a what-if to the document and from the document to a what-if: each one edit, and asked first where it does what nobody may expect. */
import { meantNames, type EditOf, type WhatIf } from '@/core/document';
import { planTakingOver, settingsBetween } from '@/core/studies';
import { api } from '../state/api';
import type { DocumentSession } from '../state/document-session';
import type { WorkspaceStore } from '../state/workspace';

/** What there is to say at once; undefined where it is asked first. */
export function takeOver(session: DocumentSession, workspace: WorkspaceStore, whatIf: WhatIf): string | undefined {
  const { edit, linked, changed } = planTakingOver(session.document, whatIf);
  const left = linked.length === 0 ? '' : ` Not applied: ${linked.join(', ')}. Change linked values at their source.`;
  if (!edit) return `Nothing would change.${left}`;
  const make = (): string => {
    const failure = session.edit(edit);
    return failure?.message ?? `${whatIf.name} was applied. Undo takes it back.${left}`;
  };
  if (changed.length === 0) return make();
  workspace.setState({
    question: {
      title: `Apply ${whatIf.name}?`,
      words: 'These values have changed since the what-if was written.',
      lines: changed.map(({ name, instead, now, next }) => `${name}: was ${instead}, is ${now}, would be ${next}`),
      answers: [{ label: 'Apply all', run: () => session.notify(make()) }],
    },
  });
  return undefined;
}

/** Asks whether the document goes back to its last revision; `add` makes the what-if. What there is to say at once. */
export async function keepEdits(session: DocumentSession, workspace: WorkspaceStore, add: (values: WhatIf['values']) => void): Promise<string | undefined> {
  const { revision } = session.store.getState();
  const reply = await api.readRevision(session.id, revision);
  if (!reply.ok) return `The last revision cannot be read: ${reply.failure.message}`;
  const before = reply.value.document;
  const { document } = session;
  const values = settingsBetween(before, document);
  const ids = Object.keys(values);
  if (ids.length === 0) return `No formula of ${document.name} has changed since revision ${revision}.`;
  const back = Object.entries(values).map(([id, { instead }]): EditOf<'parameter.setFormula'> => ({
    type: 'parameter.setFormula',
    id,
    formula: { text: instead, names: meantNames(before, instead) },
  }));
  const lines = linesOf(session, values);
  workspace.setState({
    question: {
      title: `Keep ${ids.length === 1 ? 'this edit' : `these ${ids.length} edits`} as a what-if?`,
      words: `Formulas that have changed since revision ${revision}.`,
      lines,
      answers: [
        {
          label: 'Keep, and revert the document',
          run: () => {
            add(values);
            session.edit({ type: 'batch', edits: back });
          },
        },
        { label: 'Keep both', run: () => add(values) },
      ],
    },
  });
  return undefined;
}

function linesOf({ document }: DocumentSession, values: WhatIf['values']): string[] {
  return Object.entries(values).map(([id, { formula, instead }]) => {
    const record = document.records[id];
    return `${record && 'name' in record ? record.name : id}: ${instead} → ${formula.text}`;
  });
}
