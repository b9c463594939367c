'use client';
import { useState } from 'react';
import {
  explainValue,
  findRecord,
  inShownUnit,
  limitsOf,
  readTypedTolerance,
  shownTolerance,
  TOLERANCE_HINT,
  toleranceText,
  withReadUnit,
  type EditOf,
  type Parameter,
  type Tolerance,
} from '@/core/document';
import { QUANTITY_KINDS, parseUnit } from '@/core/units';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import { TakenValue } from './taken-value';
import { TextField } from '../design/text-field';
import { goToRow } from './go-to-row';
import { LowerPanel } from './lower-panel';
import { MarkedValues } from './marked-values';
import { PlayValue } from './play-value';
import { ValueAround } from './value-around';
import { ValueHeader } from './value-header';

/** Of one height whatever is selected, so that no row jumps away under the pointer; in pixels. */
const HEIGHT = 192;
const PANEL = 'overflow-y-auto px-3 py-2';

/** What is known of the selected value: its chain, what it reads and drives, its note, kind, limits. */
export function ValuePanel({ order }: { order: readonly string[] }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const selected = useWorkspace((state) => state.selected);
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const users = useWorkspace((state) => (selected === undefined ? undefined : state.uses.get(selected)));
  const parameter = selected === undefined ? undefined : findRecord(document, selected, 'parameter');
  const take = selected === undefined ? undefined : findRecord(document, selected, 'take');
  const record = parameter ?? take;
  const marked = useWorkspace((state) => state.marked);
  const ids = marked.size > 1 ? order.filter((id) => marked.has(id)) : [];
  if (ids.length > 1) {
    return (
      <LowerPanel aria-label="Selected value" height={HEIGHT} className={PANEL}>
        <MarkedValues ids={ids} />
      </LowerPanel>
    );
  }
  if (selected === undefined || !record) {
    return (
      <LowerPanel aria-label="Selected value" height={HEIGHT} isIdle className="px-3 py-1.5">
        <p className="text-walnut-soft">
          Select a value to see where it comes from and what it drives.
          <button type="button" className="ml-3 underline underline-offset-2" onClick={() => workspace.setState({ task: { kind: 'keys' } })}>
            Keys
          </button>
        </p>
      </LowerPanel>
    );
  }
  const { sheet } = session.values;
  const chain = explainValue(session.values, selected);
  const names = (ids: readonly string[]) =>
    [...new Set(ids.map((id) => id.replace(/[/>].*$/, '')))].flatMap((id) => {
      const record = document.records[id];
      // What is set in a component is called by its path.
      const name = record?.type === 'drive' ? sheet.nameOf(id) : record && 'name' in record ? record.name : undefined;
      return name !== undefined && id !== selected ? [{ id, name }] : [];
    });
  return (
    <LowerPanel
      aria-label="Selected value"
      data-version={version}
      height={HEIGHT}
      className={PANEL}
      onKeyDown={(event) => {
        // Back to the row that it is of; what is typed here has taken its own Escape.
        if (event.key === 'Escape' && !event.defaultPrevented) goToRow(workspace, selected);
      }}
    >
      <ValueHeader id={selected} name={record.name} chain={chain ? chain.join(' = ') : `${record.name} = ${session.values.show(selected)?.shown || 'error'}`} />
      <p>
        <ThreadList key={`reads ${selected}`} label="Reads" values={names(sheet.listReads(selected))} onPick={(id) => goToRow(workspace, id)} />
        <ThreadList key={`drives ${selected}`} label="Drives" values={names(sheet.listReaders(selected))} onPick={(id) => goToRow(workspace, id)} />
        {users && users.length > 0 && (
          <span className="mr-4">
            <span className="text-walnut-soft">Taken by </span>
            {[...new Set(users)].join(', ')}
          </span>
        )}
      </p>
      <ValueAround id={selected} shown={session.values.show(selected)?.shown ?? ''} />
      {take && <TakenValue take={take} />}
      <Trouble id={selected} formula={parameter?.formula.text} />
      {parameter && document.kind === 'assembly' && <PlayValue key={`play ${parameter.id}`} parameter={parameter} />}
      {parameter && <ParameterForm key={parameter.id} parameter={parameter} />}
    </LowerPanel>
  );
}

/** What is wrong with a value, in full, with what its formula could say instead. */
function Trouble({ id, formula }: { id: string; formula: string | undefined }) {
  const session = useSession();
  const [wrong] = session.values.sheet.read(id)?.diagnostics ?? [];
  if (!wrong) return null;
  return (
    <p className="text-madder">
      {[wrong.message, wrong.hint].filter((part) => part !== undefined).join(' ')}
      {formula !== undefined &&
        wrong.repairs?.slice(0, 3).map(({ label, from, to, text }) => (
          <Button
            key={label}
            className="ml-1.5 h-6 font-mono text-[13px] text-walnut"
            onClick={() => session.edit({ type: 'parameter.setFormula', id, formula: { text: formula.slice(0, from) + text + formula.slice(to) } })}
          >
            {label}
          </Button>
        ))}
    </p>
  );
}

/** More names than these are listed when they are asked for. */
const MOST_NAMES = 12;

interface ThreadListProps {
  readonly label: string;
  readonly values: readonly { readonly id: string; readonly name: string }[];
  readonly onPick: (id: string) => void;
}

