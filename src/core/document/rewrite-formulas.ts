/**
 * Rewriting formulas without changing a value: one value put in place of another, a formula put in where its value is
 * read, a part of a formula made a value of its own. Each gives an edit, so that it can be shown before it is made.
 */
import { parseFormula, renameInFormula, type FormulaNode } from '../formula';
import { fail, succeed, type Result } from '../kit';
import { findNamed, findRecord, isStep, listNamed } from './access';
import type { Edit, EditOf, TypedFormula } from './edit-schema';
import { findReaders, mapFormulas, meantNames } from './formulas-in';
import type { Document, DocumentRecord } from './schema';
import type { DocumentValues } from './values';

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

export interface Rewriting {
  readonly edit: Edit;
  /** Formulas that change: as they are and as they become. */
  readonly changes: readonly { readonly name: string; readonly before: string; readonly after: string }[];
}

/** Every formula that reads one value reads another instead. */
export function replaceValue(values: DocumentValues, from: string, by: string): Result<Rewriting, string> {
  const { document } = values;
  const [old, fresh] = [nameOf(document, from), nameOf(document, by)];
  if (old === undefined || fresh === undefined || from === by) return fail('Choose another value to put in its place.');
  if (readsThrough(values, by, from, new Set())) return fail(`${fresh} itself reads ${old}; put in its place, it would depend on itself.`);
  return rewrite(document, (name) => (name === old ? fresh : undefined), old);
}

/** The formula of a value stands wherever the value was read, and the value goes if it is nobody's dimension. */
export function inlineValue(values: DocumentValues, id: string): Result<Rewriting, string> {
  const { document } = values;
  const parameter = findRecord(document, id, 'parameter');
  if (!parameter || values.isMeasured(id)) return fail('Only a value with a formula can be put in.');
  const shown = values.show(id);
  if (!shown || shown.diagnostics.length > 0) return fail(`${parameter.name} has an error; repair that first.`);
  // A bare number takes its unit along: in another formula it could be read in another way.
  const text = shown.isLiteral ? shown.exact : parameter.formula.text;
  if (parameter.formula.readIn && !shown.isLiteral) return fail(`${parameter.name} was typed when the document had other units; write its units out first.`);
  const result = rewrite(document, (name) => (name === parameter.name ? `(${text})` : undefined), parameter.name);
  if (!result.ok || parameter.owner !== undefined) return result;
  const { edit, changes } = result.value;
  const removal: SingleEdit = { type: 'parameter.remove', id, readers: { mode: 'refuse' } };
  return succeed({ edit: { type: 'batch', edits: [...(edit.type === 'batch' ? edit.edits : [edit]), removal] }, changes });
}

/** The parts of a formula that could be values of their own, the largest first. */
export function listParts(text: string): { readonly from: number; readonly to: number; readonly text: string }[] {
  const parsed = parseFormula(text);
  if (!parsed.ok) return [];
  const parts: { from: number; to: number; text: string }[] = [];
  const visit = (node: FormulaNode, isWhole: boolean): void => {
    const isLeaf = node.type === 'literal' || node.type === 'text' || node.type === 'name';
    const part = withoutBrackets(text.slice(node.from, node.to));
    if (!isWhole && !isLeaf && !parts.some((other) => other.text === part)) parts.push({ from: node.from, to: node.to, text: part });
    for (const child of childrenOf(node)) visit(child, false);
  };
  visit(parsed.node, true);
  return parts.sort((a, b) => b.text.length - a.text.length);
}

/** Brackets around a whole part belong to what it stands in. */
function withoutBrackets(part: string): string {
  const inner = part.slice(1, -1);
  return part.startsWith('(') && part.endsWith(')') && parseFormula(inner).ok ? inner : part;
}

function childrenOf(node: FormulaNode): readonly FormulaNode[] {
  switch (node.type) {
    case 'binary':
      return [node.left, node.right];
    case 'unary':
      return [node.operand];
    case 'call':
      return node.args;
    case 'united':
      return [node.inner];
    default:
      return [];
  }
}

