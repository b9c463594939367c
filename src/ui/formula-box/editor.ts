/** The one-line formula editor: CodeMirror with completion, an underline for what is wrong, and keys. */
import {
  acceptCompletion,
  autocompletion,
  closeCompletion,
  closeBrackets,
  completionKeymap,
  completionStatus,
  selectedCompletion,
  CompletionContext,
  type Completion,
  type CompletionResult,
} from '@codemirror/autocomplete';
import { defaultKeymap, history, historyKeymap } from '@codemirror/commands';
import { EditorState, StateEffect, StateField } from '@codemirror/state';
import { Decoration, EditorView, keymap, placeholder, type DecorationSet } from '@codemirror/view';
import type { NearValue } from '../state/link-draft';
import { findCompletions } from './completions';
import type { FormulaEditor, FormulaEditorPort, Range } from './editor-port';

/** The nonce that the policy of the page asks of style elements. */
function pageNonce(): string {
  return document.querySelector<HTMLScriptElement>('script[nonce]')?.nonce ?? '';
}

const setUnderlines = StateEffect.define<readonly Range[]>();
const wavy = Decoration.mark({ class: 'formula-wrong' });

const underlines = StateField.define<DecorationSet>({
  create: () => Decoration.none,
  update: (marks, transaction) => {
    for (const effect of transaction.effects) {
      if (!effect.is(setUnderlines)) continue;
      const { length } = transaction.newDoc;
      const ranges = effect.value
        .map(({ from, to }) => ({ from: Math.min(from, Math.max(0, length - 1)), to: Math.min(Math.max(to, from + 1), length) }))
        .filter(({ from, to }) => to > from)
        .sort((a, b) => a.from - b.from);
      return Decoration.set(ranges.map(({ from, to }) => wavy.range(from, to)));
    }
    return marks.map(transaction.changes);
  },
  provide: (field) => EditorView.decorations.from(field),
});

const theme = EditorView.theme({
  '&': { fontSize: '13px', backgroundColor: 'transparent' },
  '.cm-content': { fontFamily: 'var(--font-mono)', padding: '3px 0', caretColor: 'var(--walnut)' },
  '.cm-line': { padding: '0 4px' },
  '&.cm-focused': { outline: 'none' },
  '.cm-scroller': { overflow: 'hidden', lineHeight: '20px' },
  '.formula-wrong': { textDecoration: 'underline wavy var(--madder)', textUnderlineOffset: '3px' },
  '.cm-tooltip': { backgroundColor: 'var(--sheet)', border: '1px solid var(--rule)', borderRadius: '4px', boxShadow: 'var(--shadow)', zIndex: '60' },
  '.cm-tooltip-autocomplete > ul': { fontFamily: 'var(--font-mono)', maxHeight: '14em' },
  '.cm-tooltip-autocomplete > ul > li': { padding: '2px 8px', display: 'flex', gap: '12px' },
  '.cm-tooltip-autocomplete > ul > li[aria-selected]': { backgroundColor: 'var(--indigo-wash)', color: 'var(--walnut)' },
  '.cm-completionLabel': { flex: '1' },
  '.cm-completionDetail': { fontStyle: 'normal', color: 'var(--walnut-soft)' },
  '.cm-completionIcon': { display: 'none' },
  '.cm-placeholder': { color: 'var(--walnut-soft)' },
});

/** What a completion puts in, where that is a text; what links another document changes more than the text. */
function insertOf({ apply, label }: Completion): string | undefined {
  return typeof apply === 'function' ? undefined : (apply ?? label);
}

/** Whether it would change what stands before the cursor: one that is typed out already takes no key. */
function changes(state: EditorState, chosen: Completion): boolean {
  const insert = insertOf(chosen);
  if (insert === undefined) return true;
  const { head } = state.selection.main;
  return state.sliceDoc(Math.max(0, head - insert.length), head) !== insert;
}

/**
 * Puts the browser's selection where the editor's is. With Tab the browser puts the caret to the start; the view takes that back only when it
 * hears of it within 200 ms, so that on a busy machine the next key would go before what stands there.
 */
function showSelection(view: EditorView): void {
  const { anchor, head } = view.state.selection.main;
  const [from, to] = [view.domAtPos(anchor), view.domAtPos(head)];
  view.contentDOM.ownerDocument.getSelection()?.setBaseAndExtent(from.node, from.offset, to.node, to.offset);
}

/**
 * How long after the editor gets the focus its text is not marked, in milliseconds. The view looks for a caret that the browser puts to the
 * start on focus for 200 ms; a mark that is drawn meanwhile moves the caret there for good.
 */
const FOCUS_SETTLES_MS = 220;

