/**
 * Words for values that have no number: made when somebody asks, never while numbers are computed.
 *
 * What is wrong with a value in itself, or which of the values that it reads has no number, is found by going over its formula once more with
 * the numbers that are there; it holds until the value is computed again. What it waits for in the end is looked up along that way.
 */
import { diagnoseFault, fullName, type FormulaDiagnostic } from '../formula';
import { invariant } from '../kit';
import { tellCause, type Cause, type Entry } from './entry';
import { typedFormula, type Program } from './program';
import { boundOf } from './bounds';
import { judge } from './rules';

/** What is wrong with the value itself; or the value, by its index, without which it cannot be, and where that stands in its formula. */
export type Trouble = { readonly own: FormulaDiagnostic } | { readonly waitsOn: number | undefined; readonly from: number; readonly to: number };

/** Why a value whose formula compiles has no number. */
export function findTrouble(program: Program, numbers: Float64Array, index: number): Trouble {
  const { entries } = program;
  const entry = entries[index];
  const formula = typedFormula(program, index);
  invariant(entry?.definition.kind === 'formula' && formula !== undefined, () => `${entry?.definition.name ?? 'A value'} ran but does not compile`);
  const { definition } = entry;
  const fault = diagnoseFault(definition.text, formula.typed, (place) => numbers[place] ?? NaN);
  if ('diagnostic' in fault) return { own: fault.diagnostic };
  if ('value' in fault) {
    const verdict = judge(definition, fault.value, boundOf(program, entry, definition.least, numbers), boundOf(program, entry, definition.most, numbers));
    invariant(typeof verdict !== 'number', () => `${definition.name} has a number that was not kept`);
    return { own: verdict };
  }
  const waitsOn = entry.reads.find((read) => entries[read]?.place === fault.waitsOn);
  const name = waitsOn === undefined ? undefined : entries[waitsOn]?.definition.name;
  const span = formula.names.find((node) => fullName(node) === name);
  return { waitsOn, from: span?.from ?? 0, to: span?.to ?? definition.text.length };
}

/** The troubles of one living state: what was found of a value is kept until it is computed again. */
export class Troubles {
  private readonly found = new Map<number, Trouble>();
  /** What values wait for, and what is said of them, until any number moves. */
  private readonly causes = new Map<number, Cause>();
  private told = new Map<number, readonly FormulaDiagnostic[]>();
  private toldBefore = new Map<number, readonly FormulaDiagnostic[]>();

  /** To be told of each value that was computed, or compiled, anew. */
  forget(index: number): void {
    this.found.delete(index);
  }

  /** To be told once anything has moved. */
  moveOn(): void {
    this.causes.clear();
    if (this.told.size === 0) return;
    this.toldBefore = this.told;
    this.told = new Map();
  }

  /** What is wrong with a value, in words for its formula: of one whose number is not a number, or whose formula does not compile. */
  tell(program: Program, numbers: Float64Array, index: number, entry: Entry): readonly FormulaDiagnostic[] {
    if (entry.finding.diagnostics.length > 0) return entry.finding.diagnostics;
    const known = this.told.get(index);
    if (known) return known;
    const trouble = this.troubleOf(program, numbers, index);
    const said = 'own' in trouble ? trouble.own : this.waiting(program, numbers, trouble);
    // The same words stay the same object: whoever compares sees that nothing is new.
    const before = this.toldBefore.get(index);
    const diagnostics = before?.[0] && isSame(before[0], said) ? before : [said];
    this.told.set(index, diagnostics);
    return diagnostics;
  }

  /** What those who read a value without a number wait for. */
  causeOf(program: Program, numbers: Float64Array, index: number): Cause {
    const passed: number[] = [];
    let at = index;
    let cause = this.causes.get(at);
    while (!cause) {
      const entry = program.entries[at];
      passed.push(at);
      if (!entry) cause = { root: 'another value' };
      else if (entry.cause) ({ cause } = entry);
      else if (entry.finding.diagnostics.length > 0 || entry.how !== 'run') cause = { root: entry.definition.name };
      else {
        const trouble = this.troubleOf(program, numbers, at);
        if ('own' in trouble || trouble.waitsOn === undefined) cause = { root: entry.definition.name };
        else {
          at = trouble.waitsOn;
          cause = this.causes.get(at);
        }
      }
    }
    for (const one of passed) this.causes.set(one, cause);
    return cause;
  }

  private waiting(program: Program, numbers: Float64Array, { waitsOn, from, to }: Extract<Trouble, { readonly from: number }>): FormulaDiagnostic {
    const cause: Cause = waitsOn === undefined ? { root: 'another value' } : this.causeOf(program, numbers, waitsOn);
    return { code: 'waiting', message: tellCause(cause), from, to };
  }

  private troubleOf(program: Program, numbers: Float64Array, index: number): Trouble {
    const known = this.found.get(index);
    if (known) return known;
    const trouble = findTrouble(program, numbers, index);
    this.found.set(index, trouble);
    return trouble;
  }
}

function isSame(a: FormulaDiagnostic, b: FormulaDiagnostic): boolean {
  return a.code === b.code && a.message === b.message && a.from === b.from && a.to === b.to;
}
