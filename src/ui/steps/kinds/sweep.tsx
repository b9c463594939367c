'use client';
import type { StepOf } from '@/core/document';
import { BodyField, OperationField, SketchField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const sweep: StepForm<StepOf<'sweep'>> = { label: 'Sweep', group: 'shape', needs: 'sketches', Fields: SweepFields };

function SweepFields({ step, onChange }: FieldsProps<StepOf<'sweep'>>) {
  return (
    <>
      <SketchField label="Profile" value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <SketchField label="Along the curves of" value={step.path} onChange={(path) => onChange({ ...step, path })} />
      <OperationField step={step} onChange={onChange} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}
