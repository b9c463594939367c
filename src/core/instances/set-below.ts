/** What components without a place set in those beside them, and which of their values that reaches. */
import { isNamed, listRecords, type Document, type DocumentValues, type TakenValue } from '../document';
import type { SetAbove } from './drive-document';
import type { Instance } from './instance';
import { ANYWHERE, reach } from './nodes';
import type { Setter } from './setters';

type SetBy = ReadonlyMap<string, readonly string[]>;
type ByComponent = ReadonlyMap<string, Instance>;

/** What is set in a document that takes it, and by which drives. */
export function setBelow(snapshot: Document, above: readonly Setter[], instances: ByComponent) {
  const values = new Map<string, TakenValue>();
  const setBy = new Map<string, readonly string[]>();
  if (above.length === 0) return { values, setBy };
  for (const link of listRecords(snapshot, 'links', 'link')) {
    const from = above.find(({ set }) => set.source === link.source);
    const instance = from && instances.get(from.component.id);
    if (!from || !instance) continue;
    for (const take of listRecords(snapshot, `${link.id}/takes`, 'take')) {
      const value = from.set.values.get(take.parameter);
      if (!value || value.kind === 'refused') continue;
      values.set(take.id, value);
      setBy.set(take.id, reach(instance, [take.parameter]));
    }
  }
  return { values, setBy };
}

interface Above {
  /** What is passed on to the components of the document. */
  readonly passed: readonly SetAbove[];
  readonly above: readonly Setter[];
}

/** The drives that set a node of the values, by its id there: through sub-assemblies it is a drive of theirs. */
export function nodesSet({ document }: DocumentValues, setBy: SetBy, { passed, above }: Above, instances: ByComponent): SetBy {
  const nodes = new Map<string, readonly string[]>();
  const inner = setBy.size > 0 || passed.length > 0 ? listRecords(document, 'components', 'component') : [];
  for (const [path, drives] of setBy) {
    const [first = '', ...rest] = path.split(' ');
    const record = document.records[first];
    const isCondition = record && !isNamed(record);
    const node =
      rest.length === 0
        ? isCondition
          ? `${first}/suppressed`
          : first
        : listRecords(document, `${first}/drives`, 'drive').find((drive) => drive.path.join(' ') === rest.join(' '))?.id;
    nodes.set(node ?? ANYWHERE, [...(nodes.get(node ?? ANYWHERE) ?? []), ...drives]);
  }
  for (const set of passed) {
    const from = above.find((one) => one.set === set);
    const instance = from && instances.get(from.component.id);
    const component = inner.find(({ source, at }) => source === set.source && at === undefined);
    if (!instance || !component) continue;
    for (const drive of listRecords(document, `${component.id}/drives`, 'drive')) {
      const [value = ''] = drive.path;
      if (set.values.has(value)) nodes.set(drive.id, reach(instance, [value]));
    }
  }
  return nodes;
}
