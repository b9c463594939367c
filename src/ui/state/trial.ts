/** An edit that is shown as if it were made, values and geometry, while a value is dragged or a size looked at: it is taken back or made in the end. */
import type { StoreApi } from 'zustand/vanilla';
import { applyEdit, type Document, type Edit, type EditFailure } from '@/core/document';
import type { SessionState, ShownAs } from './session-state';

/** Where components stood before something was tried out. */
export interface Stances {
  readonly holdStances: () => void;
  readonly returnStances: () => void;
}

export class Trial {
  private tried: { readonly edit: Edit; readonly inverse: Edit } | undefined;

  constructor(
    private readonly store: StoreApi<SessionState>,
    private readonly stances: () => Stances | undefined,
  ) {}

  /** What is tried out now. */
  get edit(): Edit | undefined {
    return this.tried?.edit;
  }

  /** The document as it is, whatever is tried out. */
  get documentAsItIs(): Document {
    const { document } = this.store.getState();
    const back = this.tried && applyEdit(document, this.tried.inverse);
    return back?.ok ? back.value.document : document;
  }

  /** Shows an edit in the place of the one before. `shownAs` says what it is where it stays for longer. */
  show(edit: Edit, shownAs?: ShownAs): EditFailure | undefined {
    this.takeBack();
    const { document, values } = this.store.getState();
    const result = applyEdit(document, edit);
    if (!result.ok) return result.failure;
    this.stances()?.holdStances();
    this.tried = { edit, inverse: result.value.inverse };
    values.apply(result.value.document, result.value.diff);
    this.store.setState((state) => ({ document: result.value.document, version: state.version + 1, shownAs }));
    return undefined;
  }

  takeBack(): void {
    const { tried } = this;
    this.tried = undefined;
    const { document, values } = this.store.getState();
    const back = tried && applyEdit(document, tried.inverse);
    if (!back?.ok) return;
    this.stances()?.returnStances();
    values.apply(back.value.document, back.value.diff);
    this.store.setState((state) => ({ document: back.value.document, version: state.version + 1, shownAs: undefined }));
  }

  /** The document stands anew: there is nothing to take back. */
  forget(): void {
    this.tried = undefined;
  }
}
