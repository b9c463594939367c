/** What lies under the pointer. */
import { LineSegments, Mesh, Raycaster, type Group, type Intersection, type Object3D, Vector3 } from 'three';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import type { BodyMesh } from '@/core/kernel-port';
import type { PickedGeometry } from '../state/shown-body';

/** Whether a place is seen, or cut away. */
type IsShown = (point: Vector3) => boolean;

/** How near an edge the pointer must come, in pixels. */
export const REACH_PX = 7;
/** Behind everything, in millimetres. */
const FAR = 1e5;

export function pickFace(
  caster: Raycaster,
  scene: Group,
  isShown: IsShown,
): { readonly picked: PickedGeometry; readonly distance: number; readonly point: Vector3 } | undefined {
  const hit = hitsOn(caster, scene).find(({ point }) => isShown(point));
  const picked = hit && faceOf(hit);
  return hit && picked && { picked, distance: hit.distance, point: hit.point };
}

function hitsOn(caster: Raycaster, scene: Group): Intersection[] {
  return caster.intersectObjects(pickable(scene).filter((child) => child instanceof Mesh && !(child instanceof LineSegments2) && isPickData(child.userData)));
}

function faceOf({ object, instanceId, faceIndex }: Intersection): PickedGeometry | undefined {
  const { faces, bodies } = object.userData as PickData;
  const index = (faceIndex ?? -1) * 3;
  const found = faces.find(({ start, count }) => index >= start && index < start + count);
  return found && { body: bodies[instanceId ?? 0], name: found.name };
}

/** All faces on the ray that are shown, nearest first, each once. */
export function pickThrough(caster: Raycaster, scene: Group, isShown: IsShown): PickedGeometry[] {
  // A ray meets faces that look towards it: those that look away are met by one that comes back.
  const { origin, direction } = caster.ray;
  const back = new Raycaster(origin.clone().addScaledVector(direction, FAR), direction.clone().negate());
  const away = hitsOn(back, scene).map((hit) => ({ ...hit, distance: FAR - hit.distance }));
  const found = new Map<string, PickedGeometry>();
  for (const hit of [...hitsOn(caster, scene), ...away].sort((a, b) => a.distance - b.distance)) {
    const picked = isShown(hit.point) ? faceOf(hit) : undefined;
    if (picked) found.set(`${picked.body} ${picked.name}`, found.get(`${picked.body} ${picked.name}`) ?? picked);
  }
  return [...found.values()];
}

/** `reachAt` is the reach at a distance from the eye. Edges behind the nearest face are not picked; a corner at the end of one comes before it, where these are wanted. */
export function pickEdge(
  caster: Raycaster,
  bodies: Group,
  limit: number | undefined,
  { reachAt, isShown, withCorners }: { readonly reachAt: (distance: number) => number; readonly isShown: IsShown; readonly withCorners: boolean },
): PickedGeometry | undefined {
  caster.params.Line.threshold = reachAt(limit ?? caster.ray.origin.length());
  const hits = caster.intersectObjects(pickable(bodies).filter((child) => child instanceof LineSegments));
  const hit = hits.find((candidate) => isShown(candidate.point) && (limit === undefined || candidate.distance < limit + 3 * caster.params.Line.threshold));
  if (!hit) return undefined;
  const {
    edges,
    corners,
    bodies: [body],
  } = hit.object.userData as PickData;
  if (withCorners) {
    const corner = cornerNear(caster, hit, corners);
    if (corner !== undefined) return { body, name: corner };
  }
  const index = hit.index ?? -1;
  const found = edges.find(({ start, count }) => index >= start && index < start + count);
  return found && { body, name: found.name };
}

/** The corner of a body that was hit at an edge which is nearest to the ray, within its reach. */
function cornerNear({ ray, params }: Raycaster, { object }: Intersection, corners: PickData['corners']): string | undefined {
  const place = new Vector3();
  let [nearest, name]: [number, string | undefined] = [params.Line.threshold, undefined];
  for (const corner of corners) {
    const distance = ray.distanceToPoint(place.set(...corner.at).applyMatrix4(object.matrixWorld));
    if (distance < nearest) [nearest, name] = [distance, corner.name];
  }
  return name;
}

/** Targets where there are any, else what is shown. */
function pickable(bodies: Group): Object3D[] {
  const targets = bodies.children.filter((child) => isPickData(child.userData) && child.userData.isTarget);
  return targets.length > 0 ? targets : bodies.children;
}

export interface PickData {
  /** Ids of the bodies, in the order of the instances. */
  readonly bodies: readonly (string | undefined)[];
  readonly faces: BodyMesh['faces'];
  readonly edges: BodyMesh['edges'];
  readonly corners: BodyMesh['corners'];
  /** Not seen, and picked before everything that is. */
  readonly isTarget: boolean;
}

function isPickData(data: object): data is PickData {
  return 'faces' in data;
}
