/** What a formula box asks of its editor, and what the editor tells: the same for the one that completes and the plain one that stands in for it. */
import type { DocumentValues } from '@/core/document';
import type { NearValue } from '../state/link-draft';

/** A stretch of the text, by places between characters. */
export interface Range {
  readonly from: number;
  readonly to: number;
}

export interface FormulaEditorPort {
  readonly label: string;
  readonly hint: string;
  readonly values: () => DocumentValues;
  /** The value whose formula it is. */
  readonly forId: () => string | undefined;
  /** Values of other documents that can be linked. */
  readonly near: () => readonly NearValue[];
  /** Links one of them; whether that was done. */
  readonly onLink: (value: NearValue) => boolean;
  readonly onChange: (text: string) => void;
  /** Whether the text was typed to begin with: the cursor goes on behind it. */
  readonly isBegun: boolean;
  /** Whether it stands among other fields: Tab goes on to the next one, as from any field. */
  readonly isField: boolean;
  readonly onAccept: (text: string, then: 'stay' | 'next' | 'previous') => void;
  readonly onCancel: () => void;
  readonly onRepair: () => boolean;
  /** The next of several things that a plain number may be. */
  readonly onOtherReading: () => boolean;
  readonly onFocus: (isFocused: boolean) => void;
}

export interface FormulaEditor {
  readonly text: () => string;
  readonly replace: (from: number, to: number, text: string) => void;
  /** Puts a name where the cursor is, in place of what is selected. */
  readonly insert: (text: string) => void;
  readonly underline: (ranges: readonly Range[]) => void;
  readonly focus: () => void;
  readonly destroy: () => void;
}
