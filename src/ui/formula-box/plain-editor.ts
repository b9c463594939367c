/** A text field that takes what is typed while the editor is not loaded yet. It completes and marks nothing; all else is as in the editor. */
import type { FormulaEditor, FormulaEditorPort, Range } from './editor-port';

export interface PlainEditor extends FormulaEditor {
  readonly selected: () => Range;
  readonly hasFocus: () => boolean;
  /** Whether a character is being put together of several keys: what is moved elsewhere then is lost. */
  readonly isComposing: () => boolean;
}

export function createPlainEditor(parent: HTMLElement, text: string, port: FormulaEditorPort): PlainEditor {
  const field = document.createElement('input');
  field.className = 'block w-full bg-transparent px-1 py-[3px] font-mono text-[13px] leading-5 outline-none';
  field.value = text;
  field.placeholder = port.hint;
  field.spellcheck = false;
  field.autocomplete = 'off';
  field.setAttribute('aria-label', port.label);
  let isComposing = false;
  const put = (from: number, to: number, insert: string): void => {
    field.setRangeText(insert, from, to, 'end');
    field.focus();
    port.onChange(field.value);
  };
  const selected = (): Range => ({ from: field.selectionStart ?? field.value.length, to: field.selectionEnd ?? field.value.length });
  /** Whether the key is used up. */
  const press = ({ key, altKey, shiftKey, code }: KeyboardEvent): boolean => {
    if (altKey && key === 'Enter') return port.onRepair();
    if (altKey && code === 'KeyK') return port.onOtherReading();
    if (key === 'Enter') port.onAccept(field.value, 'stay');
    else if (key === 'Escape') port.onCancel();
    else if (key === 'Tab') {
      port.onAccept(field.value, shiftKey ? 'previous' : 'next');
      return !port.isField;
    } else return false;
    return true;
  };
  field.addEventListener('keydown', (event) => {
    if (isComposing || !press(event)) return;
    event.preventDefault();
    event.stopPropagation();
  });
  field.addEventListener('input', () => port.onChange(field.value));
  field.addEventListener('compositionstart', () => (isComposing = true));
  field.addEventListener('compositionend', () => (isComposing = false));
  field.addEventListener('focus', () => port.onFocus(true));
  field.addEventListener('blur', () => port.onFocus(false));
  parent.append(field);
  if (port.isBegun) field.setSelectionRange(text.length, text.length);
  else field.select();
  return {
    text: () => field.value,
    replace: put,
    insert: (insert) => put(selected().from, selected().to, insert),
    underline: () => undefined,
    focus: () => field.focus(),
    destroy: () => field.remove(),
    selected,
    hasFocus: () => document.activeElement === field,
    isComposing: () => isComposing,
  };
}
