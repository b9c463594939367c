'use client';
import type { StepOf } from '@/core/document';
import { FacesField } from '../field-parts';
import type { FieldsProps, StepForm } from './form';

export const shell: StepForm<StepOf<'shell'>> = { label: 'Shell', group: 'dress', needs: 'body', Fields: ShellFields };

function ShellFields(props: FieldsProps<StepOf<'shell'>>) {
  return <FacesField label="Open faces" {...props} />;
}
