'use client';
import type { StepOf } from '@/core/document';
import { PlaneField } from '../field-parts';
import { GeometryPicks } from '../geometry-picks';
import type { FieldsProps, StepForm } from './form';

export const draft: StepForm<StepOf<'draft'>> = { label: 'Taper faces', group: 'dress', needs: 'body', Fields: DraftFields };

function DraftFields({ step, onChange }: FieldsProps<StepOf<'draft'>>) {
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
}
