'use client';
import { listRecords, type Step, type StepOf } from '@/core/document';
import { Choice, Flag } from '../../design/fields';
import { AxisField, BodyField, SketchField, StepsField } from '../field-parts';
import { useSession } from '../../state/context';
import type { FormProps, StepForm } from './form';

export const pattern: StepForm<StepOf<'pattern'>> = { label: 'Pattern', group: 'bodies', needs: 'body', Fields: PatternFields };

function PatternFields({ draft, step, onChange }: FormProps<StepOf<'pattern'>>) {
  const sketches = listRecords(useSession().document, 'steps', 'sketch');
  return (
    <>
      <StepsField draft={draft} chosen={step.of} onChange={(of) => onChange({ ...step, of: [...of] })} />
      <Choice
        label="Form"
        value={step.form}
        options={{ linear: 'linear', circular: 'circular', path: 'along a path' }}
        onChange={(form) => onChange(withForm(step, form, sketches))}
      />
      {typeof step.along === 'object' && 'path' in step.along ? (
        <>
          <SketchField label="Along the curves of" value={step.along.path} onChange={(path) => onChange({ ...step, along: { path } })} />
          <Flag label="Turning with the path" isSet={step.isTurning === true} onChange={(isTurning) => onChange({ ...step, isTurning })} />
        </>
      ) : (
        <AxisField label={step.form === 'linear' ? 'Along' : 'About'} value={step.along} onChange={(along) => onChange({ ...step, along })} />
      )}
      <Choice
        label="Spread"
        value={step.spread}
        options={{ spacing: 'one to the next', span: 'first to last' }}
        onChange={(spread) => onChange({ ...step, spread })}
      />
      <Flag label="Reverse direction" isSet={step.isReversed === true} onChange={(isReversed) => onChange({ ...step, isReversed })} />
      <label className="mb-2 block">
        <span className="text-walnut-soft">Left out (numbers of places)</span>
        <input
          className="h-7 w-full rounded-box border border-rule bg-sheet px-1.5 font-mono"
          defaultValue={(step.skip ?? []).join(', ')}
          placeholder="none"
          onBlur={(event) => onChange({ ...step, skip: readPlaces(event.target.value) })}
        />
      </label>
      <BodyField step={step} onChange={onChange} />
    </>
  );
}

/** The pattern in another form: what it runs along is another kind of thing on a path. */
function withForm(step: StepOf<'pattern'>, form: StepOf<'pattern'>['form'], sketches: readonly { readonly id: string }[]): Step {
  const isOnPath = typeof step.along === 'object' && 'path' in step.along;
  if (form === 'path') return { ...step, form, along: isOnPath ? step.along : { path: sketches.at(-1)?.id ?? '' } };
  return { ...step, form, along: isOnPath ? 'x' : step.along };
}

function readPlaces(text: string): number[] {
  return [...new Set((text.match(/\d+/g) ?? []).map(Number))].filter((place) => place >= 1 && place <= 5000);
}
