/**
 * Steps taken out of a part and put into it again, into another part, or into one of another project. A clip is
 * complete in itself: steps with the sketches and planes that they stand on, their values, and what outside values
 * they read, with the number that each had.
 */
import * as z from 'zod/mini';
import { renameInFormula } from '../formula';
import { fail, succeed, type Result } from '../kit';
import { findAny, findNamed, findRecord, isStep, listIds, listRecords, listSteps } from './access';
import type { EditFailure } from './edit-failure';
import type { Edit, EditOf } from './edit-schema';
import { mapFormulas } from './formulas-in';
import { takenNames } from './naming';
import { recordSchema } from './schema';
import { id, LIMITS, text } from './schema-parts';
import type { Body, Document, DocumentRecord, Entity, Formula, Parameter, SketchConstraint, SketchDimension, SketchRepeat, StoredFile } from './schema';
import { allBodiesUnder, allStepsUnder } from './sketch-sources';
import { bodyOf, sketchesOf, startedBodies, startsBody } from './step-kinds';
import type { Step } from './step-schema';
import type { DocumentValues } from './values';

/** A value that copied formulas read and that was not copied. */
export interface OutsideValue {
  readonly name: string;
  /** Reads back as the value that it had. */
  readonly exact: string;
}

export interface StepClip {
  readonly format: 'steps';
  /** The document that it was taken from. */
  readonly document: string;
  readonly steps: readonly string[];
  readonly records: readonly DocumentRecord[];
  readonly lists: Readonly<Record<string, readonly string[]>>;
  readonly outside: readonly OutsideValue[];
}

/** Steps as a clip, with the sketches and planes under them. */
export function clipSteps(values: DocumentValues, ids: readonly string[]): StepClip {
  const { document } = values;
  const wanted = new Set(ids);
  for (const step of [...listSteps(document)].reverse()) if (wanted.has(step.id)) for (const under of allStepsUnder(document, step)) wanted.add(under);
  const steps = listSteps(document).filter(({ id }) => wanted.has(id));
  const lists: Record<string, readonly string[]> = {};
  const records: DocumentRecord[] = [];
  const take = (id: string): void => {
    const record = findAny(document, id);
    if (record) records.push(record);
  };
  for (const step of steps) {
    records.push(step);
    for (const part of ['values', 'entities', 'constraints']) {
      const list = listIds(document, `${step.id}/${part}`);
      if (list.length > 0) lists[`${step.id}/${part}`] = list;
      list.forEach(take);
    }
    startedBodies(step).forEach(take);
    if (step.type === 'import') take(step.file);
    if (step.type === 'from-part') {
      take(step.component);
      const drives = listIds(document, `${step.component}/drives`);
      if (drives.length > 0) lists[`${step.component}/drives`] = drives;
      drives.forEach(take);
    }
  }
  return { format: 'steps', document: document.id, steps: steps.map(({ id }) => id), records, lists, outside: readOutside(values, records) };
}

function readOutside(values: DocumentValues, records: readonly DocumentRecord[]): OutsideValue[] {
  const inside = new Set(records.map(({ id }) => id));
  const found = new Map<string, OutsideValue>();
  for (const record of records) {
    mapFormulas(record, (formula) => {
      renameInFormula(formula.text, (name) => {
        const read = findNamed(values.document, name);
        if (read && !inside.has(read.id)) found.set(name, { name, exact: values.show(read.id)?.exact ?? '' });
        return undefined;
      });
      return formula;
    });
  }
  return [...found.values()];
}

export interface PasteChoices {
  readonly newId: () => string;
  /** Names of outside values that stay read by name; the others become numbers. */
  readonly tied: ReadonlySet<string>;
  /** The body that steps work on whose own body was not copied. */
  readonly body: string | undefined;
  /** Formulas that copied values have instead of their own, by the names of the originals. */
  readonly formulas?: ReadonlyMap<string, string>;
  /** How far the copy is set beside the original along x, in millimetres. */
  readonly beside: number;
}

type SingleEdit = Exclude<Edit, EditOf<'batch'>>;

/** The edit that puts a clip into a document, after all its steps; and the ids of the new steps. */
export function pasteSteps(
  document: Document,
  clip: StepClip,
  choices: PasteChoices,
): Result<{ readonly edit: Edit; readonly steps: readonly string[]; readonly loosened: number }, EditFailure> {
  const refusal = findObstacle(document, clip, choices);
  if (refusal) return fail({ code: 'bad-reference', message: refusal });
  return succeed(new Paste(document, clip, choices).make());
}

