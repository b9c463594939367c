/** Names for values that are made several at once: the wanted one, or the next with a number. */
import { takenNames, type Parameter } from '../document';
import { checkName } from '../formula';
import type { ChangeContext } from './change';

export function freeName({ document }: ChangeContext, wanted: string, made: readonly Parameter[]): string {
  const isTaken = takenNames(document);
  const own = new Set(made.map(({ name }) => name));
  for (let n = 1; ; n++) {
    const name = n === 1 ? wanted : `${wanted}_${n}`;
    if (!checkName(name, (other) => own.has(other) || isTaken(other))) return name;
  }
}
