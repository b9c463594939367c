/** The document with every tolerance at one of its limits: looked at, never kept. */
import { planRestore, type Document, type MeasuredValue } from '@/core/document';
import { builtAt, type BuiltAt, type BuiltAtEach } from '@/core/studies';
import type { DocumentSession } from '../state/document-session';

export const AT_WORDS: Readonly<Record<BuiltAt, string>> = { upper: 'at upper limits', middle: 'at the middle of all tolerances', lower: 'at lower limits' };
export const AT_CHOSEN = 'at limits chosen for each value';

/** Undefined shows it as it is. */
export function showAt(session: DocumentSession, at: BuiltAtEach | undefined): void {
  const measured = measuredAtNominal(session);
  session.endTrial(false);
  if (at === undefined) return;
  const { document } = session;
  const title = typeof at === 'string' ? AT_WORDS[at] : AT_CHOSEN;
  const { document: there, count, left } = builtAt(document, session.snapshots, at, measured);
  if (count === 0) {
    session.notify(`Nothing in ${document.name} is off its nominal ${title}.`);
    return;
  }
  const words = [
    count === 1 ? 'One value is off its nominal.' : `${count} values are off their nominal.`,
    ...(left.length > 0 ? [`Not moved: ${listShort(left)}. Their choices or limits do not allow it in a component.`] : []),
  ];
  session.tryOut(planRestore(document, there), { title, words, measured });
}

/** What the geometry of the document as it is measures, whatever is shown. */
export function measuredAtNominal({ store }: DocumentSession): Readonly<Record<string, MeasuredValue>> | undefined {
  const { shownAs, regenerated } = store.getState();
  return shownAs ? shownAs.measured : regenerated?.measured;
}

function listShort(names: readonly string[]): string {
  return names.length > 3 ? `${names.slice(0, 3).join(', ')} and ${names.length - 3} more` : names.join(', ');
}

/** Whether anything in the document may be off its nominal. */
export function hasTolerances({ general, kind, records }: Document): boolean {
  if (general !== undefined || kind === 'assembly') return true;
  return Object.values(records).some(
    (record) =>
      (record.type === 'parameter' && record.tolerance !== undefined) || (record.type === 'take' && record.value.kind === 'quantity' && record.value.tolerance),
  );
}
