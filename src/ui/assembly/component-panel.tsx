'use client';
/** The component that is selected: what it stands for, where it stands, and which of its values the assembly sets. */
import Link from 'next/link';
import { useState } from 'react';
import { findRecord, listSizes, type Component } from '@/core/document';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { LowerPanel } from '../ledger/lower-panel';
import { TextField } from '../design/text-field';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { toPlacement } from '../state/moved-places';
import { takeSurroundings } from '../state/surroundings';
import { ComponentForm, SizeFields } from './component-form';
import { moveTo, turnBy } from './component-edits';
import { duplicateComponents, markedWith, removeComponents } from './component-verbs';
import { SetValues } from './set-values';

const AXES = ['x', 'y', 'z'] as const;
export function ComponentPanel({ id }: { id: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const component = useSessionState((state) => findRecord(state.document, id, 'component'));
  const isCalc = useSessionState(({ values }) => values.components?.valuesOf(id)?.document.kind === 'calc');
  const isBase = useSessionState(({ document, values }) => document.kind === 'part' && values.components?.valuesOf(id)?.document.kind === 'part');
  const hasSizes = useSessionState(({ values }) => {
    const inside = values.components?.valuesOf(id)?.document;
    return inside !== undefined && listSizes(inside).length > 0;
  });
  const marked = useWorkspace((state) => state.marked);
  if (!component) return null;
  const all = markedWith(session, marked, id);
  const put = (changes: Partial<Component>): void => {
    session.edit({ type: 'component.put', component: { ...component, ...changes } });
  };
  return (
    <LowerPanel
      aria-label={isCalc ? 'Calculation' : 'Component'}
      height={288}
      className="flex flex-col"
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) goToRow(workspace, id);
      }}
    >
      <header className="flex shrink-0 items-center gap-2 px-3 pt-2">
        <span className="w-40 shrink-0">
          <TextField
            label={isCalc ? 'Name of the calculation' : 'Name of the component'}
            value={component.name}
            onAccept={(name) => {
              session.edit({ type: 'value.rename', id, name });
            }}
          />
        </span>
        <p className="min-w-0 flex-1 truncate">
          <Link href={`/documents/${component.source}`} className="underline" onClick={() => takeSurroundings(session, id)}>
            {component.sourceName}
          </Link>
          , revision {component.revision}
        </p>
        <Button tone="quiet" onClick={() => workspace.setState({ task: { kind: 'add-component', instead: id } })}>
          Replace…
        </Button>
        {!isBase && (
          <Button tone="quiet" onClick={() => duplicateComponents(session, workspace, all)} title={all.length > 1 ? 'With the mates between them' : undefined}>
            Duplicate{all.length > 1 ? ` ${all.length}` : ''}
          </Button>
        )}
        <Button tone="quiet" onClick={() => removeComponents(session, workspace, all)}>
          Remove{all.length > 1 ? ` ${all.length}` : ''}
        </Button>
      </header>
      {all.length > 1 && <Together components={all} />}
      <div className="flex min-h-0 flex-1 gap-4 px-3 pt-2">
        {(!(isCalc || isBase) || hasSizes) && (
          <div className="w-56 shrink-0 overflow-y-auto pb-2">
            {component.at && <Place component={component} />}
            {component.at ? <ComponentForm component={component} /> : <SizeFields component={component} />}
            {!isCalc && !isBase && <SuppressedWhen component={component} onPut={put} />}
          </div>
        )}
        <SetValues component={component} />
      </div>
    </LowerPanel>
  );
}

/** What several weigh, and where their centre is. */
function Together({ components }: { components: readonly string[] }) {
  const session = useSession();
  useSessionState((state) => state.placed);
  const found = session.geometry.assembly?.weigh(new Set(components));
  return (
    <p className="px-3 pt-1">
      <span className="text-walnut-soft">{components.length} components: </span>
      {found ? (
        <span className="font-mono tabular-nums">
          {found.mass.toFixed(3)} kg, centre {found.centre.map((value) => value.toFixed(1)).join(', ')} mm
        </span>
      ) : (
        'not all of them are built, or have a mass'
      )}
    </p>
  );
}

/** Where its origin stands, and how it is turned. */
function Place({ component }: { component: Component }) {
  const session = useSession();
  // Where its mates have put it, rather than where a solve begins.
  const stance = useSessionState((state) => state.placement?.stances.get(component.id));
  const at = stance ? toPlacement(stance) : component.at;
  if (!at) return null;
  const standing = { ...component, at };
  const run = (edit: ReturnType<typeof moveTo>): void => {
    if (edit) session.edit(edit);
  };
  return (
    <fieldset>
      <legend className="text-walnut-soft">Origin, in mm</legend>
      <div className="flex gap-1">
        {AXES.map((axis, i) => (
          <span key={axis} className="flex min-w-0 flex-1 items-center gap-1">
            {axis}
            <TextField
              label={`Origin ${axis} in mm`}
              value={String(Math.round((at.origin[i as 0 | 1 | 2] ?? 0) * 1e6) / 1e6)}
              check={(text) => (isPlace(text) ? undefined : 'A number of millimetres: 12.5')}
              onAccept={(text) => run(moveTo(standing, i as 0 | 1 | 2, Number(text)))}
            />
          </span>
        ))}
      </div>
      <div className="mt-1 flex items-center gap-1">
        <span className="text-walnut-soft">Turn 90° about</span>
        {AXES.map((axis, i) => (
          <Button key={axis} tone="quiet" aria-label={`Turn 90° about ${axis}`} onClick={() => run(turnBy(standing, i as 0 | 1 | 2, 90))}>
            {axis}
          </Button>
        ))}
      </div>
    </fieldset>
  );
}

function isPlace(text: string): boolean {
  return text !== '' && Number.isFinite(Number(text)) && Math.abs(Number(text)) <= 1e7;
}

function SuppressedWhen({ component, onPut }: { component: Component; onPut: (changes: Partial<Component>) => void }) {
  const session = useSession();
  const [isOpen, setOpen] = useState(component.suppressed !== undefined);
  if (!isOpen) {
    return (
      <Button tone="quiet" className="mt-2 text-walnut-soft" onClick={() => setOpen(true)}>
        Suppress when…
      </Button>
    );
  }
  return (
    <div className="mt-2">
      <span className="text-walnut-soft">Suppressed when</span>
      <FormulaBox
        values={session.values}
        initial={component.suppressed?.text ?? ''}
        hint="a condition: loom_width < 300 mm"
        label="Suppressed when"
        slot={CONDITION}
        isField
        autoFocus={component.suppressed === undefined} // oxlint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
        onCancel={() => setOpen(component.suppressed !== undefined)}
        onAccept={(typed) => {
          const text = typed.trim();
          const { suppressed: _, ...rest } = component;
          if (text === '') session.edit({ type: 'component.put', component: rest });
          else onPut({ suppressed: { text } });
          return undefined;
        }}
      />
    </div>
  );
}

const CONDITION = { kind: 'yes-no', label: 'this condition' } as const;
