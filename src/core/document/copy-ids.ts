/** How paths through an assembly call the copies of a component that is repeated. */
import type { Component, MateRecord } from './assembly-schema';
import { matePlaces } from './mate-kinds';

/** Stands for the n-th of a component that is repeated, counted from 1, in paths. */
export function copyId(component: string, n: number): string {
  return n === 1 ? component : `${component}#${n}`;
}

/** The component that a copy is of. */
export function plainId(id: string): string {
  return id.split('#', 1)[0] ?? id;
}

/** Which of the copies it is; 1 for the component itself. */
export function copyNumber(id: string): number {
  return Number(id.split('#', 2)[1] ?? 1);
}

/** `rail[3]`; of one that is not repeated, its name. */
export function nameOfCopy({ name, pattern }: Pick<Component, 'name' | 'pattern'>, id: string): string {
  return pattern || id.includes('#') ? `${name}[${copyNumber(id)}]` : name;
}

/** The components that a mate holds on to, each by itself or by a copy of it; undefined for the assembly itself. */
export function mateOwners(mate: Pick<MateRecord, 'first' | 'second' | 'third'>): readonly (string | undefined)[] {
  return matePlaces(mate).map(({ path: [first] }) => (first === undefined ? undefined : plainId(first)));
}
