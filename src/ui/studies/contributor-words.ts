/** How the amounts of a contributor are written: as where it stands, in a component too. */
import type { DocumentValues } from '@/core/document';
import type { Contributor } from '@/core/studies';

/** Decimals: a tolerance is smaller than what it is of. */
const DECIMALS = 4;

export function writerOf(values: DocumentValues, { id }: Contributor): (amount: number) => string {
  const path = id.split(' ');
  const own = path.pop() ?? '';
  const inside = path.reduce<DocumentValues | undefined>((at, component) => at?.components?.valuesOf(component), values);
  const shown = inside?.show(own);
  return (amount) => (inside && shown ? inside.words({ ...shown, value: amount }, shown.unit, DECIMALS).shown : '');
}
