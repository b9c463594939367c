/** What the page of one document shows of it: selection, folded steps, the sketch being edited. */
import { createStore, type StoreApi } from 'zustand/vanilla';
import type { LinkableValue } from '@/contract';
import type { Document, Edit, Readers, StepClip, TakenValue } from '@/core/document';
import type { LooseEnd } from '@/core/loose-ends';
import { NEW_VALUE } from './ledger-rows';
import { WHOLE_LEDGER, type LedgerView } from './ledger-view';
import type { MateDraft, StepDraft } from './drafts';

/** A deletion that waits for the choice of what becomes of the readers. */
export interface Removal {
  /** What is to be done, as a sentence without a full stop: `Delete side_gap`. */
  readonly title: string;
  readonly makeEdit: (readers: Readers) => Edit;
  /** Records with formulas that read what goes. */
  readonly readers: readonly string[];
  /** Whether the values can stay as user parameters. */
  readonly canKeep: boolean;
  /** The choice that puts numbers in; undefined when some value has none. */
  readonly numbers: Readers | undefined;
}

/** A question about something that the user may not expect. */
export interface Question {
  readonly title: string;
  readonly words: string;
  readonly lines: readonly string[];
  readonly answers: readonly { readonly label: string; readonly run: () => void }[];
}

export type Task =
  | { readonly kind: 'catch-up' }
  | { readonly kind: 'history' }
  /** The table of sizes. */
  | { readonly kind: 'sizes' }
  /** Other values side by side; about one of them. */
  | { readonly kind: 'what-ifs'; readonly value?: string }
  /** What values are to come to, found by others. */
  | { readonly kind: 'goals' }
  /** Every value with a tolerance at a limit of its own, and the results beside one another. */
  | { readonly kind: 'limits' }
  /** All keys. */
  | { readonly kind: 'keys' }
  /** What a value may be off by. */
  | { readonly kind: 'stack'; readonly value: string }
  /** A value run through a range; together with another; several for the least of one. */
  | { readonly kind: 'range' | 'map' | 'minimise'; readonly value: string }
  /** Documents of the project to be put into the assembly, or one of them in the place of a component's. */
  | { readonly kind: 'add-component'; readonly instead?: string }
  /** A service or a spreadsheet that computes with values of the document. */
  | { readonly kind: 'outside' }
  | { readonly kind: 'link'; readonly source?: string }
  /** Values of a link from another document instead. */
  | { readonly kind: 'repoint'; readonly link: string }
  /** Values of this document to be linked in others. */
  | { readonly kind: 'hand-over'; readonly values: readonly string[] };

/** A wish for a face, edge or corner of a solid: the next one that is clicked goes to it. */
export interface PickWish {
  /** `either`: a face or an edge; `any`: corners too. */
  readonly wants: 'face' | 'edge' | 'either' | 'any';
  readonly label: string;
  readonly take: (picked: { readonly body: string; readonly name: string }) => void;
  /** Several at once, where that is of use. */
  readonly takeAll?: (picked: readonly { readonly body: string; readonly name: string }[]) => void;
}

/** A cell of the ledger that is being typed into; its row may come and go while the list is scrolled. */
export interface Editing {
  /** The value, or {@link NEW_VALUE}. */
  readonly id: string;
  readonly what: 'formula' | 'name';
  /** What is typed so far; undefined while it is what stood there. */
  readonly typed?: string;
}

/** What is told or asked of the selected value, over the page. */
export type Opened = 'trace' | 'rewrite' | 'past';

export interface WorkspaceState {
  readonly editing: Editing | undefined;
  readonly opened: Opened | undefined;
  /** The step that is being made or changed, if any. */
  readonly draft: StepDraft | undefined;
  readonly picking: PickWish | undefined;
  /** The mate that is being made, if any. */
  readonly mating: MateDraft | undefined;
  /** The face or edge that a list points at: it alone is lit, where several are likely. */
  readonly pointed: string | undefined;
  /** Whether a measured value is being made. */
  readonly isMeasuring: boolean;
  /** Whether faces and edges of a part are read as they are clicked. */
  readonly showsMeasure: boolean;

