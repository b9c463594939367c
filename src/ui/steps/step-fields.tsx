'use client';
import { useState } from 'react';
import { findRecord, listRecords, type Body, type Component, type Step, type StepOf, type StoredFile } from '@/core/document';
import { listThreads } from '@/core/steps';
import { useSession, useSessionState } from '../state/context';
import { Choice, Flag, Select } from '../design/fields';
import { GeometryPick, GeometryPicks } from './geometry-picks';
import { AxisField, BodyField, OperationField, PlaneField, SketchField, StepsField, type FieldsProps } from './field-parts';
import { FromPartFields } from './from-part-fields';
import { readStoredFile } from '../state/stored-file';
import type { StepDraft } from '../state/drafts';

interface StepFieldsProps {
  readonly draft: StepDraft;
  readonly onChange: (step: Step) => void;
  /** The file that the step reads. */
  readonly onFile: (file: StoredFile) => void;
  /** The part that the step starts from. */
  readonly onPart: (component: Component, body: Body) => void;
  /** Puts formulas into the boxes of the step. */
  readonly onPreset: (formulas: Readonly<Record<string, string>>) => void;
}

/** The choices of a step and what it is built on. Its numbers follow below them. */
export function StepFields({ draft, onChange, onFile, onPart, onPreset }: StepFieldsProps) {
  const { step } = draft;
  switch (step.type) {
    case 'sketch':
      return <PlaneField label="Plane" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />;
    case 'datum':
      return (
        <>
          <PlaneField label="From" value={step.from} onChange={(from) => onChange({ ...step, from })} />
          <Choice
            label="Turned about"
            value={step.turn}
            options={{ none: 'nothing', x: 'its x axis', y: 'its y axis' }}
            onChange={(turn) => onChange({ ...step, turn })}
          />
        </>
      );
    case 'extrude':
      return <ExtrudeFields step={step} onChange={onChange} />;
    case 'revolve':
      return <RevolveFields step={step} onChange={onChange} />;
    case 'hole':
      return (
        <>
          <HoleFields step={step} onChange={onChange} />
          <ThreadSizes onPreset={onPreset} />
        </>
      );
    case 'fillet':
    case 'chamfer':
      return (
        <>
          <GeometryPicks
            label="Edges"
            wants="edge"
            names={step.edges}
            onChange={(edges, body) => onChange({ ...step, edges: [...edges], body: body ?? step.body })}
          />
          {step.type === 'chamfer' && (
            <Choice
              label="Size by"
              value={step.form}
              options={{ equal: 'one distance', 'two-distances': 'two distances', 'distance-angle': 'distance and angle' }}
              onChange={(form) => onChange({ ...step, form })}
            />
          )}
        </>
      );
    case 'shell':
      return (
        <GeometryPicks
          label="Open faces"
          wants="face"
          names={step.faces}
          onChange={(faces, body) => onChange({ ...step, faces: [...faces], body: body ?? step.body })}
        />
      );
    case 'draft':
      return (
        <>
          <GeometryPicks
            label="Faces"
            wants="face"
            names={step.faces}
            onChange={(faces, body) => onChange({ ...step, faces: [...faces], body: body ?? step.body })}
          />
          <PlaneField label="They keep their size at" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />
        </>
      );
    case 'pattern':
      return <PatternFields draft={draft} step={step} onChange={onChange} />;
    case 'mirror':
      return (
        <>
          <StepsField draft={draft} chosen={step.of} onChange={(of) => onChange({ ...step, of: [...of] })} />
          {step.of.length === 0 && <p className="mb-2 text-walnut-soft">With no step chosen, the whole body is mirrored.</p>}
          <PlaneField label="In the plane" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />
          <BodyField step={step} onChange={onChange} />
        </>
      );
    case 'combine':
      return <CombineFields step={step} onChange={onChange} />;
    case 'sweep':
      return (
        <>
          <SketchField label="Profile" value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
          <SketchField label="Along the curves of" value={step.path} onChange={(path) => onChange({ ...step, path })} />
          <OperationField step={step} onChange={onChange} />
          <BodyField step={step} onChange={onChange} />
        </>
      );
    case 'loft':
      return <LoftFields step={step} onChange={onChange} />;
    case 'split':
      return (
        <>
          <BodyField step={step} onChange={onChange} />
          <PlaneField label="Cut by" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />
          <Choice
            label="What stays"
            value={step.keep}
            options={{ both: 'both parts', front: 'in front of the plane', back: 'behind it' }}
            onChange={(keep) => onChange({ ...step, keep })}
          />
        </>
      );
    case 'import':
      return <ImportField draft={draft} step={step} onFile={onFile} />;
    case 'from-part':
      return <FromPartFields draft={draft} step={step} onChange={onChange} onPart={onPart} />;
    case 'place':
      return <PlaceFields draft={draft} step={step} onChange={onChange} />;
  }
}

