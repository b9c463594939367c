'use client';
/** Measuring a part: one or two faces or edges that are clicked, read at once; pinned while values are changed, or kept as values. */
import { useEffect, useMemo, useState } from 'react';
import {
  bodyOf,
  describeGeometry,
  describeMeasure,
  findStep,
  kindOfMeasure,
  listIds,
  takenNames,
  type Document,
  type Edit,
  type EditOf,
  type StepMeasure,
} from '@/core/document';
import { sortOf } from '@/core/kernel-port';
import { Button } from '../design/button';
import { MeasureFrame } from '../design/measure-frame';
import { goToRow } from '../ledger/go-to-row';
import { baseWords } from '../state/amount-words';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';

type GeometryMeasure = Extract<StepMeasure, { readonly of: 'geometry' }>;

interface Pick {
  readonly body: string;
  readonly name: string;
}

/** Something that can be read of what is picked. */
export interface Reading {
  readonly id: string;
  readonly label: string;
  readonly measure: GeometryMeasure;
  /** The step after which it is read. */
  readonly owner: string;
  readonly name: string;
}

interface PinnedReading extends Reading {
  readonly was: string;
}

export function PartMeasure() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const measured = useSessionState((state) => state.preview?.result.measured);
  const [picks, setPicks] = useState<readonly Pick[]>([]);
  const [pinned, setPinned] = useState<readonly PinnedReading[]>([]);
  const [refusal, setRefusal] = useState<string>();
  // Names are free when something is picked; what is kept is judged again then.
  const readings = useMemo(() => readingsOf(session.document, picks), [session, picks]);

  useEffect(() => {
    workspace.setState({
      picking: {
        wants: 'any',
        label: 'Measure',
        take: (picked) => {
          setRefusal(undefined);
          setPicks((before) => (before.length === 1 ? [...before, picked] : [picked]));
        },
      },
    });
    return () => workspace.setState({ picking: undefined });
  }, [workspace]);
  useEffect(() => {
    // They are read as values that the part would have, whatever is changed meanwhile.
    const wanted = [...readings, ...pinned].filter(({ owner }) => findStep(document, owner));
    const failure = session.geometry.preview(wanted.length > 0 ? { type: 'batch', edits: wanted.map(toEdit) } : undefined);
    if (failure) session.notify(failure.message);
  }, [session, document, readings, pinned]);
  useEffect(() => () => void session.geometry.preview(undefined), [session]);

  const close = (): void => workspace.setState({ showsMeasure: false });
  const keep = (reading: Reading): void => {
    const failure = session.edit(toEdit(reading));
    if (failure) {
      setRefusal(failure.message);
      return;
    }
    close();
    workspace.setState({ selected: reading.id });
    goToRow(workspace, reading.id);
  };
  const words = ({ id, measure }: Reading): string | undefined => {
    const value = measured?.[id];
    return value && 'value' in value ? baseWords(session.values, kindOfMeasure(measure), value.value) : undefined;
  };
  const shown = readings.filter((reading) => words(reading) !== undefined);
  // Why nothing can be read, where nothing can.
  const [problem] = shown.length > 0 ? [] : readings.flatMap(({ id }) => (measured?.[id] && 'problem' in measured[id] ? measured[id].problem : []));
  const told = refusal ?? problem;
  return (
    <MeasureFrame picks={picks.map(({ name }) => describeGeometry(document, name))} told={told} onClose={close}>
      <ul className="px-3 py-1">
        {shown.map((reading) => (
          <li key={reading.id} className="flex min-h-7 items-center gap-1 border-b border-rule/40">
            <span className="flex-1">{reading.label}</span>
            <span className="font-mono tabular-nums">{words(reading)}</span>
            <Button
              tone="quiet"
              className="h-6 px-1.5"
              aria-label={`Pin ${reading.label}`}
              onClick={() => setPinned([...pinned, pin(reading, words(reading) ?? '')])}
            >
              Pin
            </Button>
            <Button tone="quiet" className="h-6 px-1.5" aria-label={`Keep ${reading.label}`} title="As a value of the part" onClick={() => keep(reading)}>
              Keep
            </Button>
          </li>
        ))}
      </ul>
      {pinned.length > 0 && (
        <ul aria-label="Pinned readings" className="border-t border-rule px-3 py-1">
          {pinned.map((reading) => {
            const now = words(reading) ?? '…';
            return (
              <li key={reading.id} className="flex min-h-7 items-center gap-1 border-b border-rule/40">
                <span className="min-w-0 flex-1 truncate" title={reading.measure.on.map((name) => describeGeometry(document, name)).join(', ')}>
                  {reading.label}, {describeGeometry(document, reading.measure.on[0] ?? '')}
                </span>
                <span className="shrink-0 font-mono tabular-nums">{now === reading.was || now === '…' ? now : `${reading.was} → ${now}`}</span>
                <Button
                  tone="quiet"
                  className="h-6 px-1.5"
                  aria-label={`Unpin ${reading.label}`}
                  onClick={() => setPinned(pinned.filter(({ id }) => id !== reading.id))}
                >
                  ×
                </Button>
              </li>
            );
          })}
        </ul>
      )}
    </MeasureFrame>
  );
}

/** What can be read of one or two picks, after the last step that works on their body. */
export function readingsOf(document: Document, picks: readonly Pick[]): Reading[] {
  const [first, second] = picks;
  if (!first) return [];
  const owner = listIds(document, 'steps').findLast((id) => {
    const step = findStep(document, id);
    return step !== undefined && bodyOf(step) === first.body;
  });
  if (owner === undefined) return [];
  const isTaken = takenNames(document);
  const names = new Set<string>();
  const on = picks.map(({ name }) => name);
  const sort = sortOf(first.name);
  const whats = second
    ? second.body === first.body
      ? (['distance', 'distance-x', 'distance-y', 'distance-z', 'axis-distance', 'angle'] as const)
      : []
    : sort === 'edge'
      ? (['length', 'radius'] as const)
      : sort === 'face'
        ? (['area', 'radius'] as const)
        : [];
  return whats.map((what): Reading => {
    const name = freeName(`${findStep(document, owner)?.name ?? ''} ${what}`, (other) => isTaken(other) || names.has(other));
    names.add(name);
    return { id: newId(), label: describeMeasure(what), measure: { of: 'geometry', what, body: first.body, on }, owner, name };
  });
}

function toEdit({ id, name, measure, owner }: Reading): Exclude<Edit, EditOf<'batch'>> {
  return { type: 'measure.add', parameter: { type: 'parameter', id, owner, name, formula: { text: '' }, kind: kindOfMeasure(measure), measure } };
}

/** A reading to be compared with later ones; its name is of no use but to tell it from the others. */
function pin(reading: Reading, was: string): PinnedReading {
  const id = newId();
  return { ...reading, id, name: `pinned_${id}`, was };
}
