'use client';
import { findRecord, type StepOf } from '@/core/document';
import { Choice, Flag, Select } from '../../design/fields';
import { BodyField, OperationField, SketchField } from '../field-parts';
import { useSession, useSessionState } from '../../state/context';
import type { FieldsProps, StepForm } from './form';

export const revolve: StepForm<StepOf<'revolve'>> = { label: 'Revolve', group: 'shape', needs: 'sketch', Fields: RevolveFields };

function RevolveFields({ step, onChange }: FieldsProps<StepOf<'revolve'>>) {
  const lines = useSessionState((state) => state.document.lists[`${step.sketch}/entities`]);
  const { document } = useSession();
  const options = Object.fromEntries(
    (lines ?? []).flatMap((id, at) =>
      findRecord(document, id, 'line') ? [[id, `line ${at + 1}${findRecord(document, id, 'line')?.isConstruction ? ' (construction)' : ''}`]] : [],
    ),
  ) as Record<string, string>;
  return (
    <>
      <SketchField value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <Select
        label="About"
        value={step.axis}
        options={{ 'x-axis': 'x axis of the sketch', 'y-axis': 'y axis of the sketch', ...options }}
        onChange={(axis) => onChange({ ...step, axis })}
      />
      <OperationField step={step} onChange={onChange} />
      <Choice label="How far" value={step.extent} options={{ full: 'full turn', angle: 'by an angle' }} onChange={(extent) => onChange({ ...step, extent })} />
      {step.extent === 'angle' && (
        <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      )}
      <BodyField step={step} onChange={onChange} />
    </>
  );
}
