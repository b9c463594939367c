'use client';
/** A formula for each input of an outside calculation that is being made. */
import { useState } from 'react';
import { ANY_SLOT, type Slot } from '@/core/formula';
import { kindDimension, parseUnit, prettyUnit, QUANTITY_KINDS } from '@/core/units';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession } from '../state/context';
import { likelyValue, type Port } from './outside-edits';

interface InputFormulasState {
  readonly of: (key: string) => string;
  readonly set: (key: string, text: string) => void;
  /** Whether every input has one. */
  readonly isComplete: boolean;
}

/** What is typed for each; to begin with, a value that is called like the input. */
export function useInputFormulas(ports: readonly Port[]): InputFormulasState {
  const { values } = useSession();
  const [typed, setTyped] = useState<Readonly<Record<string, string>>>({});
  const of = (key: string): string => {
    const port = ports.find((one) => one.key === key);
    return typed[key] ?? (port && likelyValue(values, port, (unit) => parseUnit(unit)?.dimension)) ?? '';
  };
  return {
    of,
    set: (key, text) => setTyped((before) => ({ ...before, [key]: text })),
    isComplete: ports.every(({ key }) => of(key).trim() !== ''),
  };
}

export function InputFormulas({ ports, formulas }: { ports: readonly (Port & { readonly about?: string | undefined })[]; formulas: InputFormulasState }) {
  const { values } = useSession();
  return (
    <ul aria-label="Inputs" className="mt-2 grid gap-1">
      {ports.map((port) => (
        <li key={port.key} className="grid grid-cols-[14rem_1fr] items-center gap-2">
          <span className="min-w-0">
            <span className="block truncate">{port.key}</span>
            <span className="block truncate text-[13px] text-walnut-soft" title={port.about}>
              {port.about ?? port.kind}
              {port.unit !== '' && `, in ${prettyUnit(port.unit)}`}
            </span>
          </span>
          <FormulaBox
            values={values}
            initial={formulas.of(port.key)}
            label={`Formula for ${port.key}`}
            hint="a formula of this document"
            slot={slotOf(port)}
            isField
            autoFocus={false}
            onChange={(text) => formulas.set(port.key, text)}
            onCancel={() => undefined}
            onAccept={() => undefined}
          />
        </li>
      ))}
    </ul>
  );
}

function slotOf({ key, kind }: Port): Slot {
  const known = QUANTITY_KINDS.find((one) => one === kind);
  return known ? { kind: 'quantity', dimension: kindDimension(known), isCount: known === 'count', label: key } : ANY_SLOT;
}
