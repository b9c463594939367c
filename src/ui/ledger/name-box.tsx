'use client';
import { useState } from 'react';
import { previewRename, type Parameter, type Take } from '@/core/document';
import { useSession } from '../state/context';

interface NameBoxProps {
  readonly record: Parameter | Take;
  /** It is done, and the row has the focus again. */
  readonly onDone: () => void;
  /** The focus went elsewhere. */
  readonly onLeave: () => void;
}

/** The name of a value while it is typed, with what the new one would rewrite; leaving it keeps one that may be had. */
export function NameBox({ record, onDone, onLeave }: NameBoxProps) {
  const session = useSession();
  const [problem, setProblem] = useState<string>();
  const [typed, setTyped] = useState(record.name);
  return (
    <span className="relative block">
      <input
        autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
        aria-label={`Name of ${record.name}`}
        aria-invalid={problem !== undefined}
        defaultValue={record.name}
        className="w-full rounded-box border border-indigo bg-sheet px-1"
        onFocus={(event) => event.target.select()}
        onChange={(event) => {
          setTyped(event.target.value.trim());
          setProblem(undefined);
        }}
        onBlur={() => {
          if (typed !== record.name && typed !== '') session.edit({ type: 'value.rename', id: record.id, name: typed });
          onLeave();
        }}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Escape') {
            // What is left stays as it was: blur comes after this.
            event.currentTarget.value = record.name;
            setTyped(record.name);
            onDone();
          }
          if (event.key !== 'Enter') return;
          const failure = typed === record.name ? undefined : session.edit({ type: 'value.rename', id: record.id, name: typed });
          if (failure) setProblem(failure.message);
          else onDone();
        }}
      />
      {problem !== undefined ? (
        <span className="absolute top-full left-0 z-40 rounded-box border border-madder bg-madder-wash px-1.5 whitespace-nowrap">{problem}</span>
      ) : (
        <RenamePreview record={record} name={typed} />
      )}
    </span>
  );
}

/** Formulas that a new name would rewrite, or why it cannot be had. */
function RenamePreview({ record, name }: { record: Parameter | Take; name: string }) {
  const session = useSession();
  if (name === record.name || name === '') return null;
  const { refusal, changes } = previewRename(session.document, record.id, name);
  return (
    <span
      aria-live="polite"
      className="absolute top-full left-0 z-40 w-max max-w-md rounded-box border border-rule bg-sheet px-2 py-1 text-[13px] font-normal shadow-box"
    >
      {refusal !== undefined && <span className="text-madder">{refusal}</span>}
      {refusal === undefined && changes.length === 0 && <span className="text-walnut-soft">No formula reads it.</span>}
      {changes.slice(0, 5).map((change) => (
        <span key={change.id} className="block truncate font-mono">
          {change.name} = <span className="text-indigo">{change.after}</span>
        </span>
      ))}
      {changes.length > 5 && <span className="text-walnut-soft">and {changes.length - 5} more</span>}
    </span>
  );
}
