'use client';
import { findRecord, slotOf, tryFormula } from '@/core/document';
import { dimensionEdit, largestFillet, suggestedText, type Place } from '@/core/drawing';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useWorkspace, useWorkspaceStore } from '../state/context';
import { editOrAsk } from '../state/removal';
import { editValue, splitNamed } from '../state/value-edits';
import { changeByValue, type ChangeWish } from './change-tools';
import { toScreen, type SketchView } from './sketch-view';
import type { SketchTools } from './use-sketch-tools';
import { MILLIMETRE } from '@/core/units';

/** The value box that is open on the canvas, if any: of a dimension, of a new one, of a fillet or an offset. */
export function ValueBoxes({ view, tools, onDone }: { view: SketchView; tools: SketchTools; onDone: () => void }) {
  const { open, pending, wish } = tools;
  if (open) return <OpenDimension key={open.id} view={view} tools={tools} onDone={onDone} />;
  if (wish) return <ChangeValue key={`${wish.tool} ${wish.ids.join()}`} view={view} tools={tools} wish={wish} onDone={onDone} />;
  if (pending) return <NewDimension key={`${pending.plan.kind} ${pending.plan.on.join()}`} view={view} tools={tools} onDone={onDone} />;
  return null;
}

interface BoxProps {
  readonly view: SketchView;
  readonly tools: SketchTools;
  readonly onDone: () => void;
}

/** A horizontal or vertical dimension keeps its side; what turns it over is said before it is kept. */
function remarkOnSide(kind: string): ((value: number) => string | undefined) | undefined {
  if (kind !== 'horizontal' && kind !== 'vertical') return undefined;
  return (value) => (value < 0 ? 'Less than 0: it is measured to the other side.' : undefined);
}

function OpenDimension({ view, tools, onDone }: BoxProps) {
  const session = useSession();
  const { open } = tools;
  const isNaming = useWorkspace((state) => state.dimensionText === 'name');
  if (!open) return null;
  const parameter = findRecord(session.document, open.parameter, 'parameter');
  const kind = open.kind === 'count' || open.kind === 'angle' ? open.kind : 'length';
  const close = (): void => {
    tools.setOpen(undefined);
    onDone();
  };
  return (
    <BoxAt place={toScreen(view, open.at)}>
      <FormulaBox
        values={session.values}
        // Where names are shown, the name is there to be changed too.
        initial={isNaming && parameter ? `${parameter.name} = ${parameter.formula.text}` : (parameter?.formula.text ?? '')}
        label={`Value of ${parameter?.name ?? 'the dimension'}`}
        slot={slotOf({ kind, name: 'the dimension', owner: open.sketch })}
        forId={open.parameter}
        remarkOn={remarkOnSide(open.kind)}
        onCancel={close}
        onAccept={(text) => {
          const edit = editValue(session.document, open.parameter, text);
          const failure = edit && session.edit(edit);
          if (!failure) close();
          return failure?.message;
        }}
      />
    </BoxAt>
  );
}

function NewDimension({ view, tools, onDone }: BoxProps) {
  const session = useSession();
  const { pending } = tools;
  if (!pending) return null;
  return (
    <BoxAt place={toScreen(view, pending.at)}>
      <FormulaBox
        values={session.values}
        initial={suggestedText(pending.plan)}
        typed={tools.typed}
        label="Value of the new dimension"
        remarkOn={remarkOnSide(pending.plan.kind)}
        slot={slotOf({ kind: pending.plan.kind === 'angle' ? 'angle' : 'length', name: 'the dimension', owner: 'sketch' })}
        onCancel={() => {
          tools.closeDimension(false);
          onDone();
        }}
        onAccept={(text) => {
          const failure = session.edit(dimensionEdit(tools.context(), pending.plan, pending.at, splitNamed(text)));
          if (failure) return failure.message;
          tools.closeDimension(true);
          onDone();
          return undefined;
        }}
      />
    </BoxAt>
  );
}

const LABELS = { fillet: 'Radius of the fillet', chamfer: 'Setback of the chamfer', offset: 'Distance of the offset' } as const;

function ChangeValue({ view, tools, wish, onDone }: BoxProps & { wish: ChangeWish }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const slot = slotOf({ kind: 'length', name: LABELS[wish.tool], owner: 'sketch' });
  return (
    <BoxAt place={toScreen(view, wish.at)}>
      <FormulaBox
        values={session.values}
        initial={suggestSize(tools, wish)}
        label={LABELS[wish.tool]}
        slot={slot}
        onCancel={() => {
          tools.closeChange(false);
          onDone();
        }}
        onAccept={(text) => {
          const value = splitNamed(text);
          const tried = tryFormula(session.values, value.formula, slot);
          if (tried.diagnostics.length > 0) return tried.diagnostics[0]?.message;
          const result = changeByValue(tools.context(), wish, value, tried.value / MILLIMETRE);
          if (!result.ok) return result.failure;
          editOrAsk(session, workspace, `${wish.tool} here`, result.value);
          tools.closeChange(true);
          onDone();
          return undefined;
        }}
      />
    </BoxAt>
  );
}

/** A size that fits, to begin with. */
function suggestSize(tools: SketchTools, wish: ChangeWish): string {
  if (wish.tool === 'offset') return '5 mm';
  const most = largestFillet(tools.context().shape, wish.ids[0] ?? '') ?? 20;
  return `${Number(Math.min(5, most / 4).toPrecision(2))} mm`;
}

/** A value box over a place of the canvas, kept inside its right edge. */
function BoxAt({ place: [x, y], children }: { place: Place; children: React.ReactNode }) {
  return (
    <div className="absolute z-30 flex w-64" style={{ left: `clamp(4px, ${x - 128}px, calc(100% - 260px))`, top: Math.max(90, y - 14) }}>
      {children}
    </div>
  );
}
