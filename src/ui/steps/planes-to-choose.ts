/** The planes that stand in the picture of a part, and what a click on one does. Pure. */
import { findStep, listSteps, takesPlane, type Document, type PlaneReference } from '@/core/document';
import { DATUM_FRAMES, type Point3 } from '@/core/geometry';
import type { Regenerated } from '@/core/steps';
import type { ShownPlane } from '../canvas3d/plane-figures';
import type { StepDraft } from '../state/drafts';

/** How planes are called where one is chosen. */
export const PLANE_WORDS = { front: 'Front (x, z)', top: 'Top (x, y)', side: 'Side (y, z)' } as const;

type DatumPlane = keyof typeof PLANE_WORDS;
const DATUM_PLANES = Object.keys(PLANE_WORDS) as DatumPlane[];

/** Millimetres from the middle to the edge of a plane, where there is nothing yet. */
const EMPTY_HALF = 50;

interface Box {
  readonly min: Point3;
  readonly max: Point3;
}

/** While a plane is chosen, those of the document and those that steps made; else the one that is selected. */
export function shownPlanes(
  document: Document,
  draft: StepDraft | undefined,
  selected: string | undefined,
  built: Regenerated | undefined,
  box?: Box,
): ShownPlane[] {
  const half = box ? 0.6 * Math.max(...box.max.map((high, i) => high - (box.min[i] ?? 0))) : EMPTY_HALF;
  const made = (built?.steps ?? []).flatMap(({ id, frame }): ShownPlane[] =>
    frame && findStep(document, id)?.type === 'datum' ? [{ id: `datum ${id}`, frame, half }] : [],
  );
  if (isEmpty(document, draft) || (draft && takesPlane(draft.step))) {
    return [...DATUM_PLANES.map((id) => ({ id, frame: DATUM_FRAMES[id], half })), ...made.filter(({ id }) => id !== `datum ${draft?.step.id}`)];
  }
  return made.filter(({ id }) => id === `datum ${selected}`);
}

/** Whether nothing was drawn or made yet, and nothing is being made. */
export function isEmpty(document: Document, draft: StepDraft | undefined): boolean {
  return !draft && listSteps(document).length === 0;
}

export function planeOfId(id: string): PlaneReference {
  return DATUM_PLANES.find((plane) => plane === id) ?? { datum: id.replace('datum ', '') };
}

/** The name of a plane in the picture. */
export function planeName(document: Document, id: string): string {
  const plane = DATUM_PLANES.find((each) => each === id);
  return plane ? PLANE_WORDS[plane] : (findStep(document, id.replace('datum ', ''))?.name ?? '');
}
