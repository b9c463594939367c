'use client';
import type { StepOf } from '@/core/document';
import { Choice, Flag, Select } from '../../design/fields';
import { BodyField, SketchField } from '../field-parts';
import { listThreads } from '@/core/steps';
import type { FormProps, StepForm } from './form';

export const hole: StepForm<StepOf<'hole'>> = { label: 'Hole', group: 'shape', needs: 'body', Fields: HoleFields };

function HoleFields({ step, onChange, onPreset }: FormProps<StepOf<'hole'>>) {
  return (
    <>
      <SketchField label="At the points of" value={step.sketch} onChange={(sketch) => onChange({ ...step, sketch })} />
      <Choice
        label="Form"
        value={step.form}
        options={{ simple: 'simple', counterbore: 'counterbore', countersink: 'countersink' }}
        onChange={(form) => onChange({ ...step, form })}
      />
      <Choice label="How deep" value={step.extent} options={{ through: 'through', blind: 'to a depth' }} onChange={(extent) => onChange({ ...step, extent })} />
      <Flag label="From the other side" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      <BodyField step={step} onChange={onChange} />
      <ThreadSizes onPreset={onPreset} />
    </>
  );
}

/** Diameters for screws: of a clearance hole, or to be tapped. */
function ThreadSizes({ onPreset }: Pick<FormProps<StepOf<'hole'>>, 'onPreset'>) {
  const sizes = listThreads().flatMap(({ thread, clearance, tapping }) => [
    { label: `${thread} clearance, ${clearance} mm`, diameter: clearance },
    { label: `${thread} to be tapped, ${tapping} mm`, diameter: tapping },
  ]);
  return (
    <Select
      label="Diameter for a thread"
      value=""
      options={Object.fromEntries(sizes.map(({ label }, at) => [`${at}`, label]))}
      onChange={(at) => onPreset({ diameter: `${sizes[Number(at)]?.diameter ?? 0} mm` })}
    />
  );
}
