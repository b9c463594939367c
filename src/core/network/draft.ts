/** A formula as it is being typed: what it would be among the values as they are, without becoming one of them. */
import { compileFormula, diagnoseFault, fullName, quantityType, readFormula, type FormulaDiagnostic, type Scope, type Slot } from '../formula';
import type { UnitSystem } from '../units';
import type { InputDefinition, Reading } from './definition';
import { tellCause, type Cause } from './entry';
import { NOTHING } from './finding';
import { hasRules, judge } from './rules';

export interface Draft {
  readonly text: string;
  readonly slot: Slot;
  /** What its bare numbers are read in; the units of the sheet where not given. */
  readonly units?: UnitSystem;
  /** The name of the value that it is typed for. */
  readonly typedFor?: string;
}

/** The values that it is judged among. */
interface Surroundings {
  readonly isName: (name: string) => boolean;
  readonly scope: Scope;
  /** What is under a path of names in other documents. */
  readonly peek: (path: string) => InputDefinition | undefined;
  readonly read: (place: number) => number;
  /** What those wait for who read a value without a number. */
  readonly causeOf: (name: string) => Cause | undefined;
}

export function judgeDraft(draft: Draft, surroundings: Surroundings): Reading {
  const { text, slot, typedFor } = draft;
  const parsed = readFormula(text, surroundings.isName);
  if (!parsed.ok) return refuse(slot, parsed.diagnostics);
  const peeked = new Peeked(surroundings.peek);
  const { scope } = surroundings;
  const result = compileFormula(
    text,
    parsed.node,
    {
      ...scope,
      ...(typedFor === undefined ? {} : { ownName: typedFor }),
      resolve: (name, member) => scope.resolve(name, member) ?? peeked.resolve(fullName({ name, member })),
    },
    slot,
  );
  if (!result.ok) return refuse(slot, result.diagnostics);
  const { typed, type, adopted, typedUnit, isLiteral } = result.compiled;
  const finding = { type, adopted, typedUnit, isLiteral };
  const fault = diagnoseFault(text, typed, (place) => peeked.read(place) ?? surroundings.read(place));
  const fail = (diagnostic: FormulaDiagnostic): Reading => ({ ...finding, value: NaN, diagnostics: [diagnostic] });
  if ('diagnostic' in fault) return fail(fault.diagnostic);
  if ('value' in fault) {
    const rules = { kind: 'formula', name: '', text, slot } as const;
    const verdict = hasRules(rules) ? judge(rules, fault.value, undefined, undefined) : fault.value;
    return typeof verdict === 'number' ? { ...finding, value: verdict, diagnostics: [] } : fail(verdict);
  }
  const place = fault.waitsOn;
  const name = parsed.names.find((node) => {
    const meaning = scope.resolve(node.name, node.member) ?? peeked.resolve(fullName(node));
    return meaning !== undefined && 'slot' in meaning && meaning.slot === place;
  });
  const cause = name && (peeked.causeOf(fullName(name)) ?? surroundings.causeOf(fullName(name)));
  return fail({ code: 'waiting', message: tellCause(cause ?? { root: 'another value' }), from: name?.from ?? 0, to: name?.to ?? text.length });
}

function refuse(slot: Slot, diagnostics: readonly FormulaDiagnostic[]): Reading {
  return { ...NOTHING, value: NaN, type: slot.kind === 'quantity' ? quantityType(slot.dimension) : undefined, diagnostics };
}

/** Values of other documents that nothing reads yet: they have places below 0 for as long as the formula is looked at. */
class Peeked {
  private readonly found: { readonly path: string; readonly definition: InputDefinition }[] = [];

  constructor(private readonly peek: Surroundings['peek']) {}

  resolve(path: string): ReturnType<Scope['resolve']> {
    if (!path.includes('.')) return undefined;
    let at = this.found.findIndex((one) => one.path === path);
    if (at < 0) {
      const definition = this.peek(path);
      if (!definition) return undefined;
      at = this.found.push({ path, definition }) - 1;
    }
    const slot = -1 - at;
    const type = this.found[at]?.definition.type;
    return type ? { kind: 'value', slot, type } : { kind: 'waiting', slot, problem: tellCause(this.causeOf(path) ?? { root: path }) };
  }

  read(place: number): number | undefined {
    return place < 0 ? (this.found[-1 - place]?.definition.value ?? NaN) : undefined;
  }

  causeOf(path: string): Cause | undefined {
    const definition = this.found.find((one) => one.path === path)?.definition;
    if (!definition) return undefined;
    return definition.isPassedOn && definition.problem !== undefined ? { passedOn: definition.problem } : { root: path };
  }
}