function ExtrudeFields({ step, onChange }: FieldsProps<StepOf<'extrude'>>) {
  return (
    <>
      <SketchField value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <OperationField step={step} onChange={onChange} />
      <Choice
        label="How far"
        value={step.extent}
        options={{
          forward: 'forward',
          both: 'both ways',
          centred: 'centred',
          ...(step.operation === 'start' ? {} : { through: 'through', 'up-to': 'up to face' }),
        }}
        onChange={(extent) => onChange({ ...step, extent: extent })}
      />
      {step.extent === 'up-to' && <GeometryPick label="Up to" wants="face" name={step.upTo} onChange={(picked) => onChange({ ...step, upTo: picked.name })} />}
      {(step.extent === 'forward' || step.extent === 'both') && (
        <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      )}
      <Flag label="Tapered" isSet={step.isTapered === true} onChange={(isTapered) => onChange({ ...step, isTapered })} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

function RevolveFields({ step, onChange }: FieldsProps<StepOf<'revolve'>>) {
  const lines = useSessionState((state) => state.document.lists[`${step.sketch}/entities`]);
  const { document } = useSession();
  const options = Object.fromEntries(
    (lines ?? []).flatMap((id, at) =>
      findRecord(document, id, 'line') ? [[id, `line ${at + 1}${findRecord(document, id, 'line')?.isConstruction ? ' (construction)' : ''}`]] : [],
    ),
  ) as Record<string, string>;
  return (
    <>
      <SketchField value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <Select
        label="About"
        value={step.axis}
        options={{ 'x-axis': 'x axis of the sketch', 'y-axis': 'y axis of the sketch', ...options }}
        onChange={(axis) => onChange({ ...step, axis })}
      />
      <OperationField step={step} onChange={onChange} />
      <Choice label="How far" value={step.extent} options={{ full: 'full turn', angle: 'by an angle' }} onChange={(extent) => onChange({ ...step, extent })} />
      {step.extent === 'angle' && (
        <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      )}
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

function HoleFields({ step, onChange }: FieldsProps<StepOf<'hole'>>) {
  return (
    <>
      <SketchField label="At the points of" value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <Choice
        label="Form"
        value={step.form}
        options={{ simple: 'simple', counterbore: 'counterbore', countersink: 'countersink' }}
        onChange={(form) => onChange({ ...step, form })}
      />
      <Choice label="How deep" value={step.extent} options={{ through: 'through', blind: 'to a depth' }} onChange={(extent) => onChange({ ...step, extent })} />
      <Flag label="From the other side" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

/** Diameters for screws: of a clearance hole, or to be tapped. */
function ThreadSizes({ onPreset }: Pick<StepFieldsProps, 'onPreset'>) {
  const sizes = listThreads().flatMap(({ thread, clearance, tapping }) => [
    { label: `${thread} clearance, ${clearance} mm`, diameter: clearance },
    { label: `${thread} to be tapped, ${tapping} mm`, diameter: tapping },
  ]);
  return (
    <Select
      label="Diameter for a thread"
      value=""
      options={Object.fromEntries(sizes.map(({ label }, at) => [`${at}`, label]))}
      onChange={(at) => onPreset({ diameter: `${sizes[Number(at)]?.diameter ?? 0} mm` })}
    />
  );
}

function PatternFields({ draft, step, onChange }: FieldsProps<StepOf<'pattern'>> & { draft: StepDraft }) {
  const sketches = listRecords(useSession().document, 'steps', 'sketch');
  return (
    <>
      <StepsField draft={draft} chosen={step.of} onChange={(of) => onChange({ ...step, of: [...of] })} />
      <Choice
        label="Form"
        value={step.form}
        options={{ linear: 'linear', circular: 'circular', path: 'along a path' }}
        onChange={(form) => onChange(withForm(step, form, sketches))}
      />
      {typeof step.along === 'object' && 'path' in step.along ? (
        <>
          <SketchField label="Along the curves of" value={step.along.path} onChange={(path) => onChange({ ...step, along: { path } })} />
          <Flag label="Turning with the path" isSet={step.isTurning === true} onChange={(isTurning) => onChange({ ...step, isTurning })} />
        </>
      ) : (
        <AxisField label={step.form === 'linear' ? 'Along' : 'About'} value={step.along} onChange={(along) => onChange({ ...step, along })} />
      )}
      <Choice
        label="Spread"
        value={step.spread}
        options={{ spacing: 'one to the next', span: 'first to last' }}
        onChange={(spread) => onChange({ ...step, spread })}
      />
      <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      <label className="mb-2 block">
        <span className="text-walnut-soft">Left out (numbers of places)</span>
        <input
          className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5 font-mono"
          defaultValue={(step.skip ?? []).join(', ')}
          placeholder="none"
          onBlur={(event) => onChange({ ...step, skip: readPlaces(event.target.value) })}
        />
      </label>
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

/** The pattern in another form: what it runs along is another kind of thing on a path. */
function withForm(step: StepOf<'pattern'>, form: StepOf<'pattern'>['form'], sketches: readonly { readonly id: string }[]): Step {
  const isOnPath = typeof step.along === 'object' && 'path' in step.along;
  if (form === 'path') return { ...step, form, along: isOnPath ? step.along : { path: sketches.at(-1)?.id ?? '' } };
  return { ...step, form, along: isOnPath ? 'x' : step.along };
}

function readPlaces(text: string): number[] {
  return [...new Set((text.match(/\d+/g) ?? []).map(Number))].filter((place) => place >= 1 && place <= 5000);
}

function CombineFields({ step, onChange }: FieldsProps<StepOf<'combine'>>) {
  const { document } = useSession();
  const others = listRecords(document, 'bodies', 'body').filter(({ id }) => id !== step.body);
  return (
    <>
      <BodyField step={step} onChange={onChange} isAlways />
      <Choice
        label="What is done"
        value={step.operation}
        options={{ add: 'add', remove: 'remove', keep: 'keep common' }}
        onChange={(operation) => onChange({ ...step, operation })}
      />
      <fieldset className="mb-2 min-w-0">
        <legend className="text-walnut-soft">With</legend>
        {others.map(({ id, name }) => (
          <Flag
            key={id}
            label={name}
            isSet={step.tools.includes(id)}
            onChange={(isSet) => onChange({ ...step, tools: isSet ? [...step.tools, id] : step.tools.filter((tool) => tool !== id) })}
          />
        ))}
        {others.length === 0 && <p className="text-walnut-soft">There is no other body.</p>}
      </fieldset>
    </>
  );
}

function PlaceFields({ draft, step, onChange }: FieldsProps<StepOf<'place'>> & { draft: StepDraft }) {
  const { document } = useSession();
  const bodies = listRecords(document, 'bodies', 'body');
  const names = Object.fromEntries(bodies.map(({ id, name }) => [id, name]));
  const isCopy = step.from !== undefined;
  return (
    <>
      <Select
        label={isCopy ? 'Original' : 'Body'}
        value={step.from ?? step.body}
        options={names}
        onChange={(body) => onChange(isCopy ? { ...step, from: body } : { ...step, body })}
      />
      {draft.isNew && (
        <Flag
          label="Leave the original where it is"
          isSet={isCopy}
          onChange={(copies) => {
            const { from, ...rest } = step;
            onChange(copies ? { ...step, from: step.body } : { ...rest, body: from ?? step.body });
          }}
        />
      )}
      <Flag
        label="Turned"
        isSet={step.about !== undefined}
        onChange={(isTurned) => {
          const { about: _, ...rest } = step;
          onChange(isTurned ? { ...step, about: 'z' } : rest);
        }}
      />
      {step.about !== undefined && <AxisField label="About" value={step.about} onChange={(about) => onChange({ ...step, about })} />}
    </>
  );
}

function LoftFields({ step, onChange }: FieldsProps<StepOf<'loft'>>) {
  const sketches = listRecords(useSession().document, 'steps', 'sketch');
  return (
    <>
      <fieldset className="mb-2 min-w-0">
        <legend className="text-walnut-soft">Through, in this order</legend>
        {sketches.map(({ id, name }) => {
          const place = step.sketches.indexOf(id);
          return (
            <Flag
              key={id}
              label={place < 0 ? name : `${place + 1}: ${name}`}
              isSet={place >= 0}
              onChange={(isSet) => onChange({ ...step, sketches: isSet ? [...step.sketches, id] : step.sketches.filter((other) => other !== id) })}
            />
          );
        })}
      </fieldset>
      <Flag label="Straight from one to the next" isSet={step.isRuled === true} onChange={(isRuled) => onChange({ ...step, isRuled })} />
      <OperationField step={step} onChange={onChange} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

function ImportField({ draft, step, onFile }: { draft: StepDraft; step: StepOf<'import'>; onFile: (file: StoredFile) => void }) {
  const [problem, setProblem] = useState<string>();
  const { document } = useSession();
  const present = draft.file ?? findRecord(document, step.file, 'file');
  return (
    <>
      <label className="mb-2 block">
        <span className="text-walnut-soft">STEP file</span>
        <input
          type="file"
          accept=".step,.stp"
          className="w-full"
          disabled={!draft.isNew}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (!file) return;
            void readStoredFile(file, step.file).then((read) => {
              setProblem(read.ok ? undefined : read.failure);
              if (read.ok) onFile(read.value);
            });
          }}
        />
      </label>
      {present && <p className="mb-2 text-walnut-soft">{present.name}</p>}
      {problem !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {problem}
        </p>
      )}
    </>
  );
}
