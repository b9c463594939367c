'use client';
import type { StepOf } from '@/core/document';
import { Choice, Flag } from '../../design/fields';
import { BodyField, OperationField, SketchField } from '../field-parts';
import { GeometryPick } from '../geometry-picks';
import type { FieldsProps, StepForm } from './form';

export const extrude: StepForm<StepOf<'extrude'>> = { label: 'Extrude', group: 'shape', needs: 'sketch', Fields: ExtrudeFields };

function ExtrudeFields({ step, onChange }: FieldsProps<StepOf<'extrude'>>) {
  return (
    <>
      <SketchField value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <OperationField step={step} onChange={onChange} />
      <Choice
        label="How far"
        value={step.extent}
        options={{
          forward: 'forward',
          both: 'both ways',
          centred: 'centred',
          ...(step.operation === 'start' ? {} : { through: 'through', 'up-to': 'up to face' }),
        }}
        onChange={(extent) => onChange({ ...step, extent: extent })}
      />
      {step.extent === 'up-to' && <GeometryPick label="Up to" wants="face" name={step.upTo} onChange={(picked) => onChange({ ...step, upTo: picked.name })} />}
      {(step.extent === 'forward' || step.extent === 'both') && (
        <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      )}
      <Flag label="Tapered" isSet={step.isTapered === true} onChange={(isTapered) => onChange({ ...step, isTapered })} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}
