'use client';
import type { StepOf } from '@/core/document';
import { Choice } from '../../design/fields';
import { PlaneField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const datum: StepForm<StepOf<'datum'>> = { label: 'Datum plane', group: 'ground', needs: 'nothing', Fields: DatumFields };

function DatumFields({ step, onChange }: FieldsProps<StepOf<'datum'>>) {
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
}
