'use client';
import type { StepOf } from '@/core/document';
import { FromPartFields } from '../from-part-fields';
import type { StepForm } from './form';

export const fromPart: StepForm<StepOf<'from-part'>> = { label: 'Body of another part', group: 'shape', needs: 'nothing', Fields: FromPartFields };
