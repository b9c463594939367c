/** What lies under the pointer. */
import { LineSegments, Mesh, type Group, type Object3D, type Raycaster, type Vector3 } from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import type { BodyMesh } from '@/core/kernel-port';
import type { PickedGeometry } from './shown-body';

/** Whether a place is seen, or cut away. */
type IsShown = (point: Vector3) => boolean;

/** How near an edge the pointer must come, in pixels. */
export const REACH_PX = 7;

export function pickFace(
  caster: Raycaster,
  scene: Group,
  isShown: IsShown,
): { readonly picked: PickedGeometry; readonly distance: number; readonly point: Vector3 } | undefined {
  const hits = caster.intersectObjects(
    pickable(scene).filter((child) => child instanceof Mesh && !(child instanceof LineSegments2) && isPickData(child.userData)),
  );
  const hit = hits.find(({ point }) => isShown(point));
  if (!hit) return undefined;
  const { faces, bodies: ids } = hit.object.userData as PickData;
  const body = ids[hit.instanceId ?? 0];
  const index = (hit.faceIndex ?? -1) * 3;
  const found = faces.find(({ start, count }) => index >= start && index < start + count);
  return found && { picked: { body, name: found.name }, distance: hit.distance, point: hit.point };
}

/** `reach` is the reach at a distance of 1. Edges behind the nearest face are not picked. */
export function pickEdge(caster: Raycaster, bodies: Group, limit: number | undefined, reach: number, isShown: IsShown): PickedGeometry | undefined {
  const distance = limit ?? caster.ray.origin.length();
  caster.params.Line.threshold = reach * distance;
  const hits = caster.intersectObjects(pickable(bodies).filter((child) => child instanceof LineSegments));
  const hit = hits.find((candidate) => isShown(candidate.point) && (limit === undefined || candidate.distance < limit + 3 * caster.params.Line.threshold));
  if (!hit) return undefined;
  const {
    edges,
    bodies: [body],
  } = hit.object.userData as PickData;
  const index = hit.index ?? -1;
  const found = edges.find(({ start, count }) => index >= start && index < start + count);
  return found && { body, name: found.name };
}

/** Targets where there are any, else what is shown. */
function pickable(bodies: Group): Object3D[] {
  const targets = bodies.children.filter((child) => !child.visible);
  return targets.length > 0 ? targets : bodies.children;
}

export interface PickData {
  /** Ids of the bodies, in the order of the instances. */
  readonly bodies: readonly (string | undefined)[];
  readonly faces: BodyMesh['faces'];
  readonly edges: BodyMesh['edges'];
}

function isPickData(data: object): data is PickData {
  return 'faces' in data;
}
