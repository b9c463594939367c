'use client';
import { listRecords, type StepOf } from '@/core/document';
import { Choice, Flag } from '../../design/fields';
import { BodyField } from '../field-parts';
import { useSession } from '../../state/context';
import type { FieldsProps, StepForm } from './form';

export const combine: StepForm<StepOf<'combine'>> = { label: 'Combine bodies', group: 'bodies', needs: 'bodies', Fields: CombineFields };

function CombineFields({ step, onChange }: FieldsProps<StepOf<'combine'>>) {
  const { document } = useSession();
  const others = listRecords(document, 'bodies', 'body').filter(({ id }) => id !== step.body);
  return (
    <>
      <BodyField step={step} onChange={onChange} isAlways />
      <Choice
        label="What is done"
        value={step.operation}
        options={{ add: 'add', remove: 'remove', keep: 'keep common' }}
        onChange={(operation) => onChange({ ...step, operation })}
      />
      <fieldset className="mb-2 min-w-0">
        <legend className="text-walnut-soft">With</legend>
        {others.map(({ id, name }) => (
          <Flag
            key={id}
            label={name}
            isSet={step.tools.includes(id)}
            onChange={(isSet) => onChange({ ...step, tools: isSet ? [...step.tools, id] : step.tools.filter((tool) => tool !== id) })}
          />
        ))}
        {others.length === 0 && <p className="text-walnut-soft">There is no other body.</p>}
      </fieldset>
    </>
  );
}
