'use client';
import type { StepOf } from '@/core/document';
import { FacesField, PlaneField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const draft: StepForm<StepOf<'draft'>> = { label: 'Taper faces', group: 'dress', needs: 'body', Fields: DraftFields };

function DraftFields({ step, onChange }: FieldsProps<StepOf<'draft'>>) {
  return (
    <>
      <FacesField label="Faces" step={step} onChange={onChange} />
      <PlaneField label="They keep their size at" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />
    </>
  );
}
