'use client';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { findAny, findRecord, listIds, listRecords, meantNames, takenNames, type Body, type Edit, type ExtrudeStep } from '@/core/document';
import { automaticName } from '@/core/formula';
import { DEFAULT_MATERIAL } from '@/core/steps';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { splitNamed } from '../state/value-edits';

type Operation = ExtrudeStep['operation'];
type Extent = ExtrudeStep['extent'];

/** Builds on the open sketch: starts a body, adds to it or removes from it. */
export function BuildPanel({ sketch }: { sketch: string }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [isOpen, setOpen] = useState(false);
  const [operation, setOperation] = useState<Operation>();
  const [extent, setExtent] = useState<Extent>();
  const bodies = listRecords(session.document, 'bodies', 'body');
  const chosen = operation ?? (bodies.length === 0 ? 'start' : 'remove');
  const reach = chosen === 'start' && extent === 'through' ? 'forward' : (extent ?? (chosen === 'remove' ? 'through' : 'forward'));
  const build = (depth: string | undefined): string | undefined => {
    const { edit, id } = extrudeEdit(session, { sketch, operation: chosen, extent: reach, depth });
    const failure = session.edit(edit);
    if (failure) return failure.message;
    setOpen(false);
    workspace.setState({ sketch: undefined, selected: id });
    return undefined;
  };
  return (
    <Popover.Root open={isOpen} onOpenChange={setOpen}>
      <Popover.Trigger asChild>
        <Button tone="strong">Extrude</Button>
      </Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={4}
          className="z-50 w-80 rounded-box border border-rule bg-sheet p-3 shadow-box"
          aria-label="Extrude the sketch"
        >
          <Choice
            legend="What it does with the body"
            value={chosen}
            options={bodies.length === 0 ? ['start'] : ['start', 'add', 'remove']}
            onChange={(value) => setOperation(value as Operation)}
          />
          <Choice
            legend="How far"
            value={reach}
            options={chosen === 'start' ? ['forward', 'centred'] : ['forward', 'centred', 'through']}
            onChange={(value) => setExtent(value as Extent)}
          />
          {reach === 'through' ? (
            <Button tone="strong" onClick={() => build(undefined)}>
              {chosen === 'remove' ? 'Remove through the body' : 'Add through the body'}
            </Button>
          ) : (
            <div>
              <span className="text-walnut-soft">Depth, then Enter</span>
              <FormulaBox
                values={session.values}
                initial="18 mm"
                label="Depth of the extrusion"
                onCancel={() => setOpen(false)}
                onAccept={(text) => build(text)}
              />
            </div>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}

function Choice({ legend, value, options, onChange }: { legend: string; value: string; options: readonly string[]; onChange: (value: string) => void }) {
  return (
    <fieldset className="mb-2">
      <legend className="text-walnut-soft">{legend}</legend>
      <div className="flex gap-3">
        {options.map((option) => (
          <label key={option} className="flex items-center gap-1">
            <input type="radio" name={legend} checked={value === option} onChange={() => onChange(option)} />
            {option}
          </label>
        ))}
      </div>
    </fieldset>
  );
}

function extrudeEdit(
  session: ReturnType<typeof useSession>,
  wanted: { readonly sketch: string; readonly operation: Operation; readonly extent: Extent; readonly depth: string | undefined },
): { readonly edit: Edit; readonly id: string } {
  const { document } = session;
  const sketch = findAny(document, wanted.sketch);
  const base = sketch && 'name' in sketch ? sketch.name : 'Sketch';
  const [id, depthId] = [newId(), newId()];
  const names = new Set(listIds(document, 'steps').map((step) => findRecord(document, step, 'extrude')?.name));
  const past = { start: 'extruded', add: 'added', remove: 'removed' }[wanted.operation];
  let name = `${base} ${past}`;
  for (let n = 2; names.has(name); n++) name = `${base} ${past} ${n}`;
  const body: Body | undefined =
    wanted.operation === 'start'
      ? { type: 'body', id: newId(), name: `Body ${listIds(document, 'bodies').length + 1}`, material: DEFAULT_MATERIAL }
      : undefined;
  const split = splitNamed(wanted.depth ?? '');
  const hasDepth = wanted.depth !== undefined;
  const step: ExtrudeStep = {
    type: 'extrude',
    id,
    name,
    sketch: wanted.sketch,
    operation: wanted.operation,
    extent: wanted.extent,
    body: body?.id ?? listIds(document, 'bodies').at(-1) ?? '',
    ...(hasDepth ? { depth: depthId } : {}),
  };
  return {
    id,
    edit: {
      type: 'batch',
      edits: [
        {
          type: 'step.add',
          step,
          values: hasDepth
            ? [
                {
                  type: 'parameter',
                  id: depthId,
                  owner: id,
                  name: split.name ?? automaticName(name, takenNames(document)),
                  formula: { text: split.formula },
                  kind: 'length',
                },
              ]
            : [],
          ...(body ? { body } : {}),
        },
        ...(hasDepth
          ? [{ type: 'parameter.setFormula' as const, id: depthId, formula: { text: split.formula, names: meantNames(document, split.formula) } }]
          : []),
      ],
    },
  };
}
