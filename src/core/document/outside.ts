/** What the values of a document ask of outside calculations, and what they make of the answers that are kept. */
import { quantityType, type Slot } from '../formula';
import { sameData } from '../kit';
import type { Definition, InputDefinition, Sheet } from '../network';
import { inUnit, kindDimension, parseUnit, PLAIN, QUANTITY_KINDS, systemUnit, type Dimension } from '../units';
import { findRecord, listRecords } from './access';
import { hashOfContent } from './file-content';
import type { Amount, Answer, Asked, OutsideCalculation } from './outside-schema';
import { stableJson } from './project-file';
import type { Document, Parameter } from './schema';

/** An outside calculation with the numbers that its inputs have now. */
export interface Question {
  /** Equal for equal questions, whoever asks. */
  readonly key: string;
  readonly outside: string;
  readonly name: string;
  readonly asked: Asked;
  readonly inputs: Readonly<Record<string, Amount>>;
  /** What is to come back, and in what unit a bare number is. */
  readonly outputs: readonly { readonly key: string; readonly kind: string; readonly unit: string }[];
  /** Ids of the components, outermost first, in which it is asked. */
  readonly within: readonly string[];
}

/** The values that the inputs stand among. */
interface Host {
  readonly document: Document;
  readonly sheet: Pick<Sheet, 'read'>;
}

/** How an outside calculation stands: `waiting` for its inputs; `open` without any answer; `held` with one for other inputs. */
export type OutsideState =
  | { readonly is: 'waiting'; readonly problem: string }
  | { readonly is: 'open' | 'held' | 'answered'; readonly question: Question; readonly answer: Answer | undefined };

/** The node of an input among the values. */
export function inputNode(outside: string, key: string): string {
  return `${outside}/in ${key}`;
}

/** The dimension of a kind of value; that of a plain number for one that is no quantity. */
function dimensionOf(kind: string): Dimension {
  const known = QUANTITY_KINDS.find((candidate) => candidate === kind);
  return known ? kindDimension(known) : PLAIN;
}

/** `in a unit of length`, `a plain number`. */
export function unitWords(kind: string): string {
  return dimensionOf(kind) === PLAIN ? 'a plain number' : `in a unit of ${kind}`;
}

export function slotOfInput({ name }: OutsideCalculation, input: OutsideCalculation['inputs'][number]): Slot {
  return { kind: 'quantity', dimension: dimensionOf(input.kind), isCount: input.kind === 'count', label: `${input.key} of ${name}` };
}

/** The outputs of an outside calculation that are values of the document; it owns them. */
export function outputsOf(document: Document, outside: string): Parameter[] {
  return listRecords(document, `${outside}/values`, 'parameter');
}

/** What all outside calculations of a document hand back. */
export function listOutputs(document: Document): Parameter[] {
  return listOutside(document).flatMap(({ id }) => outputsOf(document, id));
}

export function listOutside(document: Document): OutsideCalculation[] {
  return listRecords(document, 'outsides', 'outside');
}

/** The answer to a question that is asked in the document itself; the latest one to another question where there is none. */
function findAnswer(document: Document, outside: string, question: string): Answer | undefined {
  const own = listRecords(document, 'answers', 'answer').filter((answer) => answer.outside === outside && answer.within.length === 0);
  return own.find((answer) => answer.question === question) ?? own.at(-1);
}

/** The outside calculations among the values of one document. */
export class OutsideValues {
  private readonly known = new Map<string, OutsideCalculation>();
  /** What the sheet was told of each output. */
  private readonly told = new Map<string, InputDefinition>();
  /** Keys of questions, by what they are made of: a hash is not made twice. */
  private readonly asked = new Map<string, { readonly made: unknown; readonly question: Question }>();

  constructor(private readonly values: Host) {}

  put(outside: OutsideCalculation): void {
    this.known.set(outside.id, outside);
  }

  drop(id: string): void {
    this.known.delete(id);
    this.asked.delete(id);
    this.told.delete(id);
  }

  /** What the sheet holds for an output: as it was told last, under its present name. */
  define(output: Parameter): Definition {
    const told = this.told.get(output.id) ?? this.describe(output, undefined);
    return { ...told, name: output.name };
  }

  /** Brings the outputs up to what the sheet says of the inputs; those that came out different. */
  update(): ReadonlyMap<string, Definition> {
    const changed = new Map<string, Definition>();
    if (this.known.size === 0) return changed;
    const { document } = this.values;
    for (const { id } of this.known.values()) {
      const state = this.stateOf(id);
      for (const output of outputsOf(document, id)) {
        const definition = this.describe(output, state);
        if (sameData(this.told.get(output.id), definition)) continue;
        this.told.set(output.id, definition);
        changed.set(output.id, definition);
      }
    }
    return changed;
  }

