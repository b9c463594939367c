/** Every formula that a document holds, and changing them all in one way: for renames and deletions. */
import { readFormula, renameInFormula, renamePathsInFormula } from '../formula';
import { hasName, isStep } from './access';
import type { Draft } from './draft';
import type { TypedFormula } from './edit-schema';
import type { Document, DocumentRecord, Formula, Tolerance } from './schema';
import type { StackReading } from './stack-schema';

/** The record with every formula in it mapped; the same object if none changed. */
export function mapFormulas(record: DocumentRecord, map: (formula: Formula) => Formula): DocumentRecord {
  switch (record.type) {
    case 'parameter': {
      const formula = map(record.formula);
      const least = record.least && map(record.least);
      const most = record.most && map(record.most);
      const tolerance = record.tolerance && mapTolerance(record.tolerance, map);
      const stack = record.stack && mapStack(record.stack, map);
      const isSame = formula === record.formula && least === record.least && most === record.most;
      if (isSame && tolerance === record.tolerance && stack === record.stack) return record;
      const changed = { ...(least ? { least } : {}), ...(most ? { most } : {}), ...(tolerance ? { tolerance } : {}), ...(stack ? { stack } : {}) };
      return { ...record, formula, ...changed };
    }
    case 'body': {
      const density = record.density && map(record.density);
      return density === record.density || !density ? record : { ...record, density };
    }
    case 'chart': {
      const [from, to] = [map(record.from), map(record.to)];
      const amounts = record.by?.amounts.map(map);
      const isSame = from === record.from && to === record.to && (amounts ?? []).every((amount, i) => amount === record.by?.amounts[i]);
      return isSame ? record : { ...record, from, to, ...(record.by && amounts ? { by: { ...record.by, amounts } } : {}) };
    }
    case 'size': {
      const cells = Object.entries(record.cells).map(([id, formula]) => [id, map(formula)] as const);
      return cells.every(([id, formula]) => formula === record.cells[id]) ? record : { ...record, cells: Object.fromEntries(cells) };
    }
    case 'component': {
      const suppressed = record.suppressed && map(record.suppressed);
      const size = record.size && map(record.size);
      if (suppressed === record.suppressed && size === record.size) return record;
      return { ...record, ...(suppressed ? { suppressed } : {}), ...(size ? { size } : {}) };
    }
    case 'drive': {
      const formula = map(record.formula);
      return formula === record.formula ? record : { ...record, formula };
    }
    case 'outside': {
      const inputs = record.inputs.map((input) => {
        const formula = map(input.formula);
        return formula === input.formula ? input : { ...input, formula };
      });
      return inputs.every((input, i) => input === record.inputs[i]) ? record : { ...record, inputs };
    }
    case 'goal': {
      const [of, wanted, within] = [map(record.of), map(record.wanted), record.within && map(record.within)];
      const by = record.by.map(map);
      const isSame = of === record.of && wanted === record.wanted && within === record.within && by.every((one, i) => one === record.by[i]);
      return isSame ? record : { ...record, of, wanted, ...(within ? { within } : {}), by };
    }
    case 'guard': {
      const condition = map(record.condition);
      return condition === record.condition ? record : { ...record, condition };
    }
    default: {
      if (!isStep(record) && record.type !== 'mate') return record;
      const suppressed = record.suppressed && map(record.suppressed);
      return suppressed === record.suppressed || !suppressed ? record : { ...record, suppressed };
    }
  }
}

function mapStack(stack: StackReading, map: (formula: Formula) => Formula): StackReading {
  const [atLeast, atMost] = [stack.atLeast && map(stack.atLeast), stack.atMost && map(stack.atMost)];
  if (atLeast === stack.atLeast && atMost === stack.atMost) return stack;
  return { ...stack, ...(atLeast ? { atLeast } : {}), ...(atMost ? { atMost } : {}) };
}

