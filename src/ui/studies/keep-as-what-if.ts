import { applyEdit, MOST_WHAT_IFS } from '@/core/document';
import { settingsBetween } from '@/core/studies';
import { api } from '../state/api';
import type { DocumentSession } from '../state/document-session';
import { newId } from '../state/identity';
import { setAmounts } from './outputs';

/** The document with values at other amounts as a what-if beside it; why it was not kept, or nothing. */
export async function keepAsWhatIf(session: DocumentSession, amounts: ReadonlyMap<string, number>, name: string): Promise<string | undefined> {
  const edit = setAmounts(session, amounts);
  const applied = edit && applyEdit(session.document, edit);
  if (!applied?.ok) return 'An amount cannot be written as a formula here.';
  const values = settingsBetween(session.document, applied.value.document);
  const reply = await api.changeWhatIf(session.id, { put: { id: newId(), name, values } });
  if (reply.ok) return undefined;
  return reply.failure.code === 'too-large' ? `There are ${MOST_WHAT_IFS} what-ifs already. Delete one first.` : reply.failure.message;
}
