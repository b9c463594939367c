'use client';
/** The sketcher's state on a canvas: gestures are played on it, and the edits that come of them are made. */
import { useState } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { ConstraintKind } from '@/core/document';
import { offerConstraints, shapeToStore, type DrawnShape, type Place, type Snap } from '@/core/drawing';
import { useSession, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { editOrAsk } from '../state/removal';
import type { BackdropCurve } from './backdrop';
import { copySelection, pasteBeside } from './clipboard';
import { ShapeDrag, type SketchDrag } from './drag';
import * as gestures from './sketch-gestures';
import { dimensionNow, drawNow, START, type DrawOptions, type Gesture, type OpenValue, type SketchRoom, type SketchTool } from './sketch-gestures';

/**
 * `gap` is how far beside geometry the text of an offered dimension stands, in millimetres; `findBehind` finds what may be taken
 * from behind the sketch.
 */
export function useSketchTools(sketch: string, shape: DrawnShape, gap: number, findBehind: (at: Place) => BackdropCurve | undefined) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const [store] = useState(() => createStore(() => START));
  const state = useStore(store);
  const draw = drawNow(state, shape);
  const last = draw?.points.at(-1);

  const room = (): SketchRoom => ({ document: session.document, sketch, shape, newId, gap, findBehind });
  /** Plays a gesture; whether an edit came of it. */
  const play = (gesture: Gesture): boolean => {
    const before = store.getState();
    const { state: next, edit, refused, change } = gesture(before, room());
    const isRefused = edit !== undefined && session.edit(edit) !== undefined;
    store.setState(isRefused ? (refused ?? before) : next, true);
    if (change) editOrAsk(session, workspace, change.title, change.make);
    return edit !== undefined && !isRefused;
  };

  return {
    ...state,
    draw,
    pending: dimensionNow(state, room()),
    offers: offerConstraints(shape, state.selected),
    /** Where a line being drawn comes from, for its snaps. */
    snapFrom: last && (draw?.tool === 'line' || draw?.tool === 'arc-tangent') ? { at: last.snap.at, id: last.id } : undefined,
    /** What stands in the box of the next dimension already. */
    typed: state.pending || state.fresh?.at !== 0 ? undefined : state.fresh.typed,
    context: room,

    setTool: (tool: SketchTool) => play(gestures.chooseTool(tool)),
    setOptions: (changes: Partial<DrawOptions>) => play(gestures.setOptions(changes)),
    say: (word: string | undefined) => play(gestures.say(word)),
    setOpen: (open: OpenValue | undefined) => play(gestures.openValue(open)),
    select: (id: string | undefined, isAdding: boolean) => play(gestures.select(id, isAdding)),
    selectAll: (ids: readonly string[]) => play(gestures.selectAll(ids)),
    selectChain: (id: string) => play(gestures.selectChain(id)),
    click: (snap: Snap) => play(gestures.click(snap)),
    typeOver: (text: string, snap: Snap) => play(gestures.typeOver(text, snap)),
    clickToChange: (id: string | undefined, at: Place) => play(gestures.clickToChange(id, at)),
    pickForDimension: (under: string | undefined, at: Place) => play(gestures.pickForDimension(under, at)),
    closeDimension: (isTaken: boolean) => play(gestures.closeDimension(isTaken)),
    closeChange: (isMade: boolean) => play(gestures.closeChange(isMade)),
    back: () => play(gestures.back),
    constrain: (kind: ConstraintKind) => play(gestures.constrain(kind)),
    toggleConstruction: () => play(gestures.toggleConstruction),
    toggleReference: () => play(gestures.toggleReference),
    remove: () => play(gestures.removeSelected),
    removeAll: (ids: readonly string[]) => play(gestures.remove(ids)),

    copy: () => play(gestures.say(copySelection(room(), store.getState().selected) ? 'Copied.' : 'Select what to copy.')),
    paste: () => {
      const pasted = pasteBeside(room());
      if (pasted && !session.edit(pasted.edit)) play(gestures.selectAll(pasted.ids));
    },

    startDrag: (): ShapeDrag => new ShapeDrag(session, sketch, shape),
    drop: (drag: SketchDrag): void => {
      const stored = shapeToStore({ entities: shape.entities, point: (id) => drag.points[id] ?? [0, 0], radius: (id) => drag.radii[id] ?? 0 });
      session.edit({ type: 'sketch.reshape', sketch, ...stored });
    },
  };
}

export type SketchTools = ReturnType<typeof useSketchTools>;
