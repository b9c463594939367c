'use client';
/** A service that the administrator lists, or a spreadsheet that is kept in the document, to compute with values of it. */
import { useState } from 'react';
import type { ServiceCard, ServiceFunctionCard } from '@/contract';
import { FailedToLoad, Skeleton } from '../design/states';
import { TaskDialog, TaskVerbs } from '../design/task-dialog';
import { goToRow } from '../ledger/go-to-row';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

import { useSession, useWorkspaceStore } from '../state/context';
import { Choice } from '../design/fields';
import { InputFormulas, useInputFormulas } from './input-formulas';
import { addOutside, type NewOutside } from './outside-edits';
import { SpreadsheetForm } from './spreadsheet-form';

export function OutsideDialog({ onClose }: { onClose: () => void }) {
  const [from, setFrom] = useState<'service' | 'spreadsheet'>('service');
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [problem, setProblem] = useState<string>();
  const add = (wanted: NewOutside): void => {
    const { edit, id } = addOutside(session.values, wanted);
    const failure = session.edit(edit);
    setProblem(failure?.message);
    if (failure) return;
    onClose();
    goToRow(workspace, id);
  };
  return (
    <TaskDialog
      title="Outside calculation"
      description="It is asked when its inputs have settled. Its answers are values of this document; when it cannot be reached, the last answer is held and marked."
      width="wide"
      onClose={onClose}
    >
      <Choice label="Computed by" value={from} options={{ service: 'a service', spreadsheet: 'a spreadsheet' }} onChange={setFrom} />
      {from === 'service' ? <ServiceForm onAdd={add} /> : <SpreadsheetForm onAdd={add} />}
      {problem !== undefined && (
        <p role="alert" className="mt-2 text-madder">
          {problem}
        </p>
      )}
    </TaskDialog>
  );
}

function ServiceForm({ onAdd }: { onAdd: (wanted: NewOutside) => void }) {
  const { loaded, reload } = useLoaded(QUERIES.services);
  const [chosen, setChosen] = useState<{ readonly service: string; readonly function: string }>();
  if (loaded.state === 'loading') return <Skeleton rows={3} />;
  if (loaded.state === 'failed') return <FailedToLoad title="The services cannot be listed" message={loaded.failure.message} onRetry={reload} />;
  const { services, problem } = loaded.value;
  if (problem !== undefined) return <FailedToLoad title="The services cannot be listed" message={problem} onRetry={reload} />;
  if (services.length === 0)
    return <p className="text-walnut-soft">No service is listed. The administrator lists them in a file, and names that file in WARPBEAM_SERVICES.</p>;
  const found = services.find(({ name }) => name === chosen?.service)?.functions.find(({ name }) => name === chosen?.function);
  return (
    <>
      <div className="max-h-[28vh] overflow-y-auto">
        {services.map((service) => (
          <Functions key={service.name} service={service} chosen={chosen} onChoose={(name) => setChosen({ service: service.name, function: name })} />
        ))}
      </div>
      {chosen && found ? (
        <FunctionForm
          key={`${chosen.service} ${chosen.function}`}
          asks={found}
          onAdd={(inputs) =>
            onAdd({
              name: sentence(found.name),
              asked: { of: 'service', ...chosen },
              inputs,
              outputs: found.outputs.map(({ key, kind, unit }) => ({ key, kind, unit })),
            })
          }
        />
      ) : (
        <TaskVerbs label="Add" isDisabled onAccept={() => undefined} />
      )}
    </>
  );
}

interface FunctionsProps {
  readonly service: ServiceCard;
  readonly chosen: { readonly service: string; readonly function: string } | undefined;
  readonly onChoose: (name: string) => void;
}

/** What one service computes, to choose from. */
function Functions({ service, chosen, onChoose }: FunctionsProps) {
  return (
    <fieldset className="mb-2">
      <legend className="font-semibold">
        {service.name}
        <span className="ml-2 font-normal text-walnut-soft">{service.version}</span>
      </legend>
      {service.problem !== undefined && <p className="text-madder">{service.problem}</p>}
      {service.functions.map(({ name, about }) => (
        <label key={name} className="flex items-baseline gap-2 rounded-box px-1 py-0.5 hover:bg-flax">
          <input type="radio" name="function" checked={chosen?.service === service.name && chosen.function === name} onChange={() => onChoose(name)} />
          <span className="shrink-0">{name}</span>
          <span className="min-w-0 text-walnut-soft">{about}</span>
        </label>
      ))}
    </fieldset>
  );
}

function FunctionForm({ asks, onAdd }: { asks: ServiceFunctionCard; onAdd: (inputs: NewOutside['inputs']) => void }) {
  const formulas = useInputFormulas(asks.inputs);
  return (
    <>
      <InputFormulas ports={asks.inputs} formulas={formulas} />
      <p className="mt-2 text-walnut-soft">It answers with {asks.outputs.map(({ key }) => key).join(', ')}.</p>
      <TaskVerbs
        label="Add"
        isDisabled={!formulas.isComplete}
        onAccept={() => onAdd(asks.inputs.map(({ key, kind, unit }) => ({ key, kind, unit, formula: formulas.of(key) })))}
      />
    </>
  );
}

function sentence(text: string): string {
  return text.slice(0, 1).toUpperCase() + text.slice(1);
}
