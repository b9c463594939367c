'use client';
import {
  bodyOf,
  describeGeometry,
  findRecord,
  listRecords,
  listSteps,
  startsBody,
  type AxisReference,
  type PlaneReference,
  type Step,
  type StepOf,
} from '@/core/document';
import { listThreads } from '@/core/steps';
import { useSession, useSessionState } from '../state/context';
import { Choice, Flag, Select } from './fields';
import { GeometryPick, GeometryPicks } from './geometry-picks';
import { repeatable, type StepDraft } from './step-draft';

interface FieldsProps<T extends Step> {
  readonly step: T;
  readonly onChange: (step: Step) => void;
}

interface StepFieldsProps {
  readonly draft: StepDraft;
  readonly onChange: (step: Step) => void;
  /** Puts formulas into the boxes of the step. */
  readonly onPreset: (formulas: Readonly<Record<string, string>>) => void;
}

/** The choices of a step and what it is built on. Its numbers follow below them. */
export function StepFields({ draft, onChange, onPreset }: StepFieldsProps) {
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
    case 'place':
      return <PlaceFields draft={draft} step={step} onChange={onChange} />;
  }
}

const OPERATIONS = { start: 'start a body', add: 'add', remove: 'remove', keep: 'keep common' } as const;

function ExtrudeFields({ step, onChange }: FieldsProps<StepOf<'extrude'>>) {
  return (
    <>
      <SketchField step={step} onChange={onChange} />
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
        <Flag label="The other way round" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
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
      <SketchField step={step} onChange={onChange} />
      <Select
        label="About"
        value={step.axis}
        options={{ 'x-axis': 'x axis of the sketch', 'y-axis': 'y axis of the sketch', ...options }}
        onChange={(axis) => onChange({ ...step, axis })}
      />
      <OperationField step={step} onChange={onChange} />
      <Choice label="How far" value={step.extent} options={{ full: 'full turn', angle: 'by an angle' }} onChange={(extent) => onChange({ ...step, extent })} />
      {step.extent === 'angle' && (
        <Flag label="The other way round" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      )}
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

function HoleFields({ step, onChange }: FieldsProps<StepOf<'hole'>>) {
  return (
    <>
      <SketchField step={step} onChange={onChange} label="At the points of" />
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
  return (
    <>
      <StepsField draft={draft} chosen={step.of} onChange={(of) => onChange({ ...step, of: [...of] })} />
      <Choice label="Form" value={step.form} options={{ linear: 'linear', circular: 'circular' }} onChange={(form) => onChange({ ...step, form })} />
      <AxisField label={step.form === 'linear' ? 'Along' : 'About'} value={step.along} onChange={(along) => onChange({ ...step, along })} />
      <Choice
        label="Spread"
        value={step.spread}
        options={{ spacing: 'one to the next', span: 'first to last' }}
        onChange={(spread) => onChange({ ...step, spread })}
      />
      <Flag label="The other way round" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
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

function SketchField({ step, onChange, label = 'Sketch' }: FieldsProps<StepOf<'extrude' | 'revolve' | 'hole'>> & { label?: string }) {
  const { document } = useSession();
  const options = Object.fromEntries(listRecords(document, 'steps', 'sketch').map(({ id, name }) => [id, name]));
  return <Select label={label} value={step.sketch} options={options} onChange={(sketch) => onChange({ ...step, sketch })} />;
}

function OperationField({ step, onChange }: FieldsProps<StepOf<'extrude' | 'revolve'>>) {
  const { document } = useSession();
  const hasBody = listRecords(document, 'bodies', 'body').length > 0;
  const options = hasBody ? OPERATIONS : { start: OPERATIONS.start };
  return (
    <Choice
      label="What it does with the body"
      value={step.operation}
      options={options}
      onChange={(operation) => {
        const needsDepth = step.type === 'extrude' && operation === 'start' && (step.extent === 'through' || step.extent === 'up-to');
        onChange(needsDepth ? { ...step, operation, extent: 'forward' } : { ...step, operation });
      }}
    />
  );
}

/** Which body a step works on; asked only where there are several. */
function BodyField({ step, onChange, isAlways = false }: FieldsProps<Exclude<Step, { readonly type: 'sketch' | 'datum' }>> & { isAlways?: boolean }) {
  const { document } = useSession();
  const bodies = listRecords(document, 'bodies', 'body');
  if (startsBody(step) || (!isAlways && bodies.length < 2)) return null;
  return (
    <Select
      label="Body"
      value={bodyOf(step) ?? ''}
      options={Object.fromEntries(bodies.map(({ id, name }) => [id, name]))}
      onChange={(body) => onChange({ ...step, body })}
    />
  );
}

function StepsField({ draft, chosen, onChange }: { draft: StepDraft; chosen: readonly string[]; onChange: (of: readonly string[]) => void }) {
  const { document } = useSession();
  const steps = repeatable(document, draft);
  return (
    <fieldset className="mb-2 min-w-0">
      <legend className="text-walnut-soft">Steps</legend>
      {steps.map(({ id, name }) => (
        <Flag
          key={id}
          label={name}
          isSet={chosen.includes(id)}
          onChange={(isSet) => onChange(isSet ? [...chosen, id] : chosen.filter((other) => other !== id))}
        />
      ))}
      {steps.length === 0 && <p className="text-walnut-soft">No step adds to this body or takes from it yet.</p>}
    </fieldset>
  );
}

const PICKED = 'picked';

/** A plane: one of the three, one made by a step, or a face that is picked. */
function PlaneField({ label, value, onChange }: { label: string; value: PlaneReference; onChange: (plane: PlaneReference) => void }) {
  const { document } = useSession();
  const datums = Object.fromEntries(listSteps(document).flatMap((step) => (step.type === 'datum' ? [[`datum ${step.id}`, step.name]] : []))) as Record<
    string,
    string
  >;
  const face = typeof value === 'object' && 'face' in value ? value : undefined;
  const present = typeof value === 'string' ? value : 'datum' in value ? `datum ${value.datum}` : PICKED;
  return (
    <>
      <Select
        label={label}
        value={present}
        options={{
          front: 'front (x, z)',
          top: 'top (x, y)',
          side: 'side (y, z)',
          ...datums,
          ...(face ? { [PICKED]: describeGeometry(document, face.face) } : {}),
        }}
        onChange={(plane) => {
          if (plane === 'front' || plane === 'top' || plane === 'side') onChange(plane);
          else if (plane !== PICKED) onChange({ datum: plane.replace('datum ', '') });
        }}
      />
      <GeometryPick label="or a face" wants="face" name={face?.face} onChange={({ body, name }) => onChange({ body, face: name })} />
    </>
  );
}

/** A direction: an axis of the document, or an edge or round face that is picked. */
function AxisField({ label, value, onChange }: { label: string; value: AxisReference; onChange: (axis: AxisReference) => void }) {
  const { document } = useSession();
  const picked = typeof value === 'object' && 'body' in value ? ('edge' in value ? value.edge : value.face) : undefined;
  const line = typeof value === 'object' && 'sketch' in value ? value : undefined;
  const lines = Object.fromEntries(
    listRecords(document, 'steps', 'sketch').flatMap((sketch) =>
      listRecords(document, `${sketch.id}/entities`, 'line').flatMap((entity, at) =>
        entity.isConstruction === true ? [[`${sketch.id} ${entity.id}`, `construction line ${at + 1} of ${sketch.name}`]] : [],
      ),
    ),
  ) as Record<string, string>;
  const present = typeof value === 'string' ? value : line ? `${line.sketch} ${line.line}` : PICKED;
  return (
    <>
      <Select
        label={label}
        value={present}
        options={{ x: 'x', y: 'y', z: 'z', ...lines, ...(picked === undefined ? {} : { [PICKED]: describeGeometry(document, picked) }) }}
        onChange={(axis) => {
          if (axis === 'x' || axis === 'y' || axis === 'z') onChange(axis);
          else if (axis !== PICKED) {
            const [sketch = '', id = ''] = axis.split(' ');
            onChange({ sketch, line: id });
          }
        }}
      />
      <GeometryPick
        label="or an edge or round face"
        wants="either"
        name={picked}
        onChange={({ body, name }) => onChange(name.startsWith('edge[') ? { body, edge: name } : { body, face: name })}
      />
    </>
  );
}