/** What the values of a clip are called in a document that it is put into, by the names of the originals; of what is measured none are given here. */
export function namesOfCopies(document: Document, clip: StepClip): ReadonlyMap<string, string> {
  const names = new Paste(document, clip, { newId: () => '', tied: new Set(), body: undefined, beside: 0 }).names;
  return new Map(clip.records.flatMap((record) => (record.type === 'parameter' ? [[record.name, names.get(record.name) ?? record.name]] : [])));
}

/** Why a clip cannot be put into a document; undefined when it can. */
function findObstacle(document: Document, clip: StepClip, { tied, body }: PasteChoices): string | undefined {
  const isHere = clip.document === document.id;
  const copied = new Set(clip.records.flatMap((record) => (record.type === 'body' ? record.id : [])));
  for (const step of stepsOf(clip)) {
    const own = bodyOf(step);
    const works = own !== undefined && !copied.has(own);
    if (works && ['fillet', 'chamfer', 'shell', 'draft'].includes(step.type))
      return `${step.name} works on edges or faces of a body; copy the step that starts that body as well.`;
    if (works && findRecord(document, body ?? '', 'body') === undefined) return `${step.name} works on a body; there is none here yet.`;
    if (isHere) continue;
    const foreign = allBodiesUnder(document, step).find((id) => !copied.has(id));
    if (foreign !== undefined) return `${step.name} stands on a body that was not copied; copy the step that starts that body as well.`;
  }
  const lacking = clip.outside.find(({ name, exact }) => (tied.has(name) ? !findNamed(document, name) : exact === ''));
  if (!lacking) return undefined;
  return tied.has(lacking.name)
    ? `There is no value ${lacking.name} here to stay tied to.`
    : `${lacking.name} has an error where it comes from, so there is no number to take.`;
}

function stepsOf(clip: StepClip): Step[] {
  return clip.records.filter(isStep);
}

/** Fields whose words are choices, never ids. */
const CHOICES = new Set([
  'type',
  'name',
  'kind',
  'form',
  'extent',
  'operation',
  'spread',
  'turn',
  'keep',
  'material',
  'density',
  'colour',
  'of-what',
  'what',
  'suppressed',
  'note',
  'choices',
  'displayUnit',
  'fit',
]);

class Paste {
  private readonly ids = new Map<string, string>();
  readonly names = new Map<string, string>();
  private loosened = 0;
  private readonly edits: SingleEdit[] = [];

  constructor(
    private readonly document: Document,
    private readonly clip: StepClip,
    private readonly choices: PasteChoices,
  ) {
    const isTaken = takenNames(document);
    const used = new Set<string>();
    const free = (wanted: string, taken: (name: string) => boolean, join: string): string => {
      let name = wanted;
      for (let n = 2; taken(name) || used.has(name); n++) name = `${wanted}${join}${n}`;
      used.add(name);
      return name;
    };
    const stepNames = new Set(listSteps(document).map(({ name }) => name));
    const bodyNames = new Set(listRecords(document, 'bodies', 'body').map(({ name }) => name));
    for (const record of clip.records) {
      if (record.type !== 'file') this.ids.set(record.id, choices.newId());
      if (record.type === 'parameter' || record.type === 'component') this.names.set(record.name, free(record.name, isTaken, '_'));
      if (isStep(record))
        this.names.set(
          `step ${record.id}`,
          free(record.name, (name) => stepNames.has(name), ' '),
        );
      if (record.type === 'body')
        this.names.set(
          `body ${record.id}`,
          free(record.name, (name) => bodyNames.has(name), ' '),
        );
    }
  }

  make(): { readonly edit: Edit; readonly steps: readonly string[]; readonly loosened: number } {
    const steps = stepsOf(this.clip);
    const shifted = this.sketchesBeside(steps);
    for (const step of steps) this.addStep(step, shifted.has(step.id));
    const placed =
      this.clip.document === this.document.id
        ? steps.flatMap((step) => (startsBody(step) && step.type !== 'place' ? this.placeBeside(bodyOf(step) ?? '') : []))
        : [];
    return { edit: { type: 'batch', edits: this.edits }, steps: [...steps.map(({ id }) => this.idOf(id)), ...placed], loosened: this.loosened };
  }

  /** Sketches whose copies are drawn beside: those of steps that work on a body which is not copied. */
  private sketchesBeside(steps: readonly Step[]): Set<string> {
    if (this.clip.document !== this.document.id) return new Set();
    const moved = new Set<string>();
    for (const step of steps) if (bodyOf(step) !== undefined && !this.ids.has(bodyOf(step) ?? '')) for (const id of sketchesOf(step)) moved.add(id);
    const alone = steps.filter(({ id, type }) => type === 'sketch' && !steps.some((other) => sketchesOf(other).includes(id)));
    for (const { id } of alone) moved.add(id);
    for (const step of steps) if (startsBody(step)) for (const id of sketchesOf(step)) moved.delete(id);
    return moved;
  }