function mapTolerance(tolerance: Tolerance, map: (formula: Formula) => Formula): Tolerance {
  switch (tolerance.kind) {
    case 'symmetric': {
      const by = map(tolerance.by);
      return by === tolerance.by ? tolerance : { ...tolerance, by };
    }
    case 'fit':
      return tolerance;
    default: {
      const [upper, lower] = [map(tolerance.upper), map(tolerance.lower)];
      return upper === tolerance.upper && lower === tolerance.lower ? tolerance : { ...tolerance, upper, lower };
    }
  }
}

/** Exchanges names in every formula of the document, all at once. */
export function renameEverywhere(draft: Draft, newNameOf: (name: string) => string | undefined): void {
  for (const record of Object.values(draft.document.records)) {
    draft.put(
      record.id,
      mapFormulas(record, (formula) => {
        const text = renameInFormula(formula.text, newNameOf);
        return text === formula.text ? formula : { ...formula, text };
      }),
    );
  }
}

/** Exchanges whole paths, `rail.length`, in every formula of the document. */
export function renamePaths(draft: Draft, newPathOf: (path: string) => string | undefined): void {
  for (const record of Object.values(draft.document.records)) {
    draft.put(
      record.id,
      mapFormulas(record, (formula) => {
        const text = renamePathsInFormula(formula.text, newPathOf);
        return text === formula.text ? formula : { ...formula, text };
      }),
    );
  }
}

/** Records with a formula that mentions one of the names. */
export function findReaders(document: Document, names: ReadonlySet<string>): DocumentRecord[] {
  return Object.values(document.records).filter((record) => doesRead(record, names));
}

/** Those of the names that a formula of the document mentions: each formula is read once, however many names there are. */
export function mentionedNames({ records }: Document, names: ReadonlySet<string>): ReadonlySet<string> {
  const found = new Set<string>();
  if (names.size === 0) return found;
  for (const record of Object.values(records)) {
    mapFormulas(record, (formula) => {
      const parsed = readFormula(formula.text, () => false);
      for (const { name } of parsed.ok ? parsed.names : []) if (names.has(name)) found.add(name);
      return formula;
    });
  }
  return found;
}

/** Whether a formula of the record mentions one of the names. */
export function doesRead(record: DocumentRecord, names: ReadonlySet<string>): boolean {
  let reads = false;
  mapFormulas(record, (formula) => {
    reads ||= mentions(formula.text, names);
    return formula;
  });
  return reads;
}

function mentions(text: string, names: ReadonlySet<string>): boolean {
  if (![...names].some((name) => text.includes(name))) return false;
  const parsed = readFormula(text, () => false);
  return parsed.ok && parsed.names.some(({ name }) => names.has(name));
}

/** The formula to store for one as typed: names that were renamed meanwhile are followed by their ids. */
export function resolveTyped(document: Document, typed: TypedFormula): Formula {
  const meant = typed.names ?? {};
  const text = renameInFormula(typed.text, (name) => {
    const id = Object.hasOwn(meant, name) ? meant[name] : undefined;
    const record = id === undefined || !Object.hasOwn(document.records, id) ? undefined : document.records[id];
    return record && hasName(record) && record.name !== name ? record.name : undefined;
  });
  return typed.readIn ? { text, readIn: typed.readIn } : { text };
}

/** The ids that the names of a formula mean in the document now, to be sent along with an edit. */
export function meantNames(document: Document, text: string): Record<string, string> {
  const parsed = readFormula(text, () => false);
  const meant: Record<string, string> = {};
  if (!parsed.ok) return meant;
  if (parsed.names.length === 0) return meant;
  const ids = idsByName(document);
  for (const { name } of parsed.names) {
    const id = ids.get(name);
    if (id !== undefined) meant[name] = id;
  }
  return meant;
}

/** Documents never change, so neither do the names in them. */
const named = new WeakMap<Document, ReadonlyMap<string, string>>();

function idsByName(document: Document): ReadonlyMap<string, string> {
  const known = named.get(document);
  if (known) return known;
  const ids = new Map(Object.values(document.records).flatMap((record) => (hasName(record) ? [[record.name, record.id] as const] : [])));
  named.set(document, ids);
  return ids;
}
