'use client';
import { useState } from 'react';
import {
  BODY_MEASURES,
  bodyOf,
  describeMeasure,
  picksOf,
  findStep,
  GEOMETRY_MEASURES,
  kindOfMeasure,
  listIds,
  listRecords,
  REGION_MEASURES,
  takenNames,
  type Document,
  type StepMeasure,
} from '@/core/document';
import { automaticName, checkName } from '@/core/formula';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { Select } from '../design/fields';
import { GeometryPicks } from './geometry-picks';

type Of = StepMeasure['of'];

const ALL = 'all';

/** What is being measured, and after which step. */
interface Wish {
  readonly of: Of;
  readonly what: StepMeasure['what'];
  readonly owner: string;
  readonly picked: readonly string[];
  /** A curve that bounds the region that is measured; all regions without one. */
  readonly curve: string | undefined;
}

/** Adds a value that is read off a sketch or a body: for formulas of later steps, guards and other documents. */
export function MeasurePanel({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const [wish, setWish] = useState<Wish>(() => firstWish(document, workspace.getState().selected));
  const [name, setName] = useState<string>();
  const [problem, setProblem] = useState<string>();
  const owners = ownersFor(document, wish.of);
  const regions = useSessionState((state) => state.regenerated?.steps.find(({ id }) => id === wish.owner)?.sketch?.regions) ?? [];
  const measure = toMeasure(document, wish);
  const suggested = automaticName(`${findStep(document, wish.owner)?.name ?? ''} ${wish.what}`, takenNames(document)).replace(/_a$/, '');
  const shownName = name ?? (takenNames(document)(suggested) ? `${suggested}_2` : suggested);
  const nameProblem = checkName(shownName, takenNames(document))?.message;
  const add = (): void => {
    if (!measure) return;
    const id = newId();
    const failure = session.edit({
      type: 'measure.add',
      parameter: { type: 'parameter', id, owner: wish.owner, name: shownName, formula: { text: '' }, kind: kindOfMeasure(measure), measure },
    });
    if (failure) setProblem(failure.message);
    else {
      workspace.setState({ selected: id });
      onClose();
    }
  };
  const choose = (of: Of): void => {
    const owner = ownersFor(document, of).at(-1) ?? '';
    setWish({ of, what: measuresOf(of)[0] ?? 'area', owner, picked: [], curve: undefined });
  };
  return (
    // Escape leaves from anywhere in it.
    // oxlint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <form
      aria-label="New measured value"
      data-over="left"
      className="absolute top-2 left-2 z-30 flex max-h-[calc(100%-1rem)] w-72 flex-col overflow-y-auto rounded-box border border-rule bg-sheet px-3 py-2 shadow-box"
      onSubmit={(event) => {
        event.preventDefault();
        add();
      }}
      onKeyDown={(event) => {
        if (event.key === 'Escape') onClose();
      }}
    >
      <h2 className="mb-2 font-semibold">Measured value</h2>
      <Select
        label="Of"
        value={wish.of}
        options={{ region: 'the regions of a sketch', body: 'a body', geometry: 'faces, edges or corners of a body' }}
        onChange={(of) => choose(of as Of)}
      />
      <Select
        label={wish.of === 'region' ? 'Sketch' : 'As it is after'}
        value={wish.owner}
        options={Object.fromEntries(owners.map((id) => [id, findStep(document, id)?.name ?? '']))}
        onChange={(owner) => setWish({ ...wish, owner, picked: [], curve: undefined })}
      />
      <Select
        label="What"
        value={wish.what}
        options={Object.fromEntries(measuresOf(wish.of).map((what) => [what, describeMeasure(what)]))}
        onChange={(what) => setWish({ ...wish, what: what as StepMeasure['what'] })}
      />
      {wish.of === 'region' && regions.length > 1 && (
        <Select
          label="Which"
          value={wish.curve ?? ALL}
          options={{
            [ALL]: 'all regions together',
            ...Object.fromEntries(regions.map(({ curve, area }, i) => [curve, `region ${i + 1}, ${Number(area.toFixed(1))} mm²`])),
          }}
          onChange={(curve) => setWish({ ...wish, curve: curve === ALL ? undefined : curve })}
        />
      )}
      {wish.of === 'geometry' && (
        <GeometryPicks label="Faces, edges or corners" wants="any" names={wish.picked} onChange={(names) => setWish({ ...wish, picked: names.slice(-2) })} />
      )}
      <label className="mb-2 block">
        <span className="text-walnut-soft">Name</span>
        <input
          className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5 font-mono"
          value={shownName}
          onChange={(event) => {
            setName(event.target.value);
            setProblem(undefined);
          }}
        />
      </label>
      {(problem ?? nameProblem) !== undefined && <p className="mb-2 text-madder">{problem ?? nameProblem}</p>}
      {owners.length === 0 && <p className="mb-2 text-walnut-soft">There is nothing of that kind yet.</p>}
      <span className="flex gap-2">
        <Button tone="strong" type="submit" disabled={!measure || nameProblem !== undefined}>
          Add
        </Button>
        <Button onClick={onClose}>Cancel</Button>
      </span>
    </form>
  );
}

function measuresOf(of: Of): readonly StepMeasure['what'][] {
  return of === 'region' ? REGION_MEASURES : of === 'body' ? BODY_MEASURES : GEOMETRY_MEASURES;
}

/** Steps after which something of that kind can be measured. */
function ownersFor(document: Document, of: Of): readonly string[] {
  if (of === 'region') return listRecords(document, 'steps', 'sketch').map(({ id }) => id);
  return listIds(document, 'steps').filter((id) => {
    const step = findStep(document, id);
    return step !== undefined && bodyOf(step) !== undefined;
  });
}

/** About the selected step where it can be measured; else about what is last in the history. */
function firstWish(document: Document, selected: string | undefined): Wish {
  const step = selected === undefined ? undefined : findStep(document, selected);
  const bodies = ownersFor(document, 'body');
  if (step?.type === 'sketch' || bodies.length === 0) {
    return {
      of: 'region',
      what: 'area',
      owner: step?.type === 'sketch' ? step.id : (ownersFor(document, 'region').at(-1) ?? ''),
      picked: [],
      curve: undefined,
    };
  }
  return { of: 'body', what: 'volume', owner: step && bodies.includes(step.id) ? step.id : (bodies.at(-1) ?? ''), picked: [], curve: undefined };
}

function toMeasure(document: Document, { of, what, owner, picked, curve }: Wish): StepMeasure | undefined {
  const step = findStep(document, owner);
  if (!step) return undefined;
  if (of === 'region') return { of, ...(curve === undefined ? {} : { curve }), what: what as Extract<StepMeasure, { readonly of: 'region' }>['what'] };
  const body = bodyOf(step);
  if (body === undefined) return undefined;
  if (of === 'body') return { of, what: what as Extract<StepMeasure, { readonly of: 'body' }>['what'], body };
  const needed = picksOf(what);
  if (picked.length < needed) return undefined;
  return { of, what: what as Extract<StepMeasure, { readonly of: 'geometry' }>['what'], body, on: picked.slice(-needed) };
}
