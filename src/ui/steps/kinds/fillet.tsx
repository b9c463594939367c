'use client';
import type { StepOf } from '@/core/document';
import { GeometryPicks } from '../geometry-picks';
import type { FieldsProps, StepForm } from './form';

export const fillet: StepForm<StepOf<'fillet'>> = { label: 'Fillet', group: 'dress', needs: 'body', Fields: FilletFields };

function FilletFields({ step, onChange }: FieldsProps<StepOf<'fillet'>>) {
  return (
    <GeometryPicks
      label="Edges"
      wants="edge"
      names={step.edges}
      onChange={(edges, body) => onChange({ ...step, edges: [...edges], body: body ?? step.body })}
    />
  );
}
