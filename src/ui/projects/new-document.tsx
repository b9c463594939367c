'use client';
import { KIND_WORDS, type DocumentKind } from '@/core/document';
import { DocumentIcon } from '../design/kind-icons';
import { NamePrompt } from '../design/name-prompt';

/** Kinds of documents, in the order in which values go through them. */
export const KINDS = ['master', 'calc', 'part', 'assembly'] as const satisfies readonly DocumentKind[];

/** What each kind of document is for, in a line. */
export const KIND_LINES: Readonly<Record<DocumentKind, string>> = {
  master: 'Values that parts and assemblies link: sizes, stock, counts.',
  calc: 'Calculations in order, with text, charts and checks.',
  part: 'Sketches and features, driven by named values.',
  assembly: 'Parts put together by mates, driven from above.',
};

/** What is made most often. */
const FIRST_KIND: DocumentKind = 'part';

interface NewDocumentProps {
  /** Gives the words for a refusal, or undefined when it was made. */
  readonly onCreate: (kind: DocumentKind, name: string) => Promise<string | undefined>;
}

/** A button that asks for the kind of a new document and for its name. */
export function NewDocument({ onCreate }: NewDocumentProps) {
  return (
    <NamePrompt label="New document" onAccept={(name, form) => onCreate(KINDS.find((kind) => kind === form.get('kind')) ?? FIRST_KIND, name)}>
      <fieldset className="mb-3">
        <legend className="sr-only">Kind of document</legend>
        {KINDS.map((kind) => (
          <label key={kind} className="flex cursor-pointer items-center gap-2 rounded-box px-2 py-1 hover:bg-flax has-checked:bg-indigo-wash">
            <input type="radio" name="kind" value={kind} defaultChecked={kind === FIRST_KIND} aria-label={KIND_WORDS[kind]} />
            <DocumentIcon kind={kind} />
            <span>
              <span className="block font-semibold first-letter:uppercase">{KIND_WORDS[kind]}</span>
              <span className="block text-[13px] text-walnut-soft">{KIND_LINES[kind]}</span>
            </span>
          </label>
        ))}
      </fieldset>
    </NamePrompt>
  );
}
