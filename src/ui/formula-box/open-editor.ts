/**
 * The editor of a formula box, which is loaded once the page stands. A box that is opened before begins as a plain field, and the editor takes its
 * place, with the text, the selection and the focus as they are, between two keys.
 */
import type { createFormulaEditor } from './editor';
import type { FormulaEditor, FormulaEditorPort, Range } from './editor-port';
import { createPlainEditor } from './plain-editor';

type Create = typeof createFormulaEditor;

let create: Create | undefined;
let loading: Promise<void> | undefined;

/** Loads the editor, once. Where that fails, boxes stay plain, and the next one tries again. */
export function loadEditor(): Promise<void> {
  loading ??= import('./editor').then(
    (module) => {
      create = module.createFormulaEditor;
    },
    () => {
      loading = undefined;
    },
  );
  return loading;
}

export function openEditor(parent: HTMLElement, text: string, port: FormulaEditorPort): FormulaEditor {
  if (create) return create(parent, text, port);
  let isSettled = false;
  let ranges: readonly Range[] = [];
  const plain = createPlainEditor(parent, text, { ...port, onFocus: (isFocused) => (isSettled ? undefined : port.onFocus(isFocused)) });
  let editor: FormulaEditor = plain;
  const takeOver = (): void => {
    if (isSettled || !create) return;
    if (plain.isComposing()) {
      parent.addEventListener('compositionend', () => setTimeout(takeOver), { once: true });
      return;
    }
    isSettled = true;
    const hadFocus = plain.hasFocus();
    editor = create(parent, plain.text(), port, plain.selected());
    if (hadFocus) editor.focus();
    plain.destroy();
    editor.underline(ranges);
  };
  void loadEditor().then(takeOver);
  return {
    text: () => editor.text(),
    replace: (from, to, insert) => editor.replace(from, to, insert),
    insert: (insert) => editor.insert(insert),
    underline: (next) => {
      ranges = next;
      editor.underline(next);
    },
    focus: () => editor.focus(),
    destroy: () => {
      isSettled = true;
      editor.destroy();
    },
  };
}