  private addStep(step: Step, isBeside: boolean): void {
    const { clip } = this;
    const values = this.recordsOf(`${step.id}/values`, 'parameter').map((value) => this.copyParameter(value));
    const bodies = startedBodies(step).flatMap((id): Body[] => {
      const body = clip.records.find((record) => record.id === id);
      return body?.type === 'body'
        ? [{ ...this.copy(body), name: this.names.get(`body ${id}`) ?? body.name, ...(body.density ? { density: this.copyFormula(body.density) } : {}) }]
        : [];
    });
    const copied = this.copy(step);
    const own = bodyOf(step);
    const target = own !== undefined && !this.ids.has(own) ? { body: this.choices.body } : {};
    const suppressed = copied.suppressed ? { suppressed: this.copyFormula(copied.suppressed) } : {};
    const named = {
      ...copied,
      ...target,
      ...suppressed,
      name: this.names.get(`step ${step.id}`) ?? step.name,
      ...(step.type === 'from-part' ? { of: step.of } : {}),
    } as Step;
    const file = step.type === 'import' ? clip.records.find((record): record is StoredFile => record.id === step.file && record.type === 'file') : undefined;
    const [body] = bodies;
    if (step.type === 'from-part') this.addPart(step.component);
    this.edits.push({ type: 'step.add', step: named, values: step.type === 'sketch' ? [] : values, ...(body ? { body } : {}), ...(file ? { file } : {}) });
    if (step.type === 'sketch') this.drawSketch(step.id, values, isBeside);
  }

  /** The part that a step starts from, once more, with the values that it is given. */
  private addPart(id: string): void {
    const original = this.clip.records.find((record) => record.id === id);
    if (original?.type !== 'component' || this.edits.some((edit) => edit.type === 'component.put' && edit.component.id === this.idOf(id))) return;
    const size = original.size ? { size: this.copyFormula(original.size) } : {};
    this.edits.push({ type: 'component.put', component: { ...original, ...size, id: this.idOf(id), name: this.names.get(original.name) ?? original.name } });
    for (const drive of this.recordsOf(`${id}/drives`, 'drive'))
      this.edits.push({ type: 'drive.put', drive: { ...drive, id: this.idOf(drive.id), component: this.idOf(id), formula: this.copyFormula(drive.formula) } });
  }

  private drawSketch(sketch: string, values: readonly Parameter[], isBeside: boolean): void {
    const originals = this.clip.records.filter(
      (record): record is Entity => 'sketch' in record && record.sketch === sketch && ['point', 'line', 'circle', 'arc'].includes(record.type),
    );
    const held = new Set(['origin', 'x-axis', 'y-axis', ...originals.flatMap((entity) => (entity.from ? entity.id : []))]);
    const stays = <T extends { readonly on: readonly string[] }>(all: readonly T[]): T[] => {
      const kept = isBeside ? all.filter(({ on }) => !on.some((id) => held.has(id))) : [...all];
      this.loosened += all.length - kept.length;
      return kept;
    };
    const dimensions = stays(this.recordsOf(`${sketch}/constraints`, 'dimension')).map((one): SketchDimension => {
      const { at } = one;
      return { ...this.copy(one), at: isBeside ? [at[0] + this.choices.beside, at[1]] : [at[0], at[1]] };
    });
    const constraints = stays(this.recordsOf(`${sketch}/constraints`, 'constraint')).map((one): SketchConstraint => this.copy(one));
    const repeats = this.recordsOf(`${sketch}/constraints`, 'repeat').map((one): SketchRepeat => this.copy(one));
    const used = new Set([...dimensions.map(({ parameter }) => parameter), ...repeats.flatMap(({ count, spacing }) => [count, spacing])]);
    this.edits.push({
      type: 'sketch.draw',
      sketch: this.idOf(sketch),
      entities: originals.map((entity) => this.copyEntity(entity, isBeside)),
      constraints,
      dimensions,
      ...(repeats.length > 0 ? { repeats } : {}),
      values: values.filter(({ id, measure }) => used.has(id) || measure !== undefined),
    });
  }

  private copyEntity(entity: Entity, isBeside: boolean): Entity {
    const copied = this.copy(entity);
    const placed = copied.type === 'point' && isBeside ? { ...copied, x: copied.x + this.choices.beside } : copied;
    const { from, ...rest } = placed;
    if (from === undefined) return placed;
    // What was taken from a body that is not here, or does not move along, is left as construction.
    const isReachable = 'sketch' in from || findAny(this.document, from.body) !== undefined || [...this.ids.values()].includes(from.body);
    return isReachable && !isBeside ? placed : { ...rest, isConstruction: true };
  }

