'use client';
import { useEffect, useRef, useState, type RefObject } from 'react';
import { slotOf, takenNames, tryFormula, type DocumentValues, type TriedFormula } from '@/core/document';
import { ANY_SLOT, checkName, type Slot } from '@/core/formula';
import type { Repair } from '@/core/kit';
import { Above } from '../design/above';
import { linkOneEdit, listNear } from '../state/link-draft';
import { api } from '../state/api';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId, thisAuthor } from '../state/identity';
import { setFormulaTarget } from '../state/workspace';
import { addParameter, PLAIN_READINGS, splitNamed, type PlainReading } from '../state/value-edits';
import type { FormulaEditor } from './editor-port';
import { missingValue, spacedName, type MissingValue } from './missing-value';
import { openEditor } from './open-editor';

interface FormulaBoxProps {
  readonly values: DocumentValues;
  readonly initial: string;
  /** What is typed already, in place of what stands there. */
  readonly typed?: string | undefined;
  readonly label: string;
  readonly hint?: string;
  readonly slot?: Slot;
  /** The value whose formula it is, for the check against cycles. */
  readonly forId?: string;
  /** Whether `name = formula` must be typed, as for a new value. */
  readonly needsName?: boolean;
  /** Gives the words for a refusal, or undefined when it was taken. */
  readonly onAccept: (text: string, then: 'stay' | 'next' | 'previous', plainAs: PlainReading) => string | undefined;
  readonly onCancel: () => void;
  /** A word on a value that is taken all the same. */
  readonly remarkOn?: ((value: number) => string | undefined) | undefined;
  /** Each change as it is typed. */
  readonly onChange?: (text: string) => void;
  readonly autoFocus?: boolean;
  /** Whether it is one field of a form. */
  readonly isField?: boolean;
}

interface Check {
  /** What a new value is taken as that is one plain number, and the other things that it may be. */
  readonly plain: { readonly as: PlainReading; readonly others: readonly PlainReading[] } | undefined;
  readonly tried: TriedFormula | undefined;
  readonly problem: string | undefined;
  readonly repairs: readonly Repair[];
  readonly ranges: readonly { readonly from: number; readonly to: number }[];
  /** A value that the formula reads and that could be made. */
  readonly missing?: MissingValue | undefined;
}

