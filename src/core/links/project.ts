/** A whole project evaluated without a server: its documents are their own latest revisions. */
import { applyEdit, findRecord, listIds, type Document, type DocumentRecord } from '../document';
import { headsOf, openValues } from '../instances';
import { nameNearest } from '../kit';
import { planCatchUp, type CatchUpPlan } from './catch-up';
import { publishValues } from './offered';

/**
 * The documents with every link caught up, and the plan that did it. A value that depends on itself across documents keeps none of
 * the others from being caught up: what is on the circle is left refused, with the path.
 */
export function catchUpProject(documents: readonly Document[]): { readonly documents: readonly Document[]; readonly plan: CatchUpPlan } {
  const source = headsOf(documents);
  const plan = planCatchUp(
    documents.map((document) => ({ document, revision: 0, hash: '', published: publishValues(openValues(document, source)) })),
    new Set(documents.map((document) => document.id)),
    { instances: (planned) => ({ snapshot: (id) => planned(id)?.document, built: () => undefined }) },
  );
  if (plan.ring.some(({ document, id }) => documents.some((one) => one.id === document && findRecord(one, id, 'take')))) {
    const cut = cutRing(documents, plan);
    // What is refused is known now, and closes no circle any more: the rest is planned around it.
    const { documents: caughtUp } = catchUpProject(cut);
    return { documents: caughtUp, plan };
  }
  const after = new Map(plan.documents.map((entry) => [entry.id, entry.after]));
  return { documents: documents.map((document) => after.get(document.id) ?? document), plan };
}

/** The documents with what is taken on the circle refused where it is taken, under a link of its own that is held. */
function cutRing(documents: readonly Document[], { ring, cycle }: CatchUpPlan): Document[] {
  const problem = `It depends on itself: ${[...cycle, ...cycle.slice(0, 1)].join(' → ')}.`;
  return documents.map((document) => {
    const onRing = ring.flatMap(({ document: owner, id }) => (owner === document.id ? (findRecord(document, id, 'take') ?? []) : []));
    const records: Record<string, DocumentRecord> = { ...document.records };
    const lists: Record<string, readonly string[]> = { ...document.lists };
    for (const take of onRing) {
      const link = findRecord(document, take.link, 'link');
      if (!link) continue;
      const held = `${HELD}${take.id}`;
      records[held] = { ...link, id: held, policy: 'hold' };
      records[take.id] = { ...take, link: held, value: { kind: 'refused', problem } };
      lists['links'] = [...(lists['links'] ?? []), held];
      lists[`${link.id}/takes`] = listIds(document, `${link.id}/takes`).filter((id) => id !== take.id);
      lists[`${held}/takes`] = [take.id];
    }
    return onRing.length === 0 ? document : { ...document, records, lists };
  });
}

/** Ids of the links that hold what is on a circle begin so. */
const HELD = 'on-circle-';

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
  if (!document) {
    const names = documents.map((d) => d.name);
    return refuse('no-document', `There is no document "${documentName}".${nameNearest(documentName, names) || ` There are ${names.join(', ')}.`}`);
  }
  const parameter = Object.values(document.records).find((record) => record.type === 'parameter' && record.name === name);
  if (!parameter) {
    const names = Object.values(document.records).flatMap((record) => (record.type === 'parameter' ? record.name : []));
    return refuse('no-value', `${document.name} has no parameter ${name}.${nameNearest(name, names)}`);
  }
  const applied = applyEdit(document, { type: 'parameter.setFormula', id: parameter.id, formula: { text } });
  if (!applied.ok) return refuse('no-value', applied.failure.message);
  return { ok: true, documents: documents.map((other) => (other === document ? applied.value.document : other)) };
}

function refuse(code: SetFailure['code'], message: string): { readonly ok: false; readonly failure: SetFailure } {
  return { ok: false, failure: { code, message } };
}
