'use client';
import { listRecords, type StepOf } from '@/core/document';
import { Flag } from '../../design/fields';
import { BodyField, OperationField } from '../field-parts';
import { useSession } from '../../state/context';
import type { FieldsProps, StepForm } from './form';

export const loft: StepForm<StepOf<'loft'>> = { label: 'Loft', group: 'shape', needs: 'sketches', Fields: LoftFields };

function LoftFields({ step, onChange }: FieldsProps<StepOf<'loft'>>) {
  const sketches = listRecords(useSession().document, 'steps', 'sketch');
  return (
    <>
      <fieldset className="mb-2 min-w-0">
        <legend className="text-walnut-soft">Through, in this order</legend>
        {sketches.map(({ id, name }) => {
          const place = step.sketches.indexOf(id);
          return (
            <Flag
              key={id}
              label={place < 0 ? name : `${place + 1}: ${name}`}
              isSet={place >= 0}
              onChange={(isSet) => onChange({ ...step, sketches: isSet ? [...step.sketches, id] : step.sketches.filter((other) => other !== id) })}
            />
          );
        })}
      </fieldset>
      <Flag label="Straight from one to the next" isSet={step.isRuled === true} onChange={(isRuled) => onChange({ ...step, isRuled })} />
      <OperationField step={step} onChange={onChange} />
      <BodyField step={step} onChange={onChange} />
    </>
  );
}
