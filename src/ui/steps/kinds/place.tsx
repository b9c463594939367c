'use client';
import { listRecords, type StepOf } from '@/core/document';
import { Flag, Select } from '../../design/fields';
import { AxisField } from '../field-parts';
import { useSession } from '../../state/context';
import type { FormProps, StepForm } from './form';

export const place: StepForm<StepOf<'place'>> = { label: 'Place or duplicate a body', group: 'bodies', needs: 'body', Fields: PlaceFields };

function PlaceFields({ draft, step, onChange }: FormProps<StepOf<'place'>>) {
  const { document } = useSession();
  const bodies = listRecords(document, 'bodies', 'body');
  const names = Object.fromEntries(bodies.map(({ id, name }) => [id, name]));
  const isCopy = step.from !== undefined;
  return (
    <>
      <Select
        label={isCopy ? 'Original' : 'Body'}
        value={step.from ?? step.body}
        options={names}
        onChange={(body) => onChange(isCopy ? { ...step, from: body } : { ...step, body })}
      />
      {draft.isNew && (
        <Flag
          label="Leave the original where it is"
          isSet={isCopy}
          onChange={(copies) => {
            const { from, ...rest } = step;
            onChange(copies ? { ...step, from: step.body } : { ...rest, body: from ?? step.body });
          }}
        />
      )}
      <Flag
        label="Turned"
        isSet={step.about !== undefined}
        onChange={(isTurned) => {
          const { about: _, ...rest } = step;
          onChange(isTurned ? { ...step, about: 'z' } : rest);
        }}
      />
      {step.about !== undefined && <AxisField label="About" value={step.about} onChange={(about) => onChange({ ...step, about })} />}
    </>
  );
}
