'use client';
import { useEffect, useMemo, useRef, useState } from 'react';
import { listIds, slotOf, slotsOf, stepWords, tryFormula, type DocumentValues, type StepSlot } from '@/core/document';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { focusLedger, goToRow } from '../ledger/go-to-row';
import type { DocumentSession } from '../state/document-session';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { splitNamed } from '../state/value-edits';
import { isPreviewOf, keepDirections, onItsGround, readsDirections } from './directions';
import { MeasurePanel } from './measure-panel';
import { formOf } from './kinds';
import { changePart, changeStep, formulaOf, presetFormulas, stepEdit, whatIsMissing } from './step-draft';
import type { StepDraft } from '../state/drafts';

/** How long typing rests before the solid follows, in milliseconds. */
const PREVIEW_REST_MS = 180;

/** The step that the solid is built to while a draft is tried: the draft itself, where that stands behind the one that is wanted. */
function lastBuilt(session: DocumentSession, { step, after }: StepDraft): string | undefined {
  const { builtTo } = session.store.getState();
  const steps = listIds(session.document, 'steps');
  return after !== undefined || (builtTo !== undefined && steps.indexOf(step.id) > steps.indexOf(builtTo)) ? step.id : builtTo;
}

/** The step that is being made or changed: its choices, what it is built on, its values, and what becomes of the solid. */
export function StepPanel({ draft }: { draft: StepDraft }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const preview = useSessionState((state) => state.preview);
  // Rises when values are others, measured ones too.
  const version = useSessionState((state) => state.version);
  const [refusal, setRefusal] = useState<string>();
  const ids = useRef(new Map<string, string>());
  const idFor = (slot: string): string => {
    const known = ids.current.get(slot) ?? newId();
    ids.current.set(slot, known);
    return known;
  };
  const material = useSessionState((state) => state.project.material);
  const submit = useRef<HTMLButtonElement>(null);
  const [opened] = useState(draft);
  const [isDiscarding, setDiscarding] = useState(false);
  const [isBuilding, setBuilding] = useState(false);
  useEffect(() => {
    // Where nothing is to be typed, Enter builds.
    if (slotsOf(draft.step).length === 0) submit.current?.focus();
    // When the panel opens, not with every choice.
    // oxlint-disable-next-line react/exhaustive-deps
  }, []);
  const changed = draft.isNew ? undefined : draft.step.id;
  useEffect(() => {
    // What a step is made on is gone from the solid after it: its edges and faces are picked on the one before.
    void session.geometry.showBefore(changed);
    return () => void session.geometry.showBefore(undefined);
  }, [session, changed]);
  const slots = slotsOf(draft.step);
  // Values change in place: the document and the version tell when.
  // oxlint-disable-next-line react/exhaustive-deps
  const wrong = useMemo(() => wrongSlot(session.values, draft), [session, document, version, draft]);
  const missing = whatIsMissing(document, draft) ?? wrong;
  const outcome = preview?.result.steps.find(({ id }) => id === draft.step.id);
  const problem = refusal ?? outcome?.problem?.message;

  useEffect(() => {
    // The solid follows what is typed and picked, before anything is changed.
    const timer = setTimeout(() => {
      if (missing === undefined) setRefusal(session.geometry.preview(stepEdit(session.document, draft, idFor, material), lastBuilt(session, draft))?.message);
      else session.geometry.preview(undefined);
    }, PREVIEW_REST_MS);
    return () => clearTimeout(timer);
  }, [session, document, draft, missing, material]);

  const close = (): void => {
    session.geometry.preview(undefined);
    workspace.setState({ draft: undefined, picking: undefined });
    focusLedger(workspace);
  };
  /** One key does not throw away what is filled in. */
  const escape = (): void => {
    if (draft === opened || isDiscarding) close();
    else setDiscarding(true);
  };
  const build = (): string | undefined => {
    if (missing !== undefined) return missing;
    if (!readsDirections(draft.step) || isPreviewOf(preview, draft.step)) return buildNow();
    void buildOncePreviewed();
    return undefined;
  };
  /** Waits for the preview, which reads the directions that the step is to keep. */
  const buildOncePreviewed = async (): Promise<void> => {
    setBuilding(true);
    const failure = session.geometry.preview(stepEdit(session.document, draft, idFor, material), lastBuilt(session, draft));
    if (!failure) await session.geometry.settled();
    setBuilding(false);
    // Closed or changed meanwhile: it is not what was to be built.
    if (workspace.getState().draft === draft) buildNow();
  };
  const buildNow = (): string | undefined => {
    const step = keepDirections(draft.step, session.store.getState().preview);
    const failure = session.edit(stepEdit(session.document, { ...draft, step }, idFor, material));
    if (failure) {
      setRefusal(failure.message);
      return failure.message;
    }
    // What was put where the build stands is the last that is built now.
    if (draft.after !== undefined) session.geometry.buildTo(draft.step.id);
    workspace.setState({
      draft: undefined,
      picking: undefined,
      selected: draft.step.id,
      ...(draft.step.type === 'sketch' ? { sketch: draft.step.id } : {}),
    });
    // The values of a part that it starts from are what is looked at next.
    if (draft.step.type !== 'sketch') goToRow(workspace, draft.part?.component.id ?? draft.step.id);
    else requestAnimationFrame(() => window.document.querySelector<HTMLElement>('[role="application"]')?.focus());
    return undefined;
  };
  const change = (next: StepDraft): void => {
    setRefusal(undefined);
    setDiscarding(false);
    workspace.setState({ draft: { ...next, step: onItsGround(draft.step, next.step) } });
  };

  const { Fields } = formOf(draft.step.type);
  return (
    // Escape leaves from anywhere in it.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      aria-label={`${draft.isNew ? 'New' : 'Change'} ${stepWords(draft.step.type)}`}
      data-over="left"
      className="absolute top-2 left-2 z-30 flex max-h-[calc(100%-1rem)] w-72 flex-col rounded-box border border-rule bg-sheet shadow-box"
      onSubmit={(event) => {
        event.preventDefault();
        build();
      }}
      onKeyDown={(event) => {
        // What a list or a field takes back itself is not meant for the form.
        if (event.key === 'Escape' && !event.defaultPrevented) escape();
      }}
    >
      <header className="flex items-center gap-2 border-b border-rule px-3 py-1.5">
        <label className="min-w-0 flex-1">
          <span className="sr-only">Name of the step</span>
          <input
            className="w-full rounded-box border border-transparent bg-transparent font-semibold hover:border-rule focus:border-indigo"
            value={draft.step.name}
            onChange={(event) => change({ ...draft, step: { ...draft.step, name: event.target.value }, isNamed: true })}
          />
        </label>
        <span className="text-walnut-soft">{stepWords(draft.step.type)}</span>
      </header>
      <div className="min-h-0 flex-1 overflow-y-auto px-3 py-2">
        <Fields
          draft={draft}
          step={draft.step}
          onChange={(step) => change(changeStep(document, draft, step))}
          onFile={(file) =>
            change({
              ...draft,
              file,
              step: draft.isNamed ? draft.step : { ...draft.step, name: file.name.replace(/\.[^.]+$/, '').slice(0, 80) || draft.step.name },
            })
          }
          onPart={(component, body) => change(changePart(document, draft, component, body))}
          onPreset={(formulas) => change(presetFormulas(draft, formulas))}
        />
        {slots.map((slot, at) => (
          <SlotBox
            key={`${slot.slot} ${slot.kind} ${draft.presets ?? 0}`}
            slot={slot}
            isFirst={at === 0 && draft.presets === undefined}
            draft={draft}
            onChange={change}
            onAccept={build}
            onCancel={escape}
          />
        ))}
      </div>
      <LeftOutWhen draft={draft} onChange={change} />
      <footer className="border-t border-rule px-3 py-2">
        {(missing ?? problem) !== undefined && (
          <p role="status" className={`mb-1.5 ${missing === undefined ? 'text-madder' : 'text-walnut-soft'}`}>
            {missing ?? problem}
          </p>
        )}
        {isDiscarding && <p role="status">Press Escape again to discard what is filled in.</p>}
        <span className="flex gap-2">
          <Button tone="strong" type="submit" ref={submit} disabled={missing !== undefined || isBuilding}>
            {draft.isNew ? (draft.step.type === 'sketch' ? 'Draw' : 'Build') : 'Change'}
          </Button>
          <Button onClick={close}>Cancel</Button>
        </span>
      </footer>
    </form>
  );
}

