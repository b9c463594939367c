'use client';
import type { StepOf } from '@/core/document';
import { Choice } from '../../design/fields';
import { BodyField, PlaneField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const split: StepForm<StepOf<'split'>> = { label: 'Split a body', group: 'bodies', needs: 'body', Fields: SplitFields };

function SplitFields({ step, onChange }: FieldsProps<StepOf<'split'>>) {
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
}
