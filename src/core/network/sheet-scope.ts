/** What names mean in the formulas of a sheet. */
import type { Meaning, Scope } from '../formula';
import { fullName } from '../formula';
import type { UnitSystem } from '../units';
import type { CodeStore } from './code-store';
import type { Outside } from './definition';
import type { NameTable } from './name-table';
import type { Node } from './node';

interface SheetNames {
  readonly nodes: readonly (Node | undefined)[];
  readonly names: NameTable;
  readonly store: CodeStore;
  readonly outside: Outside | undefined;
}

/** The scope of a formula whose bare numbers take these units. */
export function makeScope({ nodes, names, store, outside }: SheetNames, units: UnitSystem): Scope {
  return {
    units,
    resolve: (name, member) => {
      const index = names.find(fullName({ name, member }));
      const node = index === undefined ? undefined : nodes[index];
      return node && meaningOf(node);
    },
    listNames: () => new Set([...names.names(), ...(outside?.listPaths() ?? [])]),
    textNumber: (text) => store.textNumber(text),
  };
}

function meaningOf(node: Node): Meaning {
  if (node.definition.kind === 'table') return { kind: 'table', table: node.definition.table };
  const { type } = node.finding;
  if (type) return { kind: 'value', slot: node.place, type };
  return { kind: 'waiting', slot: node.place, root: node.waitsFor?.replace(/^Waiting on (.*)\.$/, '$1') ?? node.definition.name };
}