/** Begins with all of the text selected, with the cursor behind what was begun, or with what was `selected` in the box that it follows. */
export function createFormulaEditor(parent: HTMLElement, text: string, port: FormulaEditorPort, selected?: Range): FormulaEditor {
  const complete = (context: CompletionContext): CompletionResult | null => {
    const word = context.matchBefore(/[\p{L}_][\p{L}\p{Nd}_]*(?:\.[\p{L}\p{Nd}_]*)*/u);
    const before = context.state.sliceDoc(0, word?.from ?? context.pos);
    const isAfterNumber = /(^|[^\p{L}\p{Nd}_])\d+(\.\d+)?\s?$/u.test(before);
    if (!word && !context.explicit) return null;
    const found = findCompletions(port.values(), word?.text ?? '', isAfterNumber, port.near, port.forId());
    // What is typed out needs no list over the page.
    const [only] = found;
    if (found.length === 1 && only?.insert === word?.text && !only?.near && !context.explicit) return null;
    return {
      from: word?.from ?? context.pos,
      filter: false,
      options: found.map(({ label, detail, insert, rank, near }) => ({ label, detail, apply: near ? takeNear(near) : insert, boost: rank })),
    };
  };
  const takeNear =
    (value: NearValue) =>
    (view: EditorView, _: unknown, from: number, to: number): void => {
      if (port.onLink(value)) view.dispatch({ changes: { from, to, insert: value.alias }, selection: { anchor: from + value.alias.length } });
    };
  /**
   * Takes the completion that is chosen, if one is and would change something. The list follows what is typed a moment later, longer on a busy
   * machine: a key that comes before it does what it would do after.
   */
  const takeCompletion = (view: EditorView): boolean => {
    const { state } = view;
    const status = completionStatus(state);
    if (status === 'active') {
      const chosen = selectedCompletion(state);
      return chosen !== null && changes(state, chosen) && acceptCompletion(view);
    }
    const { head } = state.selection.main;
    const found = status === 'pending' ? complete(new CompletionContext(state, head, false)) : null;
    const [first] = found?.options ?? [];
    if (!found || !first || !changes(state, first)) return false;
    const insert = insertOf(first);
    if (typeof first.apply === 'function') first.apply(view, first, found.from, head);
    else if (insert !== undefined) view.dispatch({ changes: { from: found.from, to: head, insert }, selection: { anchor: found.from + insert.length } });
    closeCompletion(view);
    return true;
  };
  const accept = (then: 'stay' | 'next' | 'previous') => (view: EditorView) => {
    port.onAccept(view.state.doc.toString(), then);
    return true;
  };
  let focusedAt = -Infinity;
  /** Whether it was pressed into or typed into. */
  let isTouched = false;
  let marking: ReturnType<typeof setTimeout> | undefined;
  /** Whether the key is used up: in a field, it goes on to the next one by itself. */
  const leave = (v: EditorView, then: 'next' | 'previous'): boolean => {
    if (then === 'next' && takeCompletion(v)) {
      // What is still to be filled in keeps the cursor.
      if (!port.isField || v.state.doc.toString().endsWith('(')) return true;
    }
    closeCompletion(v);
    accept(then)(v);
    return !port.isField;
  };
  const view = new EditorView({
    parent,
    state: EditorState.create({
      doc: text,
      selection: selected ? { anchor: selected.from, head: selected.to } : { anchor: port.isBegun ? text.length : 0, head: text.length },
      extensions: [
        EditorView.cspNonce.of(pageNonce()),
        history(),
        closeBrackets(),
        underlines,
        theme,
        placeholder(port.hint),
        // Keys are given below: Enter keeps a formula that is typed out, whatever the list shows.
        autocompletion({ override: [complete], activateOnTyping: true, activateOnTypingDelay: 0, interactionDelay: 0, icons: false, defaultKeymap: false }),
        keymap.of([
          { key: 'Alt-Enter', run: port.onRepair },
          { key: 'Alt-k', run: port.onOtherReading },
          { key: 'Tab', run: (v) => leave(v, 'next') },
          { key: 'Shift-Tab', run: (v) => leave(v, 'previous') },
          { key: 'Enter', run: (v) => takeCompletion(v) || accept('stay')(v) },
          {
            key: 'Escape',
            run: (v) => {
              // The first Escape closes the list of completions.
              if (completionStatus(v.state) !== null) return false;
              port.onCancel();
              return true;
            },
          },
          ...completionKeymap.filter(({ key }) => key !== 'Enter'),
          ...historyKeymap,
          ...defaultKeymap.filter(({ key }) => key !== 'Enter'),
        ]),
        EditorView.domEventHandlers({
          focus: (_, v) => {
            focusedAt = performance.now();
            showSelection(v);
          },
          // The first press into a field selects what stands there, as Tab does: it is a proposal, or is about to be replaced.
          mousedown: (event, v) => {
            if (!port.isField || isTouched) return false;
            isTouched = true;
            event.preventDefault();
            v.focus();
            v.dispatch({ selection: { anchor: 0, head: v.state.doc.length } });
            return true;
          },
        }),
        EditorState.transactionFilter.of((transaction) => (transaction.newDoc.lines > 1 ? [] : transaction)),
        EditorView.contentAttributes.of({ 'aria-label': port.label, role: 'textbox', 'aria-multiline': 'false', spellcheck: 'false' }),
        EditorView.updateListener.of((update) => {
          if (update.docChanged) {
            isTouched = true;
            port.onChange(update.state.doc.toString());
          }
          if (update.focusChanged) port.onFocus(update.view.hasFocus);
        }),
      ],
    }),
  });
  const onPressElsewhere = ({ target }: PointerEvent): void => {
    // A canvas keeps the focus where it is.
    if (!(target instanceof Node && view.dom.contains(target))) closeCompletion(view);
  };
  window.addEventListener('pointerdown', onPressElsewhere, true);
  return {
    text: () => view.state.doc.toString(),
    replace: (from, to, insert) => {
      view.dispatch({ changes: { from, to, insert }, selection: { anchor: from + insert.length } });
      view.focus();
    },
    insert: (insert) => {
      const { from, to } = view.state.selection.main;
      view.dispatch({ changes: { from, to, insert }, selection: { anchor: from + insert.length } });
      view.focus();
    },
    underline: (ranges) => {
      clearTimeout(marking);
      const mark = (): void => view.dispatch({ effects: setUnderlines.of(ranges) });
      const wait = focusedAt + FOCUS_SETTLES_MS - performance.now();
      if (wait > 0) marking = setTimeout(mark, wait);
      else mark();
    },
    focus: () => {
      view.focus();
    },
    destroy: () => {
      clearTimeout(marking);
      window.removeEventListener('pointerdown', onPressElsewhere, true);
      view.destroy();
    },
  };
}
