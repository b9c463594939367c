import type { FormulaEditorPort } from './editor-port';
import type * as OpenEditor from './open-editor';

const quiet = (): FormulaEditorPort & { readonly changes: string[]; readonly focus: boolean[]; readonly accepted: string[] } => {
  const [changes, focus, accepted]: [string[], boolean[], string[]] = [[], [], []];
  return {
    changes,
    focus,
    accepted,
    label: 'Formula of rail_gap',
    hint: '',
    values: () => {
      throw new Error('Nothing is completed here.');
    },
    forId: () => undefined,
    near: () => [],
    onLink: () => false,
    onChange: (text) => void changes.push(text),
    isBegun: true,
    isField: false,
    onAccept: (text) => void accepted.push(text),
    onCancel: () => undefined,
    onRepair: () => false,
    onOtherReading: () => false,
    onFocus: (isFocused) => void focus.push(isFocused),
  };
};

/** A page in which the editor is not loaded yet. */
async function inFreshPage(run: (module: typeof OpenEditor, host: HTMLElement) => Promise<void>): Promise<void> {
  const host = document.createElement('div');
  document.body.replaceChildren(host);
  await jest.isolateModulesAsync(async () => run(await import('./open-editor'), host));
}

const plainField = (host: HTMLElement): HTMLInputElement => {
  const field = host.querySelector('input');
  if (!field) throw new Error('There is no plain field.');
  return field;
};

function typeInto(field: HTMLInputElement, text: string, cursor: number): void {
  field.value = text;
  field.setSelectionRange(cursor, cursor);
  field.dispatchEvent(new Event('input', { bubbles: true }));
}

test('what is typed before the editor is loaded stands in it afterwards, with the cursor and the focus', () =>
  inFreshPage(async ({ loadEditor, openEditor }, host) => {
    const port = quiet();
    const editor = openEditor(host, '1', port);
    editor.focus();
    const field = plainField(host);
    expect([field.selectionStart, field.selectionEnd]).toEqual([1, 1]);
    typeInto(field, '18 m', 2);
    await loadEditor();
    await Promise.resolve();
    expect(host.querySelector('input')).toBeNull();
    expect(editor.text()).toBe('18 m');
    expect(host.contains(document.activeElement)).toBe(true);
    // The cursor stood behind the digits.
    editor.insert('.5');
    expect(editor.text()).toBe('18.5 m');
    expect(port.changes).toEqual(['18 m', '18.5 m']);
    // It was never told that the focus had gone.
    expect(port.focus).not.toContain(false);
    editor.destroy();
  }));

test('keys of a plain field do what they do in the editor', () =>
  inFreshPage(async ({ openEditor }, host) => {
    const port = quiet();
    const editor = openEditor(host, '18 mm', port);
    plainField(host).dispatchEvent(new KeyboardEvent('keydown', { key: 'Enter', bubbles: true, cancelable: true }));
    expect(port.accepted).toEqual(['18 mm']);
    editor.destroy();
    await Promise.resolve();
  }));

test('a character that is being put together is left to come to its end', () =>
  inFreshPage(async ({ loadEditor, openEditor }, host) => {
    const editor = openEditor(host, '', quiet());
    editor.focus();
    const field = plainField(host);
    field.dispatchEvent(new CompositionEvent('compositionstart', { bubbles: true }));
    typeInto(field, 'ê', 1);
    await loadEditor();
    await Promise.resolve();
    expect(host.querySelector('input')).toBe(field);
    field.dispatchEvent(new CompositionEvent('compositionend', { bubbles: true }));
    await new Promise((done) => setTimeout(done));
    expect(host.querySelector('input')).toBeNull();
    expect(editor.text()).toBe('ê');
    editor.destroy();
  }));

test('a box that is closed before the editor is loaded stays closed', () =>
  inFreshPage(async ({ loadEditor, openEditor }, host) => {
    const editor = openEditor(host, '18 mm', quiet());
    editor.destroy();
    await loadEditor();
    await Promise.resolve();
    expect(host.childElementCount).toBe(0);
  }));
