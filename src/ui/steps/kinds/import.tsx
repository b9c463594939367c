'use client';
import { useState } from 'react';
import { findRecord, type StepOf } from '@/core/document';
import { useSession } from '../../state/context';
import { readStoredFile } from '../../state/stored-file';
import type { FormProps, StepForm } from './form';

export const importedBody: StepForm<StepOf<'import'>> = { label: 'Body from a STEP file', group: 'shape', needs: 'nothing', Fields: ImportFields };

function ImportFields({ draft, step, onFile }: FormProps<StepOf<'import'>>) {
  const [problem, setProblem] = useState<string>();
  const { document } = useSession();
  const present = draft.file ?? findRecord(document, step.file, 'file');
  return (
    <>
      <label className="mb-2 block">
        <span className="text-walnut-soft">STEP file</span>
        <input
          type="file"
          accept=".step,.stp"
          className="w-full"
          disabled={!draft.isNew}
          onChange={(event) => {
            const [file] = event.target.files ?? [];
            if (!file) return;
            void readStoredFile(file, step.file).then((read) => {
              setProblem(read.ok ? undefined : read.failure);
              if (read.ok) onFile(read.value);
            });
          }}
        />
      </label>
      {present && <p className="mb-2 text-walnut-soft">{present.name}</p>}
      {problem !== undefined && (
        <p role="alert" className="mb-2 text-madder">
          {problem}
        </p>
      )}
    </>
  );
}
