/** What was copied from a sketch; pasted into this one or another of this page. */
import { copyCurves, pasteClip, type ChangeContext, type Place, type SketchClip } from '@/core/drawing';
import type { Edit } from '@/core/document';

let clip: SketchClip | undefined;
/** How often it was pasted since: each copy stands beside the one before. */
let pasted = 0;

export function copySelection(context: ChangeContext, ids: readonly string[]): boolean {
  const next = copyCurves(context, ids);
  if (!next) return false;
  clip = next;
  pasted = 0;
  return true;
}

export function pasteBeside(context: ChangeContext): { readonly edit: Edit; readonly ids: readonly string[] } | undefined {
  if (!clip) return undefined;
  pasted++;
  const width = widthOf(clip);
  const by: Place = [pasted * (width + Math.max(5, width / 10)), 0];
  return pasteClip(context, clip, by);
}

function widthOf({ entities }: SketchClip): number {
  const xs = entities.flatMap((entity) => {
    if (entity.type === 'point') return [entity.x];
    const centre = entity.type === 'circle' ? entities.find(({ id }) => id === entity.centre) : undefined;
    return centre?.type === 'point' && entity.type === 'circle' ? [centre.x - entity.radius, centre.x + entity.radius] : [];
  });
  return Math.max(...xs) - Math.min(...xs);
}
