/** A body as objects of the scene. */
import { BufferAttribute, BufferGeometry, Color, LineBasicMaterial, LineSegments, Mesh, MeshLambertMaterial, type Object3D, type Plane } from 'three';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { BodyMesh } from '@/core/kernel-port';
import type { PickData } from './picking';
import { capOver } from './section-cap';
import type { ShownBody } from './shown-body';

export interface Colours {
  readonly wood: Color;
  readonly stale: Color;
  readonly edge: Color;
  readonly selected: Color;
  readonly hint: Color;
  readonly before: Color;
  readonly after: Color;
}

export function readColours(host: HTMLElement): Colours {
  const style = getComputedStyle(host);
  const read = (name: string): Color => new Color(style.getPropertyValue(name).trim() || '#888888');
  return {
    wood: read('--wood'),
    stale: read('--flax-deep'),
    edge: read('--wood-edge'),
    selected: read('--indigo'),
    hint: read('--weld'),
    before: read('--madder'),
    after: read('--indigo'),
  };
}

/** Names of faces and edges that are lit. */
export interface Lit {
  readonly selected: ReadonlySet<string>;
  readonly hints: ReadonlySet<string>;
}

interface Look {
  readonly edge: Color;
  readonly tint: Color;
  readonly opacity: number;
}

function lookOf({ look, colour }: ShownBody, colours: Colours): Look {
  const own = colour === undefined ? colours.wood : new Color(colour);
  switch (look) {
    case 'stale':
      return { edge: colours.edge, tint: colours.stale, opacity: 0.5 };
    case 'before':
      return { edge: colours.before, tint: own, opacity: 1 };
    case 'after':
      return { edge: colours.after, tint: colours.wood, opacity: 0.75 };
    case 'added':
      return { edge: colours.after, tint: colours.wood.clone().lerp(colours.after, 0.7), opacity: 1 };
    case 'removed':
      return { edge: colours.before, tint: colours.before, opacity: 0.35 };
    default:
      return { edge: colours.edge, tint: own, opacity: 1 };
  }
}

/** The surface and the edges of a body, with what is lit on it, cut by planes. */
export function buildBody(shown: ShownBody, colours: Colours, lit: Lit, clippingPlanes: Plane[]): Object3D[] {
  const objects = buildObjects(shown, colours, lit, clippingPlanes);
  if (shown.side) for (const object of objects) object.layers.set(LAYERS[shown.side]);
  return objects;
}

/** Layers of three.js for the sides of a split picture; 0 is seen on both. */
export const LAYERS = { left: 1, right: 2 } as const;

function buildObjects(shown: ShownBody, colours: Colours, lit: Lit, clippingPlanes: Plane[]): Object3D[] {
  const { body, mesh, look } = shown;
  const { edge, tint: own, opacity } = lookOf(shown, colours);
  const lines = new LineSegments(
    edgeGeometry(mesh),
    new LineBasicMaterial({ color: edge, clippingPlanes, transparent: look === 'stale', opacity: look === 'stale' ? 0.4 : 1 }),
  );
  const data: PickData = { body, faces: mesh.faces, edges: mesh.edges };
  lines.userData = data;
  const marks = look === 'after' ? [] : markEdges(mesh, lit, colours, clippingPlanes);
  if (look === 'before') return [lines, ...marks];
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  // What was added lies in the faces of what is there after: it is drawn a little nearer.
  const nearness = look === 'added' ? 0 : 1;
  const surfaceOf = (tint: Color): MeshLambertMaterial =>
    new MeshLambertMaterial({
      color: tint,
      clippingPlanes,
      polygonOffset: true,
      polygonOffsetFactor: nearness,
      polygonOffsetUnits: nearness,
      transparent: opacity < 1,
      opacity,
    });
  // A lit face keeps something of its own colour, so that its shape is still seen.
  const materials = [own, own.clone().lerp(colours.selected, 0.55), own.clone().lerp(colours.hint, 0.6)].map(surfaceOf);
  for (const { name, start, count } of mesh.faces) geometry.addGroup(start, count, lit.selected.has(name) ? 1 : lit.hints.has(name) ? 2 : 0);
  const surface = new Mesh(geometry, materials);
  surface.userData = data;
  if (look === 'target') {
    for (const hidden of [surface, lines]) hidden.visible = false;
    return [surface, lines, ...marks];
  }
  return [surface, lines, ...marks, ...clippingPlanes.flatMap((plane) => capOver(geometry, plane, own))];
}

function markEdges(mesh: BodyMesh, { selected, hints }: Lit, colours: Colours, clippingPlanes: Plane[]): LineSegments2[] {
  const of = (names: ReadonlySet<string>, colour: Color): LineSegments2[] => {
    const edges = names.size === 0 ? [] : mesh.edges.filter(({ name }) => names.has(name));
    return edges.length > 0 ? [litEdges(mesh, edges, colour, clippingPlanes)] : [];
  };
  return [...of(hints, colours.hint), ...of(selected, colours.selected)];
}

/** Lit edges are drawn broad and over everything, so that none is hidden. */
function litEdges(mesh: BodyMesh, edges: BodyMesh['edges'], color: Color, clippingPlanes: Plane[]): LineSegments2 {
  const points = edges.flatMap(({ start, count }) => Array.from(mesh.edgePoints.subarray(start * 3, (start + count) * 3)));
  const geometry = new LineSegmentsGeometry();
  geometry.setPositions(points);
  const material = new LineMaterial({ color, linewidth: 4, depthTest: false, ...(clippingPlanes.length > 0 ? { clippingPlanes } : {}) });
  const marks = new LineSegments2(geometry, material);
  marks.renderOrder = 1;
  return marks;
}

/** Polylines as pairs of points, which is what line segments are drawn from. */
function edgeGeometry(mesh: BodyMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.edgePoints, 3));
  return geometry;
}
