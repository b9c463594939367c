/** Apart from what is read in studies: the ledger offers these without what studies build with. */
import { listDriving, listOwned } from '@/core/document';
import type { Unit } from '@/core/units';
import type { DocumentSession } from './document-session';

interface Movable {
  readonly id: string;
  readonly name: string;
  readonly unit: Unit | undefined;
}

/** Values that can be run through amounts: those with a formula of their own that is a quantity, in the order of the ledger. */
export function listMovable({ document, values }: DocumentSession): Movable[] {
  return [...listDriving(document), ...listOwned(document)].flatMap((record) => {
    const shown = values.show(record.id);
    return record.type === 'parameter' && !values.isMeasured(record.id) && shown?.type?.kind === 'quantity' && !Number.isNaN(shown.value)
      ? { id: record.id, name: record.name, unit: shown.unit }
      : [];
  });
}
