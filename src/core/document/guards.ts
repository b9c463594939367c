/** Conditions that do not hold. */
import { listRecords } from './access';
import type { Guard } from './schema';
import type { DocumentValues } from './values';

export interface BrokenGuard {
  readonly id: string;
  readonly severity: Guard['severity'];
  /** The words of the guard; its condition where it has none; the reason where it cannot be judged. */
  readonly message: string;
}

export function findBrokenGuards(values: DocumentValues): BrokenGuard[] {
  return listRecords(values.document, 'guards', 'guard').flatMap(({ id, severity, message, condition }) => {
    const reading = values.sheet.read(id);
    const [problem] = reading?.diagnostics ?? [];
    if (reading?.value === 1 && !problem) return [];
    return [{ id, severity, message: problem?.message ?? (message === '' ? `${condition.text} does not hold.` : message) }];
  });
}
