'use client';
/** How a component stands in the assembly: anchored, flexible, mirrored, repeated. */
import { useEffect, useState } from 'react';
import { listSizes, type Component, type ComponentPattern, type DocumentValues, type Edit, type SpacedPattern, plainId } from '@/core/document';
import { isFlexible } from '@/core/assembly';
import { countCopies, placesFollowed } from '@/core/instances';
import { Button } from '../design/button';
import { FormulaBox } from '../formula-box/formula-box';
import { goToRow } from '../ledger/go-to-row';
import { TextField } from '../design/text-field';
import { useSession, useWorkspaceStore } from '../state/context';
import { Select } from '../design/fields';
import { changePattern, followPattern, patternChoices, readSkipped, repeatEdit, stopRepeating, type PatternChoice } from './pattern-edits';
import { wordsOfPick } from './pick-for-mate';

const PLANE_WORDS = { none: 'no', side: 'in its side plane', front: 'in its front plane', top: 'in its top plane' } as const;

/** Where this assembly is mirrored: what is bought is placed, and not made the other way round. */
const ALIKE_WORDS = {
  none: 'mirrored',
  side: 'same part: symmetric about its side plane',
  front: 'same part: symmetric about its front plane',
  top: 'same part: symmetric about its top plane',
} as const;

export function ComponentForm({ component }: { component: Component }) {
  const session = useSession();
  const kind = session.values.components?.valuesOf(component.id)?.document.kind;
  const put = (changed: Component): void => {
    session.edit({ type: 'component.put', component: changed });
  };
  const { isAnchored: _, ...free } = component;
  const { isFlexible: __, ...rigid } = component;
  const { mirrored: ___, ...plain } = component;
  const { alike: ____, ...sided } = component;
  const { colour: _____, ...uncoloured } = component;
  return (
    <div className="mt-2 flex flex-col gap-1">
      <CheckField label="Anchored: does not move" isChecked={component.isAnchored === true} onChange={(is) => put(is ? { ...free, isAnchored: true } : free)} />
      {kind === 'assembly' && !component.pattern && component.mirrored === undefined && (
        <CheckField
          label="Flexible: moves inside"
          isChecked={component.isFlexible === true}
          onChange={(is) => put(is ? { ...rigid, isFlexible: true } : rigid)}
        />
      )}
      {(kind === 'part' || kind === 'assembly') && (
        <Select
          label="Mirrored"
          value={component.mirrored ?? 'none'}
          options={PLANE_WORDS}
          onChange={(plane) => put(plane === 'none' ? plain : { ...plain, mirrored: plane as NonNullable<Component['mirrored']> })}
        />
      )}
      {(kind === 'part' || kind === 'assembly') && component.mirrored === undefined && (
        <Select
          label="Opposite hand"
          value={component.alike ?? 'none'}
          options={ALIKE_WORDS}
          onChange={(plane) => put(plane === 'none' ? sided : { ...component, alike: plane as NonNullable<Component['alike']> })}
        />
      )}
      <span className="flex items-center gap-2">
        <label className="flex items-center gap-2">
          Colour
          <input type="color" value={component.colour ?? '#b99b70'} onChange={(event) => put({ ...component, colour: event.target.value })} />
        </label>
        {component.colour !== undefined && (
          <Button tone="quiet" className="h-6" onClick={() => put(uncoloured)}>
            As its parts
          </Button>
        )}
      </span>
      <SizeFields component={component} />
      <PatternFields component={component} />
    </div>
  );
}

/** The size that its document has here: one by its name, or by a formula of the assembly. */
export function SizeFields({ component }: { component: Component }) {
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
  const change = (changes: Partial<Omit<SpacedPattern, 'values'>>): void => run(changePattern(session.document, component, changes));
  const choices = patternChoices(session.values, component.id);
  const value = (id: string): string => session.values.show(id)?.shown ?? '';
  const isFollowed = pattern.form === 'followed';
  return (
    <fieldset className="mt-1 flex flex-col gap-1">
      <legend className="text-walnut-soft">
        {isFollowed
          ? `Copies: ${countCopies(session.values, pattern).length + 1}, as the pattern`
          : `Copies: ${value(pattern.values.count)}, ${value(pattern.values.span)} apart`}
      </legend>
      <Select
        label="Arrangement"
        value={pattern.form}
        options={{ linear: 'in a row', circular: 'round an axis', ...(choices.length > 0 || isFollowed ? { followed: 'as a pattern of a part' } : {}) }}
        onChange={(form) => {
          const [first] = choices;
          if (form !== 'followed') change({ form: form as SpacedPattern['form'] });
          else if (first) run(followPattern(component, first.along));
        }}
      />
      {isFollowed ? (
        <Select
          label="Pattern"
          value={keyOfChoice(pattern.along)}
          options={{
            [keyOfChoice(pattern.along)]: 'a pattern that is gone',
            ...Object.fromEntries(choices.map(({ along, words }) => [keyOfChoice(along), words])),
          }}
          onChange={(key) => {
            const chosen = choices.find(({ along }) => keyOfChoice(along) === key);
            if (chosen) run(followPattern(component, chosen.along));
          }}
        />
      ) : (
        <SpacedFields pattern={pattern} onChange={change} />
      )}
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

function keyOfChoice({ path, step }: PatternChoice['along']): string {
  return [...path, step].join(' ');
}

/** Along what copies stand that are spaced by values. */
function SpacedFields({
  pattern,
  onChange,
}: {
  readonly pattern: SpacedPattern;
  readonly onChange: (changes: Partial<Omit<SpacedPattern, 'values'>>) => void;
}) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const { along } = pattern;
  const pick = (): void =>
    workspace.setState({
      picking: {
        wants: 'either',
        label: 'The direction of the copies',
        take: ({ body, name }) => {
          const path = body.split(' ');
          const shown = path.pop() ?? '';
          workspace.setState({ picking: undefined });
          onChange({ along: { path: path.map(plainId), body: shown, name } });
        },
      },
    });
  const options = {
    x: 'the x axis',
    y: 'the y axis',
    z: 'the z axis',
    pick: 'a face or an edge',
    ...('path' in along ? { picked: wordsOfPick(session, along.path, along.name).words } : {}),
  };
  return (
    <>
      <Select
        label={pattern.form === 'linear' ? 'Along' : 'About'}
        value={'axis' in along ? along.axis : 'picked'}
        options={options}
        onChange={(chosen) => {
          if (chosen === 'pick') pick();
          else if (chosen !== 'picked') onChange({ along: { axis: chosen as 'x' | 'y' | 'z' } });
        }}
      />
      <CheckField label="Reverse direction" isChecked={pattern.isReversed === true} onChange={(isReversed) => onChange({ isReversed })} />
    </>
  );
}

/** How a component stands, in words for its row. */
export function componentWords(component: Component, values: DocumentValues): string[] {
  const words: string[] = [];
  if (component.isAnchored === true) words.push('anchored');
  if (isFlexible(component)) words.push('flexible');
  if (component.mirrored !== undefined) words.push('mirrored');
  if (component.pattern) words.push(`× ${countWords(component.pattern, values)}`);
  return words;
}

function countWords(pattern: ComponentPattern, values: DocumentValues): string {
  if (pattern.form !== 'followed') return values.show(pattern.values.count)?.shown ?? '?';
  return placesFollowed(values, pattern.along) ? `${countCopies(values, pattern).length + 1}` : '?';
}
