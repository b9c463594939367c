'use client';
/** Fields that several kinds of steps have: what they are built on, and where. */
import { bodyOf, describeGeometry, listRecords, listSteps, startsBody, type AxisReference, type PlaneReference, type Step, type StepOf } from '@/core/document';
import { useSession } from '../state/context';
import { Choice, Flag, Select } from '../design/fields';
import { GeometryPick, GeometryPicks } from './geometry-picks';
import { repeatable } from './step-draft';
import type { StepDraft } from '../state/drafts';
import type { FieldsProps } from './kinds/form';

const OPERATIONS = { start: 'start a body', add: 'add', remove: 'remove', keep: 'keep common' } as const;

/** A sketch of the part. */
export function SketchField({ label = 'Sketch', value, onChange }: { label?: string; value: string; onChange: (sketch: string) => void }) {
  const { document } = useSession();
  const options = Object.fromEntries(listRecords(document, 'steps', 'sketch').map(({ id, name }) => [id, name]));
  return <Select label={label} value={value} options={options} onChange={onChange} />;
}

export function OperationField({ step, onChange }: FieldsProps<StepOf<'extrude' | 'revolve' | 'sweep' | 'loft'>>) {
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
export function BodyField({ step, onChange, isAlways = false }: FieldsProps<Exclude<Step, { readonly type: 'sketch' | 'datum' }>> & { isAlways?: boolean }) {
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

/** Edges that are picked on the solid: the step works on the body that they are of. */
export function EdgesField({ step, onChange }: FieldsProps<StepOf<'fillet' | 'chamfer'>>) {
  return (
    <GeometryPicks
      label="Edges"
      wants="edge"
      names={step.edges}
      onChange={(edges, body) => onChange({ ...step, edges: [...edges], body: body ?? step.body })}
    />
  );
}

/** The same of faces. */
export function FacesField({ label, step, onChange }: FieldsProps<StepOf<'shell' | 'draft'>> & { label: string }) {
  return (
    <GeometryPicks
      label={label}
      wants="face"
      names={step.faces}
      onChange={(faces, body) => onChange({ ...step, faces: [...faces], body: body ?? step.body })}
    />
  );
}

export function StepsField({ draft, chosen, onChange }: { draft: StepDraft; chosen: readonly string[]; onChange: (of: readonly string[]) => void }) {
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
export function PlaneField({ label, value, onChange }: { label: string; value: PlaneReference; onChange: (plane: PlaneReference) => void }) {
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
export function AxisField({ label, value, onChange }: { label: string; value: AxisReference; onChange: (axis: AxisReference) => void }) {
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
