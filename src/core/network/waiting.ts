/** What a value waits for that reads one without a number. */
import { fullName, type FormulaDiagnostic } from '../formula';
import type { Node } from './node';

interface Formula {
  readonly nodes: readonly (Node | undefined)[];
  readonly names: readonly (Parameters<typeof fullName>[0] & { readonly from: number; readonly to: number })[];
  readonly text: string;
}

/** Names the root cause, at the place in the formula where it comes in. `place`: where the number that is missing lies. */
export function describeWaiting(node: Node, place: number | undefined, { nodes, names, text }: Formula): FormulaDiagnostic {
  const cause = node.reads.map((read) => nodes[read]).find((other) => other?.place === place);
  const span = names.find((name) => fullName(name) === cause?.definition.name) ?? { from: 0, to: text.length };
  const message = cause?.waitsFor ?? `Waiting on ${cause?.definition.name ?? 'another value'}.`;
  return { code: 'waiting', message, from: span.from, to: span.to };
}
