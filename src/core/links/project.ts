/** A whole project evaluated without a server: its documents are their own latest revisions. */
import { applyEdit, findRecord, listIds, listNamed, listRecords, type Document, type DocumentRecord, type Drive, type Edit } from '../document';
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

type SetOutcome = { readonly ok: true; readonly documents: readonly Document[] } | { readonly ok: false; readonly failure: SetFailure };

/**
 * Sets a parameter of one document by text, `Loom sizes.weaving_width=480 mm`, or a value of a component of an assembly by its path,
 * `Loom.unit.wheel_offset=420 mm`. Gives the changed documents, or why the setting does not fit them.
 */
export function applySetting(documents: readonly Document[], setting: string): SetOutcome {
  const equals = setting.indexOf('=');
  const [path, text] = [setting.slice(0, equals).trim(), setting.slice(equals + 1).trim()];
  if (equals < 0 || path.indexOf('.') < 1) return refuse('bad-setting', `"${setting}" is not of the form DOCUMENT.name=formula.`);
  // Names of documents may have dots: the longest that fits is meant.
  const found = documents
    .flatMap((document) => [document.name, document.id].flatMap((name) => (path.startsWith(`${name}.`) ? [{ document, name }] : [])))
    .sort((a, b) => b.name.length - a.name.length)[0];
  if (!found) {
    const [name, names] = [path.slice(0, path.lastIndexOf('.')), documents.map((d) => d.name)];
    return refuse('no-document', `There is no document "${name}".${nameNearest(name, names) || ` There are ${names.join(', ')}.`}`);
  }
  const { document } = found;
  const edit = settingEdit(documents, document, path.slice(found.name.length + 1).trim(), text);
  if ('code' in edit) return { ok: false, failure: edit };
  const applied = applyEdit(document, edit);
  if (!applied.ok) return refuse('no-value', applied.failure.message);
  return { ok: true, documents: documents.map((other) => (other === document ? applied.value.document : other)) };
}

function settingEdit(documents: readonly Document[], document: Document, path: string, text: string): Edit | SetFailure {
  const [first = '', ...rest] = path.split('.').map((name) => name.trim());
  const owner = listRecords(document, 'components', 'component').find(({ name }) => name === first);
  if (owner && rest.length > 0) {
    const ids = idsOf(documents, owner.source, rest);
    if ('code' in ids) return ids;
    const known = listRecords(document, `${owner.id}/drives`, 'drive').find((drive) => drive.path.join(' ') === ids.path.join(' '));
    const drive: Drive = {
      type: 'drive',
      id: known?.id ?? `set-${owner.id}-${ids.path.join('-')}`.slice(0, 40),
      component: owner.id,
      path: [...ids.path],
      sourceName: rest.join('.'),
      formula: { text },
    };
    return { type: 'drive.put', drive };
  }
  const parameter = Object.values(document.records).find((record) => record.type === 'parameter' && record.name === path);
  if (parameter) return { type: 'parameter.setFormula', id: parameter.id, formula: { text } };
  const names = Object.values(document.records).flatMap((record) => (record.type === 'parameter' || record.type === 'component' ? record.name : []));
  return { code: 'no-value', message: `${document.name} has no parameter ${path}.${nameNearest(path, names)}` };
}

/** Ids of the values on a path of names through components. */
function idsOf(documents: readonly Document[], source: string, [name = '', ...rest]: readonly string[]): { readonly path: readonly string[] } | SetFailure {
  const document = documents.find(({ id }) => id === source);
  const record = document && listNamed(document).find((one) => one.name === name);
  const component = document && listRecords(document, 'components', 'component').find((one) => one.name === name);
  if (document && component && rest.length > 0) {
    const below = idsOf(documents, component.source, rest);
    return 'code' in below ? below : { path: [component.id, ...below.path] };
  }
  if (document && record && rest.length === 0) return { path: [record.id] };
  const names = document ? listNamed(document).map((one) => one.name) : [];
  return { code: 'no-value', message: `${document?.name ?? 'Its document'} has no value ${name}.${nameNearest(name, names)}` };
}

function refuse(code: SetFailure['code'], message: string): { readonly ok: false; readonly failure: SetFailure } {
  return { ok: false, failure: { code, message } };
}