  /** The new body set beside the original, by named values. */
  private placeBeside(body: string): string[] {
    const id = this.choices.newId();
    const name = this.names.get(`body ${body}`) ?? 'Copy';
    const isTaken = takenNames(this.document);
    const values = (['x', 'y', 'z'] as const).map((slot): Parameter => {
      const base = `${name.toLowerCase().replace(/[^\p{L}\p{Nd}]+/gu, '_')}_${slot}`;
      let free = base;
      for (let n = 2; isTaken(free) || [...this.names.values()].includes(free); n++) free = `${base}_${n}`;
      this.names.set(`place ${body} ${slot}`, free);
      return {
        type: 'parameter',
        id: this.choices.newId(),
        owner: id,
        name: free,
        formula: { text: slot === 'x' ? `${this.choices.beside} mm` : '0 mm' },
        kind: 'length',
      };
    });
    const step: Step = {
      type: 'place',
      id,
      name: `${name} set beside`,
      body: this.idOf(body),
      values: Object.fromEntries(values.map((value, i) => [['x', 'y', 'z'][i] ?? '', value.id])),
    };
    this.edits.push({ type: 'step.add', step, values });
    return [id];
  }

  private recordsOf<T extends DocumentRecord['type']>(list: string, type: T): Extract<DocumentRecord, { readonly type: T }>[] {
    const wanted = new Set(this.clip.lists[list] ?? []);
    return this.clip.records.filter((record): record is Extract<DocumentRecord, { readonly type: T }> => record.type === type && wanted.has(record.id));
  }

  private idOf(id: string): string {
    return this.ids.get(id) ?? id;
  }

  private copyParameter(parameter: Parameter): Parameter {
    const copied = this.copy(parameter);
    const own = this.choices.formulas?.get(parameter.name);
    const named = { ...copied, name: this.names.get(parameter.name) ?? parameter.name };
    const copiedFormulas = mapFormulas(named, (formula) => this.copyFormula(formula));
    const withFormulas = own === undefined || copiedFormulas.type !== 'parameter' ? copiedFormulas : { ...copiedFormulas, formula: { text: own } };
    return withFormulas.type === 'parameter' ? withFormulas : copied;
  }

  private copyFormula(formula: Formula): Formula {
    const numbers = new Map(this.clip.outside.map(({ name, exact }) => [name, exact]));
    const text = renameInFormula(formula.text, (name) => {
      const renamed = this.renamed(name);
      if (renamed !== undefined) return renamed;
      const number = numbers.get(name);
      if (number === undefined || this.choices.tied.has(name)) return undefined;
      return formula.text.trim() === name ? number : `(${number})`;
    });
    return text === formula.text ? formula : { ...formula, text };
  }

  /** A value of the clip, or a path into a part that it has. */
  private renamed(name: string): string | undefined {
    const [first = '', ...rest] = name.split('.');
    const renamed = this.names.get(first);
    return renamed === undefined ? undefined : [renamed, ...rest].join('.');
  }

  /** The record with every id in it exchanged, in names of faces and edges too. */
  private copy<T extends DocumentRecord>(record: T): T {
    return this.exchange(record) as T;
  }

  private exchange(data: unknown, key = ''): unknown {
    if (typeof data === 'string') return CHOICES.has(key) ? data : this.exchangeText(data);
    if (Array.isArray(data)) return data.map((part: unknown) => this.exchange(part, key));
    if (typeof data !== 'object' || data === null) return data;
    return Object.fromEntries(
      Object.entries(data).map(([name, part]: [string, unknown]) => [name, isFormula(part) || CHOICES.has(name) ? part : this.exchange(part, name)]),
    );
  }

  private exchangeText(text: string): string {
    return this.ids.get(text) ?? (/[/(|]/.test(text) ? text.replace(/[\w-]+/g, (token) => this.ids.get(token) ?? token) : text);
  }
}

/** Words of a formula are never ids. */
function isFormula(data: unknown): boolean {
  return typeof data === 'object' && data !== null && 'text' in data;
}

const clipSchema = z.strictObject({
  format: z.literal('steps'),
  document: id,
  steps: z.array(id).check(z.minLength(1), z.maxLength(500)),
  records: z.array(recordSchema).check(z.maxLength(LIMITS.records)),
  lists: z.record(z.string().check(z.maxLength(90)), z.array(id).check(z.maxLength(LIMITS.listLength))),
  outside: z.array(z.strictObject({ name: text, exact: text })).check(z.maxLength(LIMITS.records)),
});

/** A clip from text, such as the clipboard's; undefined for anything else. */
export function readStepClip(source: string): StepClip | undefined {
  try {
    const read = clipSchema.safeParse(JSON.parse(source));
    return read.success ? read.data : undefined;
  } catch {
    return undefined;
  }
}