/** The first formula of a step that is wrong, with why; one that waits for another value is not, nor is a name that the step is about to have. */
function wrongSlot(values: DocumentValues, draft: StepDraft): string | undefined {
  const typed = slotsOf(draft.step).map((slot) => ({ slot, ...splitNamed(formulaOf(draft, slot)) }));
  const own = new Set(typed.flatMap(({ name }) => name ?? []));
  for (const { slot, formula } of typed) {
    const known = 'values' in draft.step ? draft.step.values[slot.slot] : undefined;
    const [problem] = tryFormula(values, formula, slotOf({ kind: slot.kind, name: slot.label, owner: draft.step.id }), known).diagnostics;
    const isOwn = problem?.code === 'unknown-name' && own.has(formula.slice(problem.from, problem.to));
    if (problem && !isOwn && problem.code !== 'waiting') return `${slot.label}: ${problem.message}`;
  }
  return undefined;
}

/** The condition under which the step is suppressed. */
function LeftOutWhen({ draft, onChange }: { draft: StepDraft; onChange: (draft: StepDraft) => void }) {
  const session = useSession();
  const [isOpen, setOpen] = useState(draft.step.suppressed !== undefined);
  const latest = useRef(draft);
  useEffect(() => {
    latest.current = draft;
  });
  if (!isOpen) {
    return (
      <Button tone="quiet" className="mx-2 mb-1 self-start text-walnut-soft" onClick={() => setOpen(true)}>
        Suppress when…
      </Button>
    );
  }
  const take = (text: string): void => {
    const { suppressed: _, ...step } = latest.current.step;
    onChange({ ...latest.current, step: text.trim() === '' ? step : { ...step, suppressed: { text: text.trim() } } });
  };
  return (
    <div className="px-3 pb-2">
      <span className="text-walnut-soft">Suppressed when</span>
      <FormulaBox
        values={session.values}
        initial={draft.step.suppressed?.text ?? ''}
        hint="a condition: weaving_width < 300 mm"
        label="Suppressed when"
        slot={CONDITION}
        isField
        onCancel={() => setOpen(false)}
        onChange={take}
        onAccept={(text) => {
          take(text);
          return undefined;
        }}
      />
    </div>
  );
}