function ThreadList({ label, values, onPick }: ThreadListProps) {
  const [isWhole, setWhole] = useState(false);
  const listed = isWhole ? values : values.slice(0, MOST_NAMES);
  const more = values.length - listed.length;
  return (
    <span className="mr-4">
      <span className="text-walnut-soft">{label} </span>
      {values.length === 0 && 'nothing'}
      {listed.map(({ id, name }) => (
        <button key={id} type="button" className="mr-2 underline decoration-rule underline-offset-2 hover:decoration-indigo" onClick={() => onPick(id)}>
          {name}
        </button>
      ))}
      {more > 0 && (
        <button type="button" className="rounded-box border border-rule px-1.5 hover:bg-linen" onClick={() => setWhole(true)}>
          and {more} more
        </button>
      )}
    </span>
  );
}

type Changes = EditOf<'parameter.update'>['changes'];

function ParameterForm({ parameter }: { parameter: Parameter }) {
  const session = useSession();
  const isOwned = parameter.owner !== undefined;
  const isMeasured = session.values.isMeasured(parameter.id);
  const update = (changes: Changes): void => {
    session.edit({ type: 'parameter.update', id: parameter.id, changes });
  };
  return (
    <div className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1.5">
      <span className="flex basis-full items-center gap-4">
        <Field label="Note" className="flex-1">
          <TextField label="Note" value={parameter.note ?? ''} onAccept={(text) => update({ note: text === '' ? null : text })} />
        </Field>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={parameter.pinned === true} onChange={(event) => update({ pinned: event.target.checked })} /> pinned
        </label>
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={parameter.offered === true} onChange={(event) => update({ offered: event.target.checked })} /> offered
        </label>
      </span>
      {!isOwned && (
        <Field label="It is" className="flex-1">
          <select
            aria-label="What it is"
            className="h-7 w-full min-w-24 rounded-box border border-rule bg-sheet"
            value={parameter.kind}
            onChange={(event) => update({ kind: event.target.value })}
          >
            {['any', ...QUANTITY_KINDS, 'yes-no', 'text'].map((kind) => (
              <option key={kind} value={kind}>
                {kind === 'any' ? 'what the formula gives' : kind}
              </option>
            ))}
          </select>
        </Field>
      )}
      <Field label="shown in" className="w-36">
        <TextField
          label="Shown in"
          value={parameter.displayUnit ?? ''}
          hint="as typed"
          check={(text) => (text === '' || parseUnit(text) ? undefined : `${text} is not a unit.`)}
          onAccept={(text) => update({ displayUnit: text === '' ? null : text })}
        />
      </Field>
      {!isMeasured && <Limits parameter={parameter} onUpdate={update} />}
      <ToleranceField parameter={parameter} onUpdate={update} />
    </div>
  );
}

/** How far off it may be, with the limits that this makes. */
function ToleranceField({ parameter, onUpdate }: { parameter: Parameter; onUpdate: (changes: Changes) => void }) {
  const session = useSession();
  const { values } = session;
  const limits = limitsOf(values, parameter.id);
  const read = (text: string): Tolerance | undefined => readTypedTolerance(values, text, parameter);
  return (
    <Field label="tolerance" className="min-w-52 flex-1">
      <TextField
        label="Tolerance"
        value={shownTolerance(values, parameter.id)}
        hint="±0.1, +0.2/-0.1, H7"
        check={(text) => (text.trim() === '' || read(text) ? undefined : TOLERANCE_HINT)}
        readAs={(text) => {
          const tolerance = read(text);
          return tolerance ? toleranceText(tolerance) : text;
        }}
        onAccept={(text) => onUpdate({ tolerance: text.trim() === '' ? null : (read(text) ?? null) })}
      />
      {limits && (
        <span className={`shrink-0 font-mono text-[13px] ${'problem' in limits ? 'text-madder' : ''}`}>
          {'problem' in limits ? limits.problem : limits.shown}
          {'isGeneral' in limits && <span className="font-sans text-walnut-soft"> general</span>}
        </span>
      )}
    </Field>
  );
}

/** What a value may be at all; one that is measured is what it is. */
function Limits({ parameter, onUpdate: update }: { parameter: Parameter; onUpdate: (changes: Changes) => void }) {
  const { values } = useSession();
  const read = (text: string): string => inShownUnit(values, text, parameter);
  const readList = (text: string): string[] => text.split(',').map((choice) => read(choice.trim()));
  const limit = (side: 'least' | 'most') => ({
    value: parameter[side] ? withReadUnit(values, parameter[side].text, parameter) : '',
    hint: 'no limit',
    readAs: read,
    onAccept: (text: string): void => update({ [side]: text === '' ? null : { text: read(text) } }),
  });
  return (
    <>
      <Field label="least" className="w-28">
        <TextField label="Least" {...limit('least')} />
      </Field>
      <Field label="most" className="w-28">
        <TextField label="Most" {...limit('most')} />
      </Field>
      <Field label="choices" className="min-w-40 flex-1">
        <TextField
          label="Choices"
          value={parameter.choices?.join(', ') ?? ''}
          hint="12 mm, 15 mm, …"
          readAs={(text) => readList(text).join(', ')}
          onAccept={(text) => update({ choices: text.trim() === '' ? null : readList(text) })}
        />
      </Field>
    </>
  );
}

function Field({ label, className, children }: { label: string; className: string; children: React.ReactNode }) {
  return (
    <span className={`flex items-center gap-1.5 ${className}`}>
      <span className="shrink-0 text-walnut-soft">{label}</span>
      {children}
    </span>
  );
}
