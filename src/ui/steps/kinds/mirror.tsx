'use client';
import type { StepOf } from '@/core/document';
import { BodyField, PlaneField, StepsField } from '../field-parts';
import type { FormProps, StepForm } from './form';

export const mirror: StepForm<StepOf<'mirror'>> = { label: 'Mirror', group: 'bodies', needs: 'body', Fields: MirrorFields };

function MirrorFields({ draft, step, onChange }: FormProps<StepOf<'mirror'>>) {
  return (
    <>
      <StepsField draft={draft} chosen={step.of} onChange={(of) => onChange({ ...step, of: [...of] })} />
      {step.of.length === 0 && <p className="mb-2 text-walnut-soft">With no step chosen, the whole body is mirrored.</p>}
      <PlaneField label="In the plane" value={step.plane} onChange={(plane) => onChange({ ...step, plane })} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}
