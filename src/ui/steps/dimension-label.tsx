'use client';
import { useContext, useRef, useState } from 'react';
import { findRecord, slotOf } from '@/core/document';
import { MILLIMETRE, prettyUnit } from '@/core/units';
import { ToScreenContext, type ToScreen } from '../canvas3d/space-labels';
import { FormulaBox } from '../formula-box/formula-box';
import { plainFormula, setFormulaEdit, useScrub } from '../ledger/scrub-value';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { followPointer } from '../state/follow-pointer';
import { addToNumber } from '../state/scrub';
import { editValue } from '../state/value-edits';
import { findFormulaTarget } from '../state/workspace';
import type { SolidDimension } from './solid-dimensions';

/** A value of a step on the solid: a click selects it, Enter or a double click edits it, dragging changes it. */
export function DimensionLabel({ dimension }: { dimension: SolidDimension }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const version = useSessionState((state) => state.version);
  const parameter = useSessionState((state) => findRecord(state.document, dimension.id, 'parameter'));
  const isSelected = useWorkspace((state) => state.selected === dimension.id);
  const mode = useWorkspace((state) => state.dimensionText);
  const [isEditing, setEditing] = useState(false);
  const { ref: scrubRef, onPointerDown: scrub } = useScrub(dimension.id);
  const toScreen = useContext(ToScreenContext);
  const drag = useDragAlong(dimension, toScreen);
  const label = useRef<HTMLButtonElement>(null);
  if (!parameter) return null;
  const shown = session.values.show(dimension.id);
  const isWrong = (shown?.diagnostics.length ?? 0) > 0;
  const close = (): void => {
    setEditing(false);
    requestAnimationFrame(() => label.current?.focus());
  };
  if (isEditing) {
    return (
      <div className="w-56 rounded-box bg-sheet shadow-box">
        <FormulaBox
          values={session.values}
          initial={mode === 'name' ? `${parameter.name} = ${parameter.formula.text}` : parameter.formula.text}
          label={`Value of ${parameter.name}`}
          slot={slotOf(parameter)}
          forId={dimension.id}
          autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
          onCancel={close}
          onAccept={(text) => {
            const edit = editValue(session.document, dimension.id, text);
            const failure = edit && session.edit(edit);
            if (!failure) close();
            return failure?.message;
          }}
        />
      </div>
    );
  }
  const text = isWrong
    ? 'error'
    : (dimension.prefix ?? '') + (mode === 'name' ? parameter.name : mode === 'formula' ? parameter.formula.text : prettyUnit(shown?.shown ?? ''));
  const colour = isWrong ? 'border-madder text-madder' : shown?.isLiteral ? 'border-rule text-walnut' : 'border-rule value-formula';
  return (
    <span ref={scrubRef}>
      <button
        ref={label}
        type="button"
        data-version={version}
        className={`rounded-box border bg-linen px-1 font-mono text-[13px] whitespace-nowrap tabular-nums ${isSelected ? 'border-orchil text-orchil' : colour} ${shown?.isLiteral ? 'cursor-move touch-none' : ''}`}
        title={`${parameter.name} = ${parameter.formula.text}`}
        aria-label={`${parameter.name}, ${text}`}
        onPointerDown={(event) => {
          const target = findFormulaTarget();
          if (target) {
            event.preventDefault();
            target.insert(parameter.name);
          } else (dimension.along ? drag : scrub)?.(event);
        }}
        onClick={() => {
          if (!findFormulaTarget()) workspace.setState({ selected: dimension.id });
        }}
        onDoubleClick={() => setEditing(true)}
        onKeyDown={(event) => {
          if (event.key !== 'Enter' && event.key !== 'F2') return;
          event.preventDefault();
          setEditing(true);
        }}
      >
        {text}
      </button>
    </span>
  );
}

/** Dragging along the direction in which the value grows, as it is seen on the screen. */
function useDragAlong({ id, at, along }: SolidDimension, toScreen: ToScreen): ((event: React.PointerEvent) => void) | undefined {
  const session = useSession();
  if (!along) return undefined;
  return (event) => {
    const start = plainFormula(session, id);
    const [here, there] = [toScreen(at), toScreen([at[0] + along[0], at[1] + along[1], at[2] + along[2]])];
    if (start === undefined || !here || !there || event.button !== 0) return;
    const [sx, sy] = [there[0] - here[0], there[1] - here[1]];
    const perMillimetre = sx * sx + sy * sy;
    if (perMillimetre < 1e-4) return;
    // As many of the written unit as make a millimetre.
    const written = Number.parseFloat(start);
    const length = session.values.sheet.readNumber(id) / MILLIMETRE;
    const unit = Math.abs(length) > 1e-9 && Math.abs(written) > 0 ? written / length : 1;
    const { clientX, clientY } = event;
    let isDragging = false;
    const move = (to: PointerEvent): void => {
      const amount = ((to.clientX - clientX) * sx + (to.clientY - clientY) * sy) / perMillimetre;
      if (!isDragging && Math.abs(amount) * Math.sqrt(perMillimetre) < 4) return;
      isDragging = true;
      const text = addToNumber(start, amount * unit, to.shiftKey ? 2 : unit < 0.1 ? 2 : 0);
      if (text !== undefined) session.tryOut(setFormulaEdit(session, id, text));
    };
    followPointer(move, (isKept) => {
      if (isDragging) session.endTrial(isKept);
    });
  };
}