const CONDITION = slotOf({ kind: 'yes-no', name: 'this condition', owner: 'step' });

interface SlotBoxProps {
  readonly slot: StepSlot;
  /** The first one has the focus when the panel opens. */
  readonly isFirst: boolean;
  readonly draft: StepDraft;
  readonly onChange: (draft: StepDraft) => void;
  readonly onAccept: () => string | undefined;
  readonly onCancel: () => void;
}

/** A number of the step: a formula, or `name = formula`. */
function SlotBox({ slot, isFirst, draft, onChange, onAccept, onCancel }: SlotBoxProps) {
  const session = useSession();
  const latest = useRef(draft);
  useEffect(() => {
    latest.current = draft;
  });
  const known = 'values' in draft.step ? draft.step.values[slot.slot] : undefined;
  const judged = useMemo(() => slotOf({ kind: slot.kind, name: slot.label, owner: draft.step.id }), [slot, draft.step.id]);
  return (
    <div className="mb-2">
      <span className="text-walnut-soft">{slot.label}</span>
      <FormulaBox
        values={session.values}
        initial={formulaOf(draft, slot)}
        label={slot.label}
        slot={judged}
        {...(known === undefined ? {} : { forId: known })}
        isField
        autoFocus={isFirst} // oxlint-disable-line jsx-a11y/no-autofocus -- the panel was opened to type into
        onCancel={onCancel}
        onChange={(text) => onChange({ ...latest.current, formulas: { ...latest.current.formulas, [slot.slot]: text } })}
        onAccept={(text, then) => {
          latest.current = { ...latest.current, formulas: { ...latest.current.formulas, [slot.slot]: text } };
          return then === 'stay' ? onAccept() : undefined;
        }}
      />
    </div>
  );
}

/** The panel of the draft or the measurement at hand, if there is one. */
export function OpenStepPanel() {
  const workspace = useWorkspaceStore();
  const draft = useWorkspace((state) => state.draft);
  const isMeasuring = useWorkspace((state) => state.isMeasuring);
  if (isMeasuring) return <MeasurePanel onClose={() => workspace.setState({ isMeasuring: false })} />;
  return draft ? <StepPanel key={draft.step.id} draft={draft} /> : null;
}