/** A part of a formula becomes a new driving value, which the formula reads then; the same part elsewhere in it too. */
export function extractPart(values: DocumentValues, id: string, part: string, name: string, newId: () => string): Result<Rewriting, string> {
  const parameter = findRecord(values.document, id, 'parameter');
  if (!parameter) return fail('Only a formula has parts.');
  const { text, readIn } = parameter.formula;
  const spans = allSpans(text, part);
  if (spans.length === 0) return fail(`${part} is not part of ${text}.`);
  const after = spans.reduceRight((now, [from, to]) => now.slice(0, from) + name + now.slice(to), text);
  const { document } = values;
  const added: SingleEdit = {
    type: 'parameter.add',
    parameter: { type: 'parameter', id: newId(), name, formula: { text: part, ...(readIn ? { readIn } : {}) }, kind: 'any' },
    names: meantNames(document, part),
  };
  const changed: SingleEdit = { type: 'parameter.setFormula', id, formula: { text: after, names: meantNames(document, after), ...(readIn ? { readIn } : {}) } };
  return succeed({ edit: { type: 'batch', edits: [added, changed] }, changes: [{ name: parameter.name, before: text, after }] });
}

function allSpans(text: string, part: string): (readonly [number, number])[] {
  const parsed = parseFormula(text);
  if (!parsed.ok) return [];
  const found: (readonly [number, number])[] = [];
  const visit = (node: FormulaNode): void => {
    if (withoutBrackets(text.slice(node.from, node.to)) === part) found.push([node.from, node.to]);
    else childrenOf(node).forEach(visit);
  };
  visit(parsed.node);
  return found;
}

function nameOf(document: Document, id: string): string | undefined {
  return listNamed(document).find((record) => record.id === id && record.type !== 'table')?.name;
}

function readsThrough(values: DocumentValues, from: string, wanted: string, seen: Set<string>): boolean {
  if (seen.has(from)) return false;
  seen.add(from);
  return values.sheet.listReads(from).some((id) => id === wanted || readsThrough(values, id, wanted, seen));
}

function rewrite(document: Document, newNameOf: (name: string) => string | undefined, name: string): Result<Rewriting, string> {
  const changes: { name: string; before: string; after: string }[] = [];
  const edits = findReaders(document, new Set([name])).flatMap((record): SingleEdit[] => {
    const texts = new Map<string, string>();
    mapFormulas(record, (formula) => {
      const after = renameInFormula(formula.text, newNameOf);
      if (after === formula.text) return formula;
      texts.set(formula.text, after);
      changes.push({ name: wordsFor(document, record), before: formula.text, after });
      return formula;
    });
    return editsFor(record, (text) => texts.get(text) ?? text);
  });
  const [only] = edits;
  if (!only) return fail(`Nothing reads ${name}.`);
  return succeed({ edit: edits.length === 1 ? only : { type: 'batch', edits }, changes });
}

function wordsFor(document: Document, record: DocumentRecord): string {
  if ('name' in record) return record.name;
  if (record.type === 'guard' || record.type === 'goal') return `a ${record.type}`;
  return findNamed(document, record.id)?.name ?? 'a formula';
}

/** The edits that put other texts into all formulas of a record. */
function editsFor(record: DocumentRecord, write: (text: string) => string): SingleEdit[] {
  const typed = (formula: TypedFormula): TypedFormula => ({ ...formula, text: write(formula.text) });
  switch (record.type) {
    case 'parameter': {
      const { least, most } = record;
      const bounds = { ...(least ? { least: typed(least) } : {}), ...(most ? { most: typed(most) } : {}) };
      return [
        ...(record.measure ? [] : [{ type: 'parameter.setFormula' as const, id: record.id, formula: typed(record.formula) }]),
        ...(least || most ? [{ type: 'parameter.update' as const, id: record.id, changes: bounds }] : []),
      ];
    }
    case 'guard':
      return [{ type: 'guard.put', guard: { ...record, condition: { ...record.condition, text: write(record.condition.text) } } }];
    case 'goal': {
      const { of, wanted, within, by } = record;
      return [{ type: 'goal.put', goal: { ...record, of: typed(of), wanted: typed(wanted), ...(within ? { within: typed(within) } : {}), by: by.map(typed) } }];
    }
    case 'body':
      return record.density ? [{ type: 'body.put', body: { ...record, density: { ...record.density, text: write(record.density.text) } } }] : [];
    default:
      return isStep(record) && record.suppressed
        ? [{ type: 'step.update', step: { ...record, suppressed: { ...record.suppressed, text: write(record.suppressed.text) } }, values: [] }]
        : [];
  }
}
