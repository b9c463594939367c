'use client';
/** The values of a component, or of a calc sheet that is used: what they are here, which of them are set from here, and what comes out. */
import { useMemo, useState } from 'react';
import {
  findAny,
  hasShape,
  KIND_WORDS,
  listDriving,
  listOutputs,
  listRecords,
  listSteps,
  takenNames,
  tryFormula,
  type Component,
  type Document,
  type DocumentValues,
  type Parameter,
  type Take,
} from '@/core/document';
import { ANY_SLOT } from '@/core/formula';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { NEW_VALUE } from '../state/ledger-rows';
import { openBox } from '../ledger/open-box';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { freeName } from '../state/free-name';
import { findDrive, setFromHere } from './component-edits';

/** More values than this are found by their names. */
const MOST_LISTED = 200;

/** Its values, each to be set from here; of a calc sheet first its inputs, then what it comes to. */
export function SetValues({ component }: { component: Component }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const [text, setText] = useState('');
  const inside = session.values.components?.valuesOf(component.id);
  if (!inside) return null;
  const wanted = text.trim().toLowerCase();
  const all = [...listSettable(inside.document), ...listOutputs(inside.document)];
  const shown = all.filter((record) => record.name.toLowerCase().includes(wanted)).slice(0, MOST_LISTED);
  const isResult = (record: Parameter | Take): boolean =>
    isAnswer(record) || (inside.document.kind === 'calc' && !findDrive(document, component.id, [record.id]) && readsOthers(inside, record.id));
  const results = shown.filter(isResult);
  const measured = listMeasured(inside.document).filter((name) => name.toLowerCase().includes(wanted));
  const hasResults = results.length + measured.length > 0;
  const settable = shown.filter((record) => !isResult(record));
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
      <div className={hasResults ? 'grid grid-cols-2 gap-4' : ''}>
        <div className="min-w-0">
          {hasResults && <h3 className="text-walnut-soft">{inside.document.kind === 'calc' ? 'Inputs' : 'Values'}</h3>}
          <ul>
            {settable.map((record) => (
              <SettableValue key={record.id} component={component} record={record} inside={inside} />
            ))}
          </ul>
        </div>
        {hasResults && (
          <div className="min-w-0">
            <h3 className="text-walnut-soft">
              Results, read as <span className="font-mono">{component.name}.</span>
            </h3>
            <ul>
              {results.map((record) => (
                <Result key={record.id} component={component} record={record} inside={inside} />
              ))}
              {measured.map((name) => (
                <Measured key={name} component={component} name={name} version={version} />
              ))}
            </ul>
          </div>
        )}
      </div>
      {shown.length + measured.length === 0 && <p className="text-walnut-soft">{all.length === 0 ? 'No value of it can be set.' : 'No value matches.'}</p>}
    </section>
  );
}

/** What an outside calculation hands back is read, never set. */
function isAnswer(record: Parameter | Take): boolean {
  return record.type === 'parameter' && record.measure?.of === 'outside';
}

/** Its limits are no values that it comes from. */
function readsOthers({ sheet, document, components }: DocumentValues, id: string): boolean {
  return sheet.listReads(id).some((read) => findAny(document, read) !== undefined || (components !== undefined && read.includes('>')));
}

interface ValueProps {
  readonly component: Component;
  readonly record: Parameter | Take;
  readonly inside: DocumentValues;
}

/** A value that comes out: read under its name here. */
function Result({ component, record, inside }: ValueProps) {
  const shown = inside.show(record.id);
  return <ReadLine component={component} name={record.name} shown={shown?.shown ?? ''} problem={shown?.diagnostics[0]?.message} />;
}

/** What is measured on its shape: as a formula here would read it. */
function Measured({ component, name, version }: { component: Component; name: string; version: number }) {
  const { values } = useSession();
  // The values are one object that is kept up to date in place.
  // oxlint-disable-next-line react/exhaustive-deps
  const tried = useMemo(() => tryFormula(values, `${component.name}.${name}`), [values, component.name, name, version]);
  return <ReadLine component={component} name={name} shown={tried.shown} problem={tried.diagnostics[0]?.message} />;
}

interface ReadLineProps {
  readonly component: Component;
  readonly name: string;
  readonly shown: string;
  readonly problem: string | undefined;
}

function ReadLine({ component, name, shown, problem }: ReadLineProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const path = `${component.name}.${name}`;
  const read = (): void => {
    const own = freeName(name, takenNames(session.document));
    openBox(session, workspace, { id: NEW_VALUE, what: 'formula', typed: `${own} = ${path}` });
  };
  return (
    <li className="flex items-center gap-2 border-b border-rule/50 py-0.5">
      <span className="min-w-0 flex-1 truncate font-mono" title={problem ?? path}>
        {name}
      </span>
      <span className={`font-mono tabular-nums ${problem === undefined ? '' : 'text-madder'}`} title={problem}>
        {prettyUnit(shown || 'error')}
      </span>
      <Button tone="quiet" className="h-6" aria-label={`Read ${path} here`} title={`A new value that reads ${path}`} onClick={read}>
        Read
      </Button>
    </li>
  );
}

function SettableValue({ component, record, inside }: ValueProps) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const [isOpen, setOpen] = useState(false);
  const drive = findDrive(document, component.id, [record.id]);
  const goal = { component: component.id, path: [record.id], sourceName: record.name };
  return (
    <li className="border-b border-rule/50 py-0.5">
      <span className="flex items-center gap-2">
        <span className="min-w-0 flex-1 truncate" title={record.name}>
          {record.name}
        </span>
        <span className={`font-mono tabular-nums ${drive ? 'value-formula' : ''}`}>{prettyUnit(inside.show(record.id)?.shown || 'error')}</span>
        {drive ? (
          <Button tone="quiet" className="h-6" onClick={() => session.edit({ type: 'drive.remove', id: drive.id })} title="Use the value of its own document">
            Reset
          </Button>
        ) : (
          <Button tone="quiet" className="h-6" aria-label={`Set ${record.name} from here`} onClick={() => setOpen(!isOpen)}>
            Set
          </Button>
        )}
      </span>
      {(drive !== undefined || isOpen) && (
        <FormulaBox
          key={drive?.id ?? 'new'}
          values={session.values}
          initial={drive?.formula.text ?? ''}
          hint={`a formula of this ${KIND_WORDS[document.kind]}`}
          label={`${component.name}.${record.name}`}
          slot={session.values.components?.slotOfValue(record, `${component.name}.${record.name}`) ?? ANY_SLOT}
          {...(drive ? { forId: drive.id } : {})}
          isField
          autoFocus={drive === undefined} // oxlint-disable-line jsx-a11y/no-autofocus -- it was opened to type into
          onCancel={() => setOpen(false)}
          onAccept={(formula) => {
            if (formula.trim() === '') return undefined;
            const failure = session.edit(setFromHere(session.document, goal, formula.trim()));
            if (!failure) setOpen(false);
            return failure?.message;
          }}
        />
      )}
    </li>
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

/** What is read off its shape: its measured values by name, and what every shape has. */
function listMeasured(document: Document): string[] {
  if (!hasShape(document)) return [];
  const named = Object.values(document.records).flatMap((record) =>
    record.type === 'parameter' && record.measure !== undefined && record.measure.of !== 'outside' ? record.name : [],
  );
  return [...new Set([...named, 'mass', 'volume'])];
}
