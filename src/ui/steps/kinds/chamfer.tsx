'use client';
import type { StepOf } from '@/core/document';
import { Choice } from '../../design/fields';
import { EdgesField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const chamfer: StepForm<StepOf<'chamfer'>> = { label: 'Chamfer', group: 'dress', needs: 'body', Fields: ChamferFields };

function ChamferFields({ step, onChange }: FieldsProps<StepOf<'chamfer'>>) {
  return (
    <>
      <EdgesField step={step} onChange={onChange} />
      <Choice
        label="Size by"
        value={step.form}
        options={{ equal: 'one distance', 'two-distances': 'two distances', 'distance-angle': 'distance and angle' }}
        onChange={(form) => onChange({ ...step, form })}
      />
    </>
  );
}
