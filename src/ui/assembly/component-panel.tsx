'use client';
/** The component that is selected: what it stands for, where it stands, and which of its values the assembly sets. */
import Link from 'next/link';
import { useState } from 'react';
import { findRecord, listDriving, listRecords, listSteps, type Component, type Document, type Parameter, type Take } from '@/core/document';
import { ANY_SLOT } from '@/core/formula';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { LowerPanel } from '../ledger/lower-panel';
import { TextField } from '../ledger/text-field';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { toPlacement } from '../state/moved-places';
import { ComponentForm } from './component-form';
import { findDrive, moveTo, setFromHere, turnBy } from './component-edits';
import { duplicateComponent, removeComponent } from './component-verbs';

const AXES = ['x', 'y', 'z'] as const;
/** More values than this are found by their names. */
const MOST_LISTED = 200;

export function ComponentPanel({ id }: { id: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const component = useSessionState((state) => findRecord(state.document, id, 'component'));
  if (!component) return null;
  const put = (changes: Partial<Component>): void => {
    session.edit({ type: 'component.put', component: { ...component, ...changes } });
  };
  return (
    <LowerPanel
      aria-label="Component"
      height={288}
      className="flex flex-col"
      onKeyDown={(event) => {
        if (event.key === 'Escape' && !event.defaultPrevented) goToRow(workspace, id);
      }}
    >
      <header className="flex shrink-0 items-center gap-2 px-3 pt-2">
        <span className="w-40 shrink-0">
          <TextField
            label="Name of the component"
            value={component.name}
            onAccept={(name) => {
              session.edit({ type: 'value.rename', id, name });
            }}
          />
        </span>
        <p className="min-w-0 flex-1 truncate">
          <Link href={`/documents/${component.source}`} className="underline">
            {component.sourceName}
          </Link>
          , revision {component.revision}
        </p>
        <Button tone="quiet" onClick={() => workspace.setState({ task: { kind: 'add-component', instead: id } })}>
          Replace…
        </Button>
        <Button tone="quiet" onClick={() => duplicateComponent(session, workspace, id)}>
          Duplicate
        </Button>
        <Button tone="quiet" onClick={() => removeComponent(session, workspace, id)}>
          Remove
        </Button>
      </header>
      <div className="flex min-h-0 flex-1 gap-4 px-3 pt-2">
        <div className="w-56 shrink-0 overflow-y-auto pb-2">
          {component.at && <Place component={component} />}
          {component.at && <ComponentForm component={component} />}
          <SuppressedWhen component={component} onPut={put} />
        </div>
        <SetValues component={component} />
      </div>
    </LowerPanel>
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

/** Its values: what they are here, and which of them are set from here. */
function SetValues({ component }: { component: Component }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  useSessionState((state) => state.version);
  const [text, setText] = useState('');
  const [open, setOpen] = useState<string>();
  const inside = session.values.components?.valuesOf(component.id);
  if (!inside) return null;
  const wanted = text.trim().toLowerCase();
  const all = listSettable(inside.document);
  const shown = all.filter((record) => record.name.toLowerCase().includes(wanted)).slice(0, MOST_LISTED);
  return (
    <section aria-label="Values of the component" className="min-w-0 flex-1 overflow-y-auto pb-2">
      {all.length > 8 && (
        <input
          aria-label="Search values"
          placeholder="Search values"
          className="mb-1 h-7 w-full rounded-box border border-rule bg-sheet px-1.5"
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
      )}
      <ul>
        {shown.map((record) => {
          const drive = findDrive(document, component.id, [record.id]);
          const goal = { component: component.id, path: [record.id], sourceName: record.name };
          return (
            <li key={record.id} className="border-b border-rule/50 py-0.5">
              <span className="flex items-center gap-2">
                <span className="min-w-0 flex-1 truncate" title={record.name}>
                  {record.name}
                </span>
                <span className={`font-mono tabular-nums ${drive ? 'value-formula' : ''}`}>{prettyUnit(inside.show(record.id)?.shown || 'error')}</span>
                {drive ? (
                  <Button
                    tone="quiet"
                    className="h-6"
                    onClick={() => session.edit({ type: 'drive.remove', id: drive.id })}
                    title="Use the value of its own document"
                  >
                    Reset
                  </Button>
                ) : (
                  <Button
                    tone="quiet"
                    className="h-6"
                    aria-label={`Set ${record.name} from here`}
                    onClick={() => setOpen(open === record.id ? undefined : record.id)}
                  >
                    Set
                  </Button>
                )}
              </span>
              {(drive !== undefined || open === record.id) && (
                <FormulaBox
                  key={drive?.id ?? 'new'}
                  values={session.values}
                  initial={drive?.formula.text ?? ''}
                  hint="a formula of this assembly"
                  label={`${component.name}.${record.name}`}
                  slot={session.values.components?.slotOfValue(record, `${component.name}.${record.name}`) ?? ANY_SLOT}
                  {...(drive ? { forId: drive.id } : {})}
                  isField
                  autoFocus={drive === undefined} // eslint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
                  onCancel={() => setOpen(undefined)}
                  onAccept={(formula) => {
                    if (formula.trim() === '') return undefined;
                    const failure = session.edit(setFromHere(session.document, goal, formula.trim()));
                    if (!failure) setOpen(undefined);
                    return failure?.message;
                  }}
                />
              )}
            </li>
          );
        })}
      </ul>
      {shown.length === 0 && <p className="text-walnut-soft">{all.length === 0 ? 'No value of it can be set.' : 'No value matches.'}</p>}
    </section>
  );
}

/** Driving values first, then those of its steps; what is measured is not set. */
function listSettable(document: Document): (Parameter | Take)[] {
  const steps = listSteps(document).flatMap(({ id }) => listRecords(document, `${id}/values`, 'parameter'));
  const referenced = new Set(
    listSteps(document).flatMap(({ id }) => listRecords(document, `${id}/constraints`, 'dimension').flatMap((one) => (one.isReference ? one.parameter : []))),
  );
  return [...listDriving(document), ...steps].filter((record) => record.type === 'take' || (record.measure === undefined && !referenced.has(record.id)));
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
        autoFocus={component.suppressed === undefined} // eslint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
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
