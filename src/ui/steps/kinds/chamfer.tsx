'use client';
import type { StepOf } from '@/core/document';
import { Choice } from '../../design/fields';
import { GeometryPicks } from '../geometry-picks';
import type { FieldsProps, StepForm } from './form';

export const chamfer: StepForm<StepOf<'chamfer'>> = { label: 'Chamfer', group: 'dress', needs: 'body', Fields: ChamferFields };

function ChamferFields({ step, onChange }: FieldsProps<StepOf<'chamfer'>>) {
  return (
    <>
      <GeometryPicks
        label="Edges"
        wants="edge"
        names={step.edges}
        onChange={(edges, body) => onChange({ ...step, edges: [...edges], body: body ?? step.body })}
      />
      <Choice
        label="Size by"
        value={step.form}
        options={{ equal: 'one distance', 'two-distances': 'two distances', 'distance-angle': 'distance and angle' }}
        onChange={(form) => onChange({ ...step, form })}
      />
    </>
  );
}
