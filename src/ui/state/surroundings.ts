/**
 * What stands around a component in its assembly, taken along as its document is opened from there: its neighbours are seen about it, and its
 * values can be told as they are there. It lasts as long as the page is not loaded anew.
 */
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import { findRecord, isNamed, type Component } from '@/core/document';
import { reflect, relativeTo, STANDING, toMatrix } from '@/core/instances';
import { byColumns, type ShownBody } from './shown-body';
import type { DocumentSession } from './document-session';

export interface Surroundings {
  /** The document that stands in them. */
  readonly document: string;
  readonly assembly: { readonly id: string; readonly name: string };
  readonly component: string;
  readonly bodies: readonly ShownBody[];
  /** By the ids of its values: what they come to there. */
  readonly values: ReadonlyMap<string, string>;
  readonly isShown: boolean;
}

const surroundings = createStore<{ readonly around: Surroundings | undefined }>(() => ({ around: undefined }));

/** Those of a document, where it was opened from an assembly. */
export function useSurroundings(document: string): Surroundings | undefined {
  return useStore(surroundings, ({ around }) => (around?.document === document ? around : undefined));
}

export function showSurroundings(isShown: boolean): void {
  surroundings.setState(({ around }) => ({ around: around && { ...around, isShown } }));
}

/** Takes along what stands around a component of the assembly that is open. */
export function takeSurroundings(session: DocumentSession, id: string): void {
  const component = findRecord(session.document, id, 'component');
  const { placed, placement, meshes } = session.store.getState();
  const stance = placement?.stances.get(id);
  if (!component?.at || !stance) {
    surroundings.setState({ around: undefined });
    return;
  }
  const bodies = placed.flatMap(({ path, body, key, colour, at }): ShownBody[] => {
    const mesh = meshes.get(key);
    if (!mesh || path[0] === id) return [];
    const place = seenFrom(component, toMatrix(relativeTo(stance, at)));
    return [{ key, body: `around ${path.join(' ')} ${body}`, mesh, colour, look: 'around', place: byColumns(place) }];
  });
  const inside = session.values.components?.valuesOf(id);
  const values = new Map(
    Object.values(inside?.document.records ?? {}).flatMap((record) => {
      const shown = isNamed(record) ? inside?.show(record.id)?.shown : undefined;
      return shown === undefined || shown === '' ? [] : [[record.id, shown] as const];
    }),
  );
  const { id: assembly, name } = session.document;
  surroundings.setState({ around: { document: component.source, assembly: { id: assembly, name }, component: component.name, bodies, values, isShown: true } });
}

/** A place within the component, row by row; of one that stands mirrored, in its mirror: at home it is not. */
function seenFrom({ mirrored }: Component, rows: readonly number[]): readonly number[] {
  if (mirrored === undefined) return rows;
  const column = (i: number) => [rows[i] ?? 0, rows[4 + i] ?? 0, rows[8 + i] ?? 0] as const;
  const [x, y, z, origin] = [0, 1, 2, 3].map((i) => reflect(mirrored, column(i)));
  if (!x || !y || !z || !origin) return toMatrix(STANDING);
  return [x[0], y[0], z[0], origin[0], x[1], y[1], z[1], origin[1], x[2], y[2], z[2], origin[2], 0, 0, 0, 1];
}
