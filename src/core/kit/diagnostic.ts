/**
 * A problem in the designer's model, as data. Screens underline `from`..`to`, show `message` and offer
 * `repairs`; tests match `code`, and messages by snapshot.
 */
export interface Diagnostic<Code extends string = string> {
  readonly code: Code;
  /** One sentence in the designer's words: what was found, and what was expected. */
  readonly message: string;
  /** Half-open range of UTF-16 offsets into the formula text. */
  readonly from: number;
  readonly to: number;
  /** A second sentence: the way out, where a text replacement cannot express it. */
  readonly hint?: string;
  /** Replacements of text that would cure it, the likeliest first. */
  readonly repairs?: readonly Repair[];
}

/** Replaces `from`..`to` of the formula text by `text`. */
export interface Repair {
  readonly label: string;
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** The text after a repair was taken. */
export function applyRepair(source: string, repair: Repair): string {
  return source.slice(0, repair.from) + repair.text + source.slice(repair.to);
}