  /** Id of the selected value, step, or piece of sketch geometry. */
  readonly selected: string | undefined;
  readonly folded: ReadonlySet<string>;
  readonly sketch: string | undefined;
  /** Value whose threads are previewed, without being selected. */
  readonly hovered: string | undefined;
  /** How far values may go before something fails, as it was found out: of which document, and in words. */
  readonly safeRanges: ReadonlyMap<string, { readonly of: Document; readonly words: string }>;
  /** The task that has the whole page for a while. */
  readonly task: Task | undefined;
  /** A deletion that waits for a choice. */
  readonly removal: Removal | undefined;
  /** The row that is to be brought into sight. */
  readonly wanted: { readonly id: string } | undefined;
  readonly question: Question | undefined;
  /** Copied steps that are about to be put in. */
  readonly clip: StepClip | undefined;
  /** Steps that are marked, to be deleted or copied together. */
  readonly marked: ReadonlySet<string>;
  /** What of the ledger is shown. */
  readonly view: LedgerView;
  /** A table from a spreadsheet that is about to be taken over. */
  readonly table: readonly (readonly string[])[] | undefined;
  /** Names of the documents that take each value of this one. */
  readonly uses: ReadonlyMap<string, readonly string[]>;
  /** Values of other documents that could be linked. */
  readonly linkable: readonly LinkableValue[];
  /** Values of the last revision, once they are known. */
  readonly saved: Readonly<Record<string, TakenValue>> | undefined;
  /** What a careful designer would look at again; found beside the work. */
  readonly looseEnds: readonly LooseEnd[];
  readonly showsLooseEnds: boolean;
  /** Whether parts that stand in one another are listed. */
  readonly showsInterference: boolean;
  /** Parts that a list points at, by the paths of their components: they are lit. */
  readonly pointedParts: readonly string[];
  /** Components that are not shown, and those that are seen through. */
  readonly hidden: ReadonlySet<string>;
  readonly clear: ReadonlySet<string>;
  /** How far an assembly is drawn apart, from 0 to 1. */
  readonly exploded: number;
  /** Whether the items of the parts list are numbered in the picture. */
  readonly showsItems: boolean;
  /** The formula language beside the work. */
  readonly showsReference: boolean;
  /** Rises with each wish to see what of the open sketch can move. */
  readonly wiggle: number;
  readonly dimensionText: 'value' | 'name' | 'formula';
}

export type WorkspaceStore = StoreApi<WorkspaceState>;

export function createWorkspace(): WorkspaceStore {
  return createStore<WorkspaceState>(() => ({
    editing: undefined,
    opened: undefined,
    draft: undefined,
    picking: undefined,
    mating: undefined,
    pointed: undefined,
    hidden: new Set(),
    clear: new Set(),
    exploded: 0,
    showsItems: false,
    isMeasuring: false,
    showsMeasure: false,
    selected: undefined,
    folded: new Set(),
    sketch: undefined,
    hovered: undefined,
    safeRanges: new Map(),
    task: undefined,
    removal: undefined,
    wanted: undefined,
    question: undefined,
    clip: undefined,
    marked: new Set(),
    view: WHOLE_LEDGER,
    table: undefined,
    uses: new Map(),
    linkable: [],
    saved: undefined,
    looseEnds: [],
    showsLooseEnds: false,
    showsInterference: false,
    pointedParts: [],
    showsReference: false,
    wiggle: 0,
    dimensionText: 'value',
  }));
}

/** Opens a cell to be typed into. While another one holds something that was typed, nothing of that is lost: it stays open, and false is given. */
export function beginEditing(store: WorkspaceStore, next: Editing): boolean {
  const { editing } = store.getState();
  if (editing?.typed !== undefined && (editing.id !== next.id || editing.what !== next.what)) return false;
  store.setState({ editing: next, wanted: { id: next.id }, ...(next.id === NEW_VALUE ? {} : { selected: next.id }) });
  return true;
}

/** Closes the box of a value, and no other that was opened since. */
export function endEditing(store: WorkspaceStore, id: string): void {
  store.setState((state) => (state.editing?.id === id ? { editing: undefined } : state));
}

export function toggleMarked(store: WorkspaceStore, id: string): void {
  store.setState((state) => {
    const marked = new Set(state.marked);
    if (!marked.delete(id)) marked.add(id);
    return { marked };
  });
}

/** Marks two neighbours, as Shift with an arrow key does. */
export function markTo(store: WorkspaceStore, from: string, to: string | undefined): void {
  if (to !== undefined) store.setState(({ marked }) => ({ marked: new Set([...marked, from, to]) }));
}

/** Marks everything from one to the other, as Shift with a click does. */
export function markRange(store: WorkspaceStore, order: readonly string[], from: string, to: string): void {
  const [a, b] = [order.indexOf(from), order.indexOf(to)];
  if (a < 0 || b < 0) return;
  store.setState({ marked: new Set(order.slice(Math.min(a, b), Math.max(a, b) + 1)) });
}

export function toggleFolded(store: WorkspaceStore, id: string): void {
  store.setState((state) => {
    const folded = new Set(state.folded);
    if (!folded.delete(id)) folded.add(id);
    return { folded };
  });
}

/**
 * The formula box that has the focus, if any: picking a row or a dimension then puts its name in there
 * instead of selecting it.
 */
export interface FormulaTarget {
  readonly insert: (name: string) => void;
  readonly takesNames: () => boolean;
}

let target: FormulaTarget | undefined;

export function setFormulaTarget(next: FormulaTarget | undefined): void {
  target = next;
}

export function findFormulaTarget(): FormulaTarget | undefined {
  return target?.takesNames() === true ? target : undefined;
}
