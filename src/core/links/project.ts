/** A whole project evaluated without a server: its documents are their own latest revisions. */
import { applyEdit, DocumentValues, type Document } from '../document';
import { planCatchUp, type CatchUpPlan } from './catch-up';
import { publishValues } from './offered';

/** The documents with every link caught up, and the plan that did it. */
export function catchUpProject(documents: readonly Document[]): { readonly documents: readonly Document[]; readonly plan: CatchUpPlan } {
  const plan = planCatchUp(
    documents.map((document) => ({ document, revision: 0, hash: '', published: publishValues(new DocumentValues(document)) })),
    new Set(documents.map((document) => document.id)),
  );
  const after = new Map(plan.documents.map((entry) => [entry.id, entry.after]));
  return { documents: documents.map((document) => after.get(document.id) ?? document), plan };
}

export type SetFailure = { readonly code: 'bad-setting' | 'no-document' | 'no-value'; readonly message: string };

/**
 * Sets a parameter of one document by text: `Loom sizes.weaving_width=480 mm`. Gives the changed
 * documents, or why the setting does not fit them.
 */
export function applySetting(
  documents: readonly Document[],
  setting: string,
): { readonly ok: true; readonly documents: readonly Document[] } | { readonly ok: false; readonly failure: SetFailure } {
  const equals = setting.indexOf('=');
  const dot = setting.lastIndexOf('.', equals);
  if (equals < 0 || dot < 1) return refuse('bad-setting', `"${setting}" is not of the form DOCUMENT.name=formula.`);
  const [documentName, name, text] = [setting.slice(0, dot).trim(), setting.slice(dot + 1, equals).trim(), setting.slice(equals + 1).trim()];
  const document = documents.find((candidate) => candidate.name === documentName || candidate.id === documentName);
  if (!document) return refuse('no-document', `There is no document "${documentName}"; there are ${documents.map((d) => d.name).join(', ')}.`);
  const parameter = Object.values(document.records).find((record) => record.type === 'parameter' && record.name === name);
  if (!parameter) return refuse('no-value', `${document.name} has no parameter ${name}.`);
  const applied = applyEdit(document, { type: 'parameter.setFormula', id: parameter.id, formula: { text } });
  if (!applied.ok) return refuse('no-value', applied.failure.message);
  return { ok: true, documents: documents.map((other) => (other === document ? applied.value.document : other)) };
}

function refuse(code: SetFailure['code'], message: string): { readonly ok: false; readonly failure: SetFailure } {
  return { ok: false, failure: { code, message } };
}
