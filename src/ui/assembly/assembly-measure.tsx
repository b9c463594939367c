'use client';
/** Measuring an assembly: between two things that are clicked, or of all of it; what is worth keeping becomes a value with a name. */
import { useEffect, useMemo, useState } from 'react';
import {
  ASSEMBLY_MEASURES,
  describeMeasure,
  kindOfMeasure,
  takenNames,
  type AssemblyMeasure,
  type MeasuredValue,
  type Edit,
  type EditOf,
  type Parameter,
  type PlacedGeometry,
  plainId,
} from '@/core/document';

import { Button } from '../design/button';
import { MeasureFrame } from '../design/measure-frame';
import { goToRow } from '../ledger/go-to-row';
import { baseWords } from '../state/amount-words';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { freeName } from '../state/free-name';
import { newId } from '../state/identity';
import { wordsOfPick } from './pick-for-mate';

interface MeasuredPick {
  readonly place: PlacedGeometry;
  /** `pawl: face of ...`, and the name of its component alone. */
  readonly words: string;
  readonly component: string;
}

interface Offer {
  readonly id: string;
  readonly label: string;
  readonly measure: AssemblyMeasure;
  readonly name: string;
}

export function AssemblyMeasure() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [picks, setPicks] = useState<readonly MeasuredPick[]>([]);
  const [refusal, setRefusal] = useState<string>();
  const [found, setFound] = useState<Readonly<Record<string, MeasuredValue>>>({});
  const placed = useSessionState((state) => state.placed);
  const interference = useSessionState((state) => state.interference);
  const offers = useMemo(() => offersFor(picks, takenNames(session.document)), [picks, session]);

  useEffect(() => {
    workspace.setState({
      picking: {
        wants: 'any',
        label: 'What is measured',
        take: ({ body, name }) => {
          const path = body.split(' ');
          const shown = path.pop() ?? '';
          const pick = { place: { path: path.map(plainId), body: shown, name }, ...wordsOfPick(session, path, name) };
          setPicks((before) => (before.length === 1 ? [...before, pick] : [pick]));
        },
      },
    });
    return () => workspace.setState({ picking: undefined });
  }, [session, workspace]);
  useEffect(() => {
    let isOpen = true;
    void session.geometry.assembly?.measureNow(offers).then((values) => {
      if (isOpen && values) setFound(values);
    });
    return () => {
      isOpen = false;
    };
  }, [session, offers, placed, interference]);

  const close = (): void => workspace.setState({ isMeasuring: false });
  const keep = (offer: Offer): void => {
    const failure = session.edit(toEdit(offer));
    if (failure) {
      setRefusal(failure.message);
      return;
    }
    close();
    workspace.setState({ selected: offer.id });
    goToRow(workspace, offer.id);
  };
  // What cannot be read of the picks is left out, unless nothing can.
  const readable = offers.filter(({ id }) => found[id] === undefined || 'value' in found[id]);
  const shownOffers = readable.length > 0 ? readable : offers;
  const shown = (offer: Offer) => {
    const value = found[offer.id];
    if (value && 'problem' in value) return <span className="text-walnut-soft">{value.problem}</span>;
    return (
      <span className="font-mono whitespace-nowrap tabular-nums">{value ? baseWords(session.values, kindOfMeasure(offer.measure), value.value) : '…'}</span>
    );
  };
  return (
    <MeasureFrame picks={picks.map((pick) => pick.words)} told={refusal} onClose={close}>
      <ul className="px-3 py-2">
        {shownOffers.map((offer) => (
          <li key={offer.id} className="flex min-h-7 items-center gap-2 border-b border-rule/40 py-0.5">
            <span className="w-24 shrink-0">{offer.label}</span>
            <span className="min-w-0 flex-1 text-right">{shown(offer)}</span>
            <Button tone="quiet" className="h-6" aria-label={`Keep ${offer.label}`} onClick={() => keep(offer)}>
              Keep
            </Button>
          </li>
        ))}
      </ul>
    </MeasureFrame>
  );
}

/** Between two picks: how far they are apart, by themselves and as whole components, and their angle; of everything before that. */
function offersFor([first, second]: readonly MeasuredPick[], isTaken: (name: string) => boolean): Offer[] {
  const names = new Set<string>();
  const offer = (label: string, measure: AssemblyMeasure, title: string): Offer => {
    const name = freeName(title, (other) => isTaken(other) || names.has(other));
    names.add(name);
    return { id: newId(), label, measure, name };
  };
  if (!first || !second) return ASSEMBLY_MEASURES.map((what) => offer(describeMeasure(what), { of: 'assembly', what }, what));
  const between = `${first.component} ${second.component}`;
  const whole = ({ place }: MeasuredPick): PlacedGeometry => ({ path: place.path });
  const isApart = first.component !== second.component;
  return [
    offer('distance', { of: 'components', what: 'clearance', on: [first.place, second.place] }, `${between} distance`),
    ...(isApart ? [offer('clearance', { of: 'components', what: 'clearance', on: [whole(first), whole(second)] }, `${between} clearance`)] : []),
    ...(['distance-x', 'distance-y', 'distance-z', 'axis-distance', 'angle'] as const).map((what) =>
      offer(describeMeasure(what), { of: 'components', what, on: [first.place, second.place] }, `${between} ${what.replace('-', ' ')}`),
    ),
  ];
}

function toEdit({ id, name, measure }: Offer): Exclude<Edit, EditOf<'batch'>> {
  const parameter: Parameter = { type: 'parameter', id, name, formula: { text: '' }, kind: kindOfMeasure(measure), measure };
  return { type: 'measure.add', parameter };
}
