'use client';
/** How a component stands in the assembly: anchored, flexible, mirrored, repeated. */
import { useEffect, useState } from 'react';
import { listSizes, type Component, type ComponentPattern, type Edit } from '@/core/document';
import { plainId } from '@/core/instances';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { TextField } from '../ledger/text-field';
import { useSession, useWorkspaceStore } from '../state/context';
import { Select } from '../steps/fields';
import { changePattern, readSkipped, repeatEdit, stopRepeating } from './pattern-edits';
import { wordsOfPick } from './pick-for-mate';

const PLANE_WORDS = { none: 'no', side: 'in its side plane', front: 'in its front plane', top: 'in its top plane' } as const;

export function ComponentForm({ component }: { component: Component }) {
  const session = useSession();
  const kind = session.values.components?.valuesOf(component.id)?.document.kind;
  const put = (changed: Component): void => {
    session.edit({ type: 'component.put', component: changed });
  };
  const { isAnchored: _, ...free } = component;
  const { isFlexible: __, ...rigid } = component;
  const { mirrored: ___, ...plain } = component;
  return (
    <div className="mt-2 flex flex-col gap-1">
      <CheckField label="Anchored: does not move" isChecked={component.isAnchored === true} onChange={(is) => put(is ? { ...free, isAnchored: true } : free)} />
      {kind === 'assembly' && !component.pattern && (
        <CheckField
          label="Flexible: moves inside"
          isChecked={component.isFlexible === true}
          onChange={(is) => put(is ? { ...rigid, isFlexible: true } : rigid)}
        />
      )}
      {kind === 'part' && (
        <Select
          label="Mirrored"
          value={component.mirrored ?? 'none'}
          options={PLANE_WORDS}
          onChange={(plane) => put(plane === 'none' ? plain : { ...plain, mirrored: plane as NonNullable<Component['mirrored']> })}
        />
      )}
      <SizeFields component={component} />
      <PatternFields component={component} />
    </div>
  );
}

/** The size that its document has here: one by its name, or by a formula of the assembly. */
function SizeFields({ component }: { component: Component }) {
  const session = useSession();
  const [isTyped, setTyped] = useState(false);
  const inside = session.values.components?.valuesOf(component.id)?.document;
  const sizes = inside ? listSizes(inside) : [];
  if (sizes.length === 0 && !component.size) return null;
  const { size, ...rest } = component;
  const put = (text: string): void => {
    setTyped(false);
    session.edit({ type: 'component.put', component: text === '' ? rest : { ...rest, size: { text } } });
  };
  const named = Object.fromEntries(sizes.map(({ name }) => [`"${name}"`, name]));
  const isNamed = size === undefined || Object.hasOwn(named, size.text);
  return (
    <>
      <Select
        label="Size"
        value={isTyped || !isNamed ? FORMULA : (size?.text ?? '')}
        options={{ '': 'as in its document', ...named, [FORMULA]: 'by a formula' }}
        onChange={(chosen) => (chosen === FORMULA ? setTyped(true) : put(chosen))}
      />
      {(isTyped || !isNamed) && (
        <FormulaBox
          values={session.values}
          initial={size?.text ?? ''}
          hint={'if(loom_width > 500 mm, "Wide", "Narrow")'}
          label={`Size of ${component.name}`}
          slot={{ kind: 'text', label: 'the size' }}
          isField
          onCancel={() => setTyped(false)}
          onAccept={(text) => {
            put(text.trim());
            return undefined;
          }}
        />
      )}
    </>
  );
}

const FORMULA = '=';

function CheckField({ label, isChecked, onChange }: { label: string; isChecked: boolean; onChange: (is: boolean) => void }) {
  return (
    <label className="flex items-center gap-2">
      <input type="checkbox" checked={isChecked} onChange={(event) => onChange(event.target.checked)} />
      {label}
    </label>
  );
}

/** Its copies: in a row or round an axis, along what, and which are left out; how many and how far are values in the ledger. */
function PatternFields({ component }: { component: Component }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const { pattern } = component;
  const run = (edit: Edit | undefined): void => {
    if (edit) session.edit(edit);
  };
  useEffect(() => () => workspace.setState({ picking: undefined }), [workspace]);
  if (!pattern) {
    return (
      <Button
        tone="quiet"
        className="self-start text-walnut-soft"
        onClick={() => {
          const edit = repeatEdit(session.document, component);
          if (session.edit(edit) || edit.type !== 'component.repeat') return;
          const [count] = edit.values;
          if (count) goToRow(workspace, count.id);
        }}
      >
        Repeat
      </Button>
    );
  }
  const change = (changes: Partial<Omit<ComponentPattern, 'values'>>): void => run(changePattern(session.document, component, changes));
  const pick = (): void =>
    workspace.setState({
      picking: {
        wants: 'either',
        label: 'The direction of the copies',
        take: ({ body, name }) => {
          const path = body.split(' ');
          const shown = path.pop() ?? '';
          workspace.setState({ picking: undefined });
          change({ along: { path: path.map(plainId), body: shown, name } });
        },
      },
    });
  const { along } = pattern;
  const options = {
    x: 'the x axis',
    y: 'the y axis',
    z: 'the z axis',
    pick: 'a face or an edge',
    ...('path' in along ? { picked: wordsOfPick(session, along.path, along.name).words } : {}),
  };
  const value = (id: string): string => session.values.show(id)?.shown ?? '';
  return (
    <fieldset className="mt-1 flex flex-col gap-1">
      <legend className="text-walnut-soft">
        Copies: {value(pattern.values.count)}, {value(pattern.values.span)} apart
      </legend>
      <Select
        label="Arrangement"
        value={pattern.form}
        options={{ linear: 'in a row', circular: 'round an axis' }}
        onChange={(form) => change({ form: form as ComponentPattern['form'] })}
      />
      <Select
        label={pattern.form === 'linear' ? 'Along' : 'About'}
        value={'axis' in along ? along.axis : 'picked'}
        options={options}
        onChange={(chosen) => {
          if (chosen === 'pick') pick();
          else if (chosen !== 'picked') change({ along: { axis: chosen as 'x' | 'y' | 'z' } });
        }}
      />
      <CheckField label="Reverse direction" isChecked={pattern.isReversed === true} onChange={(isReversed) => change({ isReversed })} />
      <TextField
        label="Skipped copies"
        value={(pattern.skip ?? []).join(', ')}
        hint="skipped copies: 3, 5"
        check={(text) => (readSkipped(text) ? undefined : 'Numbers of copies from 2: 3, 5')}
        onAccept={(text) => change({ skip: readSkipped(text) ?? [] })}
      />
      <Button tone="quiet" className="self-start text-walnut-soft" onClick={() => run(stopRepeating(component))}>
        Remove the copies
      </Button>
    </fieldset>
  );
}

/** How a component stands, in words for its row; `countOf` gives the number of its copies. */
export function componentWords(component: Component, countOf: (id: string) => string | undefined): string[] {
  const words: string[] = [];
  if (component.isAnchored === true) words.push('anchored');
  if (component.isFlexible === true && !component.pattern) words.push('flexible');
  if (component.mirrored !== undefined) words.push('mirrored');
  if (component.pattern) words.push(`× ${countOf(component.pattern.values.count) ?? '?'}`);
  return words;
}
