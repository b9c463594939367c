/** A document as a what-if would have it, and what taking one over does. */
import {
  applyEdit,
  findRecord,
  formulaNow,
  meantNames,
  slotOfTaken,
  tryFormula,
  type Document,
  type DocumentValues,
  type Edit,
  type EditOf,
  type TakenValue,
  type WhatIf,
} from '../document';
import { withValues } from '../instances';

export interface AsWhatIf {
  readonly document: Document;
  /** Why a value is not set, by its id. */
  readonly problems: ReadonlyMap<string, string>;
}

type Setting = WhatIf['values'][string];

/** The document of `values` with what the what-if sets; a linked value is cut off from its source there. */
export function asWhatIf(values: DocumentValues, { values: settings }: Pick<WhatIf, 'values'>): AsWhatIf {
  const problems = new Map<string, string>();
  const taken = new Map<string, TakenValue>();
  let { document } = values;
  for (const [id, setting] of Object.entries(settings)) {
    if (findRecord(values.document, id, 'take')) {
      const value = evaluate(values, id, setting);
      if ('problem' in value) problems.set(id, value.problem);
      else taken.set(id, value);
      continue;
    }
    const result = applyEdit(document, setFormula(id, setting));
    if (result.ok) document = result.value.document;
    else problems.set(id, result.failure.message);
  }
  return { document: taken.size === 0 ? document : withValues(document, taken), problems };
}

/** What a linked value is set to, with the values that the document has otherwise. */
function evaluate(values: DocumentValues, id: string, { formula }: Setting): TakenValue | { readonly problem: string } {
  const record = findRecord(values.document, id, 'take');
  if (!record) return { problem: 'It is no longer in the document.' };
  const { type } = values.sheet.read(id) ?? {};
  const tried = tryFormula(values, formula.text, slotOfTaken(record.value, record.name), id, formula.readIn);
  const [problem] = tried.diagnostics;
  const value = problem ? undefined : values.complete({ value: tried.value, type, diagnostics: [] }, values.show(id)?.unit);
  return value ?? { problem: problem?.message ?? 'It has no value.' };
}

function setFormula(id: string, { formula }: Setting): EditOf<'parameter.setFormula'> {
  return { type: 'parameter.setFormula', id, formula };
}

/** What the document says of a value now: its formula, or of a linked one the amount. */
export function textNow(values: DocumentValues, id: string): string {
  const parameter = findRecord(values.document, id, 'parameter');
  return parameter ? formulaNow(values.document, parameter).text : (values.show(id)?.exact ?? '');
}

export interface TakingOver {
  /** One edit for all; undefined where nothing would be another. */
  readonly edit: Edit | undefined;
  /** Linked values, by name: they are changed at their source. */
  readonly linked: readonly string[];
  /** Values whose formula is another now than the one that the what-if was to replace. */
  readonly changed: readonly { readonly name: string; readonly instead: string; readonly now: string; readonly next: string }[];
}

export function planTakingOver(document: Document, { values: settings }: WhatIf): TakingOver {
  const edits: EditOf<'parameter.setFormula'>[] = [];
  const linked: string[] = [];
  const changed: { name: string; instead: string; now: string; next: string }[] = [];
  for (const [id, setting] of Object.entries(settings)) {
    const take = findRecord(document, id, 'take');
    const parameter = findRecord(document, id, 'parameter');
    if (take) linked.push(take.name);
    if (!parameter) continue;
    const now = formulaNow(document, parameter).text;
    const next = setting.formula.text;
    if (now === next) continue;
    edits.push(setFormula(id, setting));
    if (now !== setting.instead) changed.push({ name: parameter.name, instead: setting.instead, now, next });
  }
  const [first] = edits;
  return { edit: edits.length > 1 ? { type: 'batch', edits } : first, linked, changed };
}

/** What differs between two states of a document in the formulas of its parameters, as a what-if from the one to the other. */
export function settingsBetween(before: Document, after: Document): WhatIf['values'] {
  const settings = Object.values(after.records).flatMap((record) => {
    const earlier = record.type === 'parameter' ? findRecord(before, record.id, 'parameter') : undefined;
    if (record.type !== 'parameter' || !earlier || record.measure !== undefined) return [];
    const [was, formula] = [formulaNow(before, earlier), formulaNow(after, record)];
    if (was.text === formula.text) return [];
    return [[record.id, { formula: { ...formula, names: meantNames(after, formula.text) }, instead: was.text }] as const];
  });
  return Object.fromEntries(settings);
}
