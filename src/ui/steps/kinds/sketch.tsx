'use client';
import type { StepOf } from '@/core/document';
import { PlaneField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const sketch: StepForm<StepOf<'sketch'>> = { label: 'Sketch', group: 'ground', needs: 'nothing', Fields: SketchFields };

function SketchFields({ step, onChange }: FieldsProps<StepOf<'sketch'>>) {
  return <PlaneField label="Plane" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />;
}
