'use client';
import { useEffect, useRef, useState } from 'react';
import { takenNames, tryFormula, type DocumentValues, type TriedFormula } from '@/core/document';
import { ANY_SLOT, checkName, type Slot } from '@/core/formula';
import type { Repair } from '@/core/kit';
import { linkOneEdit, listNear } from '../links/link-draft';
import { api } from '../state/api';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId, thisAuthor } from '../state/identity';
import { setFormulaTarget } from '../state/workspace';
import { splitNamed } from '../state/value-edits';
import { createFormulaEditor, type FormulaEditor } from './editor';

interface FormulaBoxProps {
  readonly values: DocumentValues;
  readonly initial: string;
  readonly label: string;
  readonly hint?: string;
  readonly slot?: Slot;
  /** The value whose formula it is, for the check against cycles. */
  readonly forId?: string;
  /** Whether `name = formula` must be typed, as for a new value. */
  readonly needsName?: boolean;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onAccept: (text: string, then: 'stay' | 'next' | 'previous') => string | undefined;
  readonly onCancel: () => void;
  /** Each change as it is typed. */
  readonly onChange?: (text: string) => void;
  readonly autoFocus?: boolean;
}

interface Check {
  readonly tried: TriedFormula | undefined;
  readonly problem: string | undefined;
  readonly repairs: readonly Repair[];
  readonly ranges: readonly { readonly from: number; readonly to: number }[];
}

/** A box for a formula, or `name = formula`: completion, and below it the live result or what is wrong. */
export function FormulaBox(props: FormulaBoxProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const host = useRef<HTMLDivElement>(null);
  const editor = useRef<FormulaEditor>(null);
  const [text, setText] = useState(props.initial);
  const [refusal, setRefusal] = useState<string>();
  const [isFocused, setFocused] = useState(false);
  const check = checkText(props, text);
  // The editor lives outside React; it reads the newest props through this reference.
  const latest = useRef({ props, check });
  useEffect(() => {
    latest.current = { props, check };
    editor.current?.underline(text.trim() === '' ? [] : check.ranges);
  });

  useEffect(() => {
    if (!host.current) return undefined;
    const takeRepair = (): boolean => {
      const [repair] = latest.current.check.repairs;
      if (!repair) return false;
      editor.current?.replace(repair.from, repair.to, repair.text);
      return true;
    };
    const created = createFormulaEditor(host.current, latest.current.props.initial, {
      label: latest.current.props.label,
      hint: latest.current.props.hint ?? '',
      values: () => latest.current.props.values,
      forId: () => latest.current.props.forId,
      near: () => listNear(session.document, workspace.getState().linkable),
      onLink: (near) => {
        const failure = session.edit(linkOneEdit(session.document, near, newId));
        setRefusal(failure?.message);
        if (failure) return false;
        const { value, alias } = near;
        if (!value.isOffered) void api.offerValues(value.document, { ids: [value.parameter], author: thisAuthor() });
        session.notify(`${alias} is linked from ${value.documentName}. Undo takes the link back.`);
        return true;
      },
      onChange: (next) => {
        setText(next);
        setRefusal(undefined);
        latest.current.props.onChange?.(next);
      },
      onAccept: (next, then) => {
        setRefusal(latest.current.props.onAccept(next, then));
      },
      onCancel: () => {
        latest.current.props.onCancel();
      },
      onRepair: takeRepair,
      onFocus: (focused) => {
        setFocused(focused);
        setFormulaTarget(focused ? { insert: (name) => created.insert(name) } : undefined);
      },
    });
    editor.current = created;
    if (latest.current.props.autoFocus !== false) created.focus();
    return () => {
      setFormulaTarget(undefined);
      created.destroy();
    };
  }, [session, workspace]);

  const isWrong = text.trim() !== '' && (check.problem !== undefined || refusal !== undefined);
  return (
    <div className="relative min-w-0 flex-1">
      <div ref={host} className={`rounded-box border bg-sheet ${isWrong ? 'border-madder' : 'border-indigo'}`} />
      {isFocused && text.trim() !== '' && (
        <LiveCheck
          check={check}
          refusal={refusal}
          onReference={() => workspace.setState((state) => ({ showsReference: !state.showsReference }))}
          onRepair={(repair) => editor.current?.replace(repair.from, repair.to, repair.text)}
        />
      )}
    </div>
  );
}

