import type { StepOf } from '@/core/document';
import { EdgesField } from '../field-parts';
import type { StepForm } from './form';

export const fillet: StepForm<StepOf<'fillet'>> = { label: 'Fillet', group: 'dress', needs: 'body', Fields: EdgesField };