  /** What an input must be; undefined where there is none. */
  slotOf(id: string, key: string): Slot | undefined {
    const outside = this.known.get(id);
    const input = outside?.inputs.find((one) => one.key === key);
    return outside && input && slotOfInput(outside, input);
  }

  /** How one stands now; undefined where there is none of that id. */
  stateOf(id: string): OutsideState | undefined {
    const outside = this.known.get(id);
    if (!outside) return undefined;
    const inputs: Record<string, Amount> = {};
    for (const input of outside.inputs) {
      const reading = this.values.sheet.read(inputNode(id, input.key));
      const [problem] = reading?.diagnostics ?? [];
      const unit = parseUnit(input.unit) ?? systemUnit(this.values.document.units, dimensionOf(input.kind));
      if (!reading || problem || !Number.isFinite(reading.value))
        return { is: 'waiting', problem: problem?.code === 'waiting' ? problem.message : `Its input ${input.key} has an error.` };
      inputs[input.key] = { value: inUnit(reading.value, unit), unit: unit.symbol };
    }
    const question = this.question(outside, inputs);
    const answer = findAnswer(this.values.document, id, question.key);
    if (!answer) return { is: 'open', question, answer };
    return { is: answer.question === question.key ? 'answered' : 'held', question, answer };
  }

  private question(outside: OutsideCalculation, inputs: Readonly<Record<string, Amount>>): Question {
    const { asked, outputs } = outside;
    const made = { asked, file: fileHash(this.values.document, asked), inputs, outputs };
    const before = this.asked.get(outside.id);
    if (before && sameData(before.made, made) && before.question.name === outside.name) return before.question;
    const key = hashOfContent(stableJson(made)).slice(0, 40);
    const question: Question = { key, outside: outside.id, name: outside.name, asked, inputs, outputs, within: [] };
    this.asked.set(outside.id, { made, question });
    return question;
  }

  private describe(output: Parameter, state: OutsideState | undefined): InputDefinition {
    const { measure, kind } = output;
    if (measure?.of !== 'outside') throw new Error(`${output.name} is no output of an outside calculation.`);
    const outside = this.known.get(measure.outside);
    const reads = (outside?.inputs ?? []).map((input) => inputNode(measure.outside, input.key));
    const refuse = (problem: string): InputDefinition => ({ kind: 'input', name: output.name, type: undefined, value: NaN, problem, reads });
    const name = outside?.name ?? 'Its outside calculation';
    if (!outside || state === undefined) return { ...refuse(`${name} has not been asked yet.`), type: quantityType(dimensionOf(kind)) };
    if (state.is === 'waiting') return { ...refuse(state.problem), type: quantityType(dimensionOf(kind)) };
    if (!state.answer) return { ...refuse(`${name} has not answered yet.`), type: quantityType(dimensionOf(kind)) };
    const amount = Object.hasOwn(state.answer.outputs, measure.output) ? state.answer.outputs[measure.output] : undefined;
    const unit = amount && parseUnit(amount.unit);
    if (!amount) return refuse(`${name} gave no ${measure.output}.`);
    const dimension = unit?.dimension ?? PLAIN;
    if (unit?.offset !== undefined || dimension !== dimensionOf(kind))
      return refuse(`${name} gave ${measure.output} in ${amount.unit || 'no unit'}: it should be ${unitWords(kind)}.`);
    return {
      kind: 'input',
      name: output.name,
      type: quantityType(dimension),
      value: amount.value * (unit?.size ?? 1),
      ...(unit && amount.unit !== '' ? { unit } : {}),
      ...(state.is === 'held' || amount.stored !== undefined ? { isHeld: true } : {}),
      reads,
    };
  }
}

/** What tells the spreadsheet from another of the same name. */
function fileHash(document: Document, asked: Asked): string {
  const file = asked.of === 'spreadsheet' ? findRecord(document, asked.file, 'file') : undefined;
  return file?.hash ?? (file?.content === undefined ? '' : hashOfContent(file.content));
}

/** The answers that a component has here, as its own document would hold them. */
export function answersWithin(document: Document, component: string): Answer[] {
  return listRecords(document, 'answers', 'answer').flatMap((answer) =>
    answer.within[0] === component ? [{ ...answer, within: answer.within.slice(1) }] : [],
  );
}