interface LiveCheckProps {
  readonly check: Check;
  readonly refusal: string | undefined;
  readonly onReference: () => void;
  readonly onRepair: (repair: Repair) => void;
}

function LiveCheck({ check, refusal, onReference, onRepair }: LiveCheckProps) {
  const problem = refusal ?? check.problem;
  return (
    <div
      className="absolute bottom-full left-0 z-40 mb-1 w-max max-w-full min-w-52 rounded-box border border-rule bg-sheet px-2 py-1 text-[13px] shadow-box"
      aria-live="polite"
    >
      {problem === undefined ? (
        <span className="font-mono tabular-nums">
          = {check.tried?.shown}
          {check.tried?.reading !== undefined && <span className="ml-2 font-sans text-walnut-soft">read as {check.tried.reading}</span>}
        </span>
      ) : (
        <span className="text-madder">{problem}</span>
      )}
      <button
        type="button"
        className="float-right ml-3 text-walnut-soft underline"
        // The box keeps the focus while the reference opens beside it.
        onMouseDown={(event) => {
          event.preventDefault();
          onReference();
        }}
      >
        formulas
      </button>
      {problem === undefined && check.repairs.length > 0 && <span className="ml-2 text-walnut-soft">equals {check.tried?.equals.join(', ')}</span>}
      {check.repairs.length > 0 && (
        <span className="mt-1 flex flex-wrap gap-1">
          {check.repairs.slice(0, 3).map((repair, i) => (
            <button
              key={i}
              type="button"
              className="rounded-box border border-rule px-1.5 font-mono text-xs hover:bg-flax"
              onMouseDown={(event) => {
                event.preventDefault();
                onRepair(repair);
              }}
            >
              {repair.label}
            </button>
          ))}
          <span className="self-center text-xs text-walnut-soft">Alt Enter takes the first</span>
        </span>
      )}
    </div>
  );
}

function checkText({ values, slot = ANY_SLOT, forId, needsName = false }: FormulaBoxProps, text: string): Check {
  const { name, formula, offset } = splitNamed(text);
  if (needsName && name === undefined) {
    return { tried: undefined, problem: 'Type a name, an equals sign and a formula: rail_gap = 21 mm.', repairs: [], ranges: [] };
  }
  const nameAt = text.indexOf(name ?? '');
  const nameProblem = name === undefined ? undefined : checkName(name, takenNames(values.document, forId));
  if (nameProblem && name !== undefined) {
    return {
      tried: undefined,
      problem: nameProblem.message,
      repairs: (nameProblem.repairs ?? []).map((repair) => ({ ...repair, from: nameAt, to: nameAt + name.length })),
      ranges: [{ from: nameAt, to: nameAt + name.length }],
    };
  }
  const tried = tryFormula(values, formula, slot, forId);
  const shift = <T extends { readonly from: number; readonly to: number }>(range: T): T => ({ ...range, from: range.from + offset, to: range.to + offset });
  const [first] = tried.diagnostics;
  return {
    tried,
    problem: first && [first.message, first.hint].filter((part) => part !== undefined).join(' '),
    repairs: first
      ? (first.repairs ?? []).map(shift)
      : tried.equals.slice(0, 3).map((other) => shift({ label: `tie it to ${other}`, from: 0, to: formula.length, text: other })),
    ranges: tried.diagnostics.map((diagnostic) => shift({ from: diagnostic.from, to: diagnostic.to })),
  };
}
