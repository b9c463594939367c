/** What the sheet of an assembly holds for a value that it sets: its formula, judged by the kind, the limits and the choices that the value has. */
import type { Component, Document, DocumentValues, Drive } from '../document';
import { evaluateConstant } from '../formula';
import type { Definition } from '../network';
import { refused } from './nodes';
import type { InstanceSource } from './source';
import { findGoal, slotOfGoal } from './value-path';

interface Surroundings {
  /** The component, and what it stands for; undefined while they are not at hand. */
  readonly owner: Component | undefined;
  readonly snapshot: Document | undefined;
  readonly host: DocumentValues;
  readonly source: InstanceSource;
}

export function defineDrive({ id, path, sourceName, formula }: Drive, { owner, snapshot, host, source }: Surroundings): Definition {
  const fallback = `${owner?.name ?? '?'}.${sourceName}`;
  if (!owner || !snapshot) return refused(fallback, `${owner?.sourceName ?? 'Its component'} is being loaded.`);
  const goal = findGoal(snapshot, path, source);
  if ('problem' in goal) return refused(fallback, `${fallback} cannot be set: ${goal.problem}.`);
  const name = `${owner.name}.${goal.name}`;
  const slot = slotOfGoal(goal, name);
  const { record } = goal;
  const bounds = record.type === 'parameter' && path.length === 1 ? record : undefined;
  const choices = bounds?.choices?.flatMap((text) => {
    const result = evaluateConstant(text, host.scope(goal.document.units), slot);
    return result.ok ? [{ value: result.value, text }] : [];
  });
  return {
    kind: 'formula',
    name,
    text: formula.text,
    slot,
    ...(formula.readIn ? { units: formula.readIn } : {}),
    ...(bounds?.least ? { least: `${id}>least` } : {}),
    ...(bounds?.most ? { most: `${id}>most` } : {}),
    ...(choices && choices.length > 0 ? { choices } : {}),
  };
}
