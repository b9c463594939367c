'use client';
import type { StepOf } from '@/core/document';
import { GeometryPicks } from '../geometry-picks';
import type { FieldsProps, StepForm } from './form';

export const shell: StepForm<StepOf<'shell'>> = { label: 'Shell', group: 'dress', needs: 'body', Fields: ShellFields };

function ShellFields({ step, onChange }: FieldsProps<StepOf<'shell'>>) {
  return (
    <GeometryPicks
      label="Open faces"
      wants="face"
      names={step.faces}
      onChange={(faces, body) => onChange({ ...step, faces: [...faces], body: body ?? step.body })}
    />
  );
}