/** A box for a formula, or `name = formula`: completion, and below it the live result or what is wrong. */
export function FormulaBox(props: FormulaBoxProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const host = useRef<HTMLDivElement>(null);
  const editor = useRef<FormulaEditor>(null);
  const [text, setText] = useState(props.typed ?? props.initial);
  const [refusal, setRefusal] = useState<string>();
  const [isFocused, setFocused] = useState(false);
  const [plainAs, setPlainAs] = useState<PlainReading>('length');
  const check = checkText(props, text, plainAs);
  // The editor lives outside React; it reads the newest props through this reference.
  const latest = useRef({ props, check, plainAs });
  useEffect(() => {
    latest.current = { props, check, plainAs };
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
    const created = openEditor(host.current, latest.current.props.typed ?? latest.current.props.initial, {
      isBegun: latest.current.props.typed !== undefined,
      isField: latest.current.props.isField === true,
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
        setRefusal(latest.current.props.onAccept(next, then, latest.current.plainAs));
      },
      onCancel: () => {
        latest.current.props.onCancel();
      },
      onRepair: takeRepair,
      onOtherReading: () => {
        const [next] = latest.current.check.plain?.others ?? [];
        if (next) setPlainAs(next);
        return next !== undefined;
      },
      onFocus: (focused) => {
        setFocused(focused);
        // Where a name is still to be given, the name of another value is of no use.
        const takesNames = (): boolean => latest.current.props.needsName !== true || created.text().includes('=');
        setFormulaTarget(focused ? { insert: (name) => created.insert(name), takesNames } : undefined);
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
          anchor={host}
          isField={props.isField === true}
          check={check}
          refusal={refusal}
          remark={check.tried && props.remarkOn?.(check.tried.value)}
          onConfirm={() => setRefusal(props.onAccept(text, 'stay', plainAs))}
          onCancel={props.onCancel}
          onPlainAs={setPlainAs}
          onReference={() => workspace.setState((state) => ({ showsReference: !state.showsReference }))}
          onRepair={(repair) => editor.current?.replace(repair.from, repair.to, repair.text)}
          onMake={({ name, formula }) => {
            const failure = session.edit(addParameter(session.values, name, formula).edit);
            setRefusal(failure?.message);
            if (!failure) session.notify(`${name} is a driving value now. Undo takes it back.`);
          }}
        />
      )}
    </div>
  );
}

interface LiveCheckProps {
  readonly anchor: RefObject<HTMLElement | null>;
  /** In a form, which has its own buttons, and a label before the box. */
  readonly isField: boolean;
  readonly check: Check;
  readonly refusal: string | undefined;
  readonly remark: string | undefined;
  readonly onConfirm: () => void;
  readonly onCancel: () => void;
  readonly onPlainAs: (reading: PlainReading) => void;
  readonly onReference: () => void;
  readonly onRepair: (repair: Repair) => void;
  readonly onMake: (missing: MissingValue) => void;
}

function LiveCheck({ anchor, isField, check, refusal, remark, onConfirm, onCancel, onPlainAs, onReference, onRepair, onMake }: LiveCheckProps) {
  const problem = refusal ?? check.problem;
  const { missing } = check;
  return (
    <Above anchor={anchor} isRight={isField} className={`rounded-box border border-rule bg-sheet px-2 text-[13px] shadow-box ${isField ? '' : 'py-1'}`}>
      {problem === undefined ? (
        <span className="font-mono tabular-nums">
          = {check.tried?.shown}
          {check.tried?.reading !== undefined && <span className="ml-2 font-sans text-walnut-soft">read as {check.tried.reading}</span>}
        </span>
      ) : (
        <span className="text-madder">{problem}</span>
      )}
      <span className="float-right ml-3 flex gap-2 text-walnut-soft">
        {problem === undefined && !isField && <SoftVerb label="accept" title="Enter" onPress={onConfirm} />}
        {!isField && <SoftVerb label="cancel" title="Escape" onPress={onCancel} />}
        <SoftVerb label="formulas" title="The formula language" onPress={onReference} />
      </span>
      {problem === undefined && remark !== undefined && <span className="mt-1 block text-walnut-soft">{remark}</span>}
      {check.plain && (
        <span className="mt-1 flex gap-2 text-walnut-soft">
          taken as {READING_WORDS[check.plain.as]}; Alt K:
          {check.plain.others.map((other) => (
            <SoftVerb key={other} label={READING_WORDS[other]} title={`It is ${READING_WORDS[other]}`} onPress={() => onPlainAs(other)} />
          ))}
        </span>
      )}
      {problem === undefined && check.repairs.length > 0 && <span className="ml-2 text-walnut-soft">equals {check.tried?.equals.join(', ')}</span>}
      {missing && (
        <span className="mt-1 block">
          <SoftVerb label={`Make ${missing.name} = ${missing.formula} a value`} title="As a driving value of this document" onPress={() => onMake(missing)} />
        </span>
      )}
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
    </Above>
  );
}

/** A verb beside a box that keeps the focus: for the mouse, as its keys are at hand in the box. */
function SoftVerb({ label, title, onPress }: { label: string; title: string; onPress: () => void }) {
  return (
    <button
      type="button"
      tabIndex={-1}
      title={title}
      className="underline"
      onMouseDown={(event) => {
        event.preventDefault();
        onPress();
      }}
    >
      {label}
    </button>
  );
}

const READING_WORDS: Readonly<Record<PlainReading, string>> = { length: 'a length', angle: 'an angle', count: 'a count', number: 'a plain number' };

/** The readings that a number may have, in the order in which one follows the other. */
function readPlain({ isPlainNumber, value }: TriedFormula, wanted: PlainReading): Check['plain'] {
  if (!isPlainNumber) return undefined;
  const possible = PLAIN_READINGS.filter((reading) => reading !== 'count' || Number.isInteger(value));
  const as = possible.includes(wanted) ? wanted : 'length';
  const at = possible.indexOf(as);
  return { as, others: [...possible.slice(at + 1), ...possible.slice(0, at)] };
}

function checkText({ values, slot = ANY_SLOT, forId, needsName = false }: FormulaBoxProps, text: string, plainAs: PlainReading): Check {
  const { name, formula, offset } = splitNamed(text);
  const spaced = name === undefined ? spacedName(text) : undefined;
  const spacedProblem = spaced && checkName(spaced.name, takenNames(values.document, forId));
  if (spaced && spacedProblem) {
    const range = { from: spaced.from, to: spaced.from + spaced.name.length };
    const repairs = (spacedProblem.repairs ?? []).map((repair) => ({ ...repair, ...range }));
    return { plain: undefined, tried: undefined, problem: spacedProblem.message, repairs, ranges: [range] };
  }
  if (needsName && name === undefined) {
    return { plain: undefined, tried: undefined, problem: 'Type a name, an equals sign and a formula: rail_gap = 21 mm.', repairs: [], ranges: [] };
  }
  const nameAt = text.indexOf(name ?? '');
  const nameProblem = name === undefined ? undefined : checkName(name, takenNames(values.document, forId));
  if (nameProblem && name !== undefined) {
    return {
      plain: undefined,
      tried: undefined,
      problem: nameProblem.message,
      repairs: (nameProblem.repairs ?? []).map((repair) => ({ ...repair, from: nameAt, to: nameAt + name.length })),
      ranges: [{ from: nameAt, to: nameAt + name.length }],
    };
  }
  const first = tryFormula(values, formula, slot, forId);
  const plain = needsName ? readPlain(first, plainAs) : undefined;
  const tried = plain ? tryFormula(values, formula, slotOf({ kind: plain.as, name: name ?? '', owner: undefined })) : first;
  const shift = <T extends { readonly from: number; readonly to: number }>(range: T): T => ({ ...range, from: range.from + offset, to: range.to + offset });
  const [wrong] = tried.diagnostics;
  return {
    plain,
    tried,
    problem: wrong && [wrong.message, wrong.hint].filter((part) => part !== undefined).join(' '),
    repairs: wrong
      ? (wrong.repairs ?? []).map(shift)
      : tried.equals.slice(0, 3).map((other) => shift({ label: `tie it to ${other}`, from: 0, to: formula.length, text: other })),
    ranges: tried.diagnostics.map((diagnostic) => shift({ from: diagnostic.from, to: diagnostic.to })),
    missing: missingValue(values.document, formula, tried, slot, forId),
  };
}
