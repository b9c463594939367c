/** Judging a formula while it is typed, against a document as it is, without changing anything. */
import { ANY_SLOT, formatReading, fullName, readFormula, type FormulaDiagnostic, type Slot } from '../formula';
import type { Unit, UnitSystem } from '../units';
import type { Reading } from '../network';
import { listDriving } from './access';
import type { DocumentValues } from './values';

export interface TriedFormula {
  readonly diagnostics: readonly FormulaDiagnostic[];
  /** The result as it would be shown; empty with diagnostics. */
  readonly shown: string;
  readonly exact: string;
  /** In internal base units; NaN with diagnostics. */
  readonly value: number;
  /** The text with every unit that a bare number took, if any took one. */
  readonly reading: string | undefined;
  /** Names of driving values that have just this value, where it is one typed number. */
  readonly equals: readonly string[];
  /** Whether it is one plain number without a unit, which a new parameter reads as a length. */
  readonly isPlainNumber: boolean;
  /** The unit that it would be shown in. */
  readonly unit: Unit | undefined;
}

/** `forId` is the value whose formula it would become: a formula that leads back to it is refused. */
export function tryFormula(values: DocumentValues, text: string, slot: Slot = ANY_SLOT, forId?: string, readIn?: UnitSystem): TriedFormula {
  const { sheet } = values;
  const cycle = forId === undefined ? undefined : findLoop(values, text, forId);
  if (cycle) return { diagnostics: [cycle], shown: '', exact: '', value: NaN, reading: undefined, equals: [], isPlainNumber: false, unit: undefined };
  const reading = sheet.judge({
    text,
    slot,
    ...(forId === undefined ? {} : { typedFor: nameOf(values, forId) }),
    ...(readIn ? { units: readIn } : {}),
  });
  const unit = values.unitOf(undefined, reading);
  return {
    diagnostics: reading.diagnostics,
    ...values.words(reading, unit),
    value: reading.value,
    reading: formatReading(text, reading.adopted),
    equals: reading.isLiteral ? findEqual(values, reading, forId) : [],
    isPlainNumber: reading.isLiteral && reading.type?.kind === 'quantity' && reading.type.dimension.key === '',
    unit,
  };
}

/** Plain counts and yes or no equal too much by chance to be pointed out. */
function findEqual(values: DocumentValues, { value, type }: Reading, forId: string | undefined): string[] {
  if (type?.kind !== 'quantity' || type.dimension.key === '' || value === 0) return [];
  return listDriving(values.document).flatMap(({ id, name }) => {
    const other = id === forId ? undefined : values.sheet.read(id);
    return other?.value === value && other.type?.kind === 'quantity' && other.type.dimension === type.dimension ? name : [];
  });
}

function findLoop(values: DocumentValues, text: string, forId: string): FormulaDiagnostic | undefined {
  const parsed = readFormula(text, (name) => values.sheet.findByName(name) !== undefined);
  if (!parsed.ok) return undefined;
  for (const node of parsed.names) {
    const { from, to } = node;
    const names = pathOfNames(values, fullName(node), forId);
    if (!names) continue;
    return {
      code: 'cycle',
      message: `This would make ${nameOf(values, forId)} depend on itself: ${[nameOf(values, forId), ...names].join(' → ')}.`,
      from,
      to,
    };
  }
  return undefined;
}

/** Names from what is read along what that reads to the value, both included. */
function pathOfNames(values: DocumentValues, name: string, forId: string): string[] | undefined {
  const known = values.sheet.findByName(name);
  if (known !== undefined) return findPath(values, known, forId)?.map((id) => nameOf(values, id));
  // A value of a component that nothing reads yet hangs on what is set of it.
  const reads = name.includes('.') ? (values.components?.peek(name)?.definition.reads ?? []) : [];
  for (const read of reads) {
    const path = findPath(values, read, forId);
    if (path) return [name, ...path.map((id) => nameOf(values, id))];
  }
  return undefined;
}

/** Values from `start` along what they read to `goal`, both included. */
function findPath(values: DocumentValues, start: string, goal: string): string[] | undefined {
  const cameFrom = new Map<string, string | undefined>([[start, undefined]]);
  const queue = [start];
  for (let id = queue.shift(); id !== undefined; id = queue.shift()) {
    if (id === goal) {
      const path: string[] = [];
      for (let at: string | undefined = goal; at !== undefined; at = cameFrom.get(at)) path.unshift(at);
      return path;
    }
    for (const next of values.sheet.listReads(id)) {
      if (cameFrom.has(next)) continue;
      cameFrom.set(next, id);
      queue.push(next);
    }
  }
  return undefined;
}

function nameOf(values: DocumentValues, id: string): string {
  return values.sheet.nameOf(id) ?? id;
}
