/**
 * One shape in one look, at one place or several, as objects of the scene: surface, edges, what is lit, and the faces of a cut. What is lit
 * and where it is cut change without the rest.
 */
import {
  BufferGeometry,
  Color,
  Float32BufferAttribute,
  GreaterDepth,
  InstancedMesh,
  type Intersection,
  LineBasicMaterial,
  LineDashedMaterial,
  LineSegments,
  type Material,
  Matrix4,
  Mesh,
  type MeshLambertMaterial,
  type Object3D,
  type Plane,
  Points,
  PointsMaterial,
  type Raycaster,
  Sphere,
} from 'three';
import { acceleratedRaycast, MeshBVH } from 'three-mesh-bvh';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { PickData } from './picking';
import { capOver, type SectionCap } from './section-cap';
import { facesOf, type Shape } from './shapes';
import { WHOLE_BODY, type ShownBody } from '../state/shown-body';
import { surfaceMaterial } from './surface-material';

export interface Colours {
  readonly wood: Color;
  readonly stale: Color;
  readonly edge: Color;
  readonly ground: Color;
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
    ground: read('--walnut-soft'),
    selected: read('--indigo'),
    hint: read('--weld'),
    before: read('--madder'),
    after: read('--indigo'),
  };
}

/** Names of faces, edges and corners that are lit. */
export interface Lit {
  readonly selected: ReadonlySet<string>;
  readonly hints: ReadonlySet<string>;
  /** Under the pointer, and on which body; on every one where that is not told. */
  readonly pointed?: string | undefined;
  readonly pointedBody?: string | undefined;
}

/** How edges are drawn: those that are seen, and those behind something, dashed. */
export interface EdgeStyle {
  readonly showsEdges: boolean;
  readonly showsHidden: boolean;
}

export const SEEN_EDGES: EdgeStyle = { showsEdges: true, showsHidden: false };

export const NOTHING_LIT: Lit = { selected: new Set(), hints: new Set() };

/** Layers of three.js for the sides of a split picture; 0 is seen on both. */
export const LAYERS = { left: 1, right: 2 } as const;

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
    case 'around':
      return { edge: colours.edge, tint: own, opacity: 0.16 };
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

export class BodyFigure {
  /** What stands in the scene, all of it. */
  readonly objects = new Set<Object3D>();
  /** Objects that were made since the beginning. */
  made = 0;
  private readonly look: Look;
  private marks: Mark[] = [];
  private marked = '';
  private caps: SectionCap[] = [];
  private readonly lines: LineSegments[] = [];
  private hidden: LineSegments<BufferGeometry, Material>[] = [];
  private readonly own: { readonly material: Material }[] = [];

  /** All bodies are of the shape and of one look; they differ in their ids and places. */
  constructor(
    private readonly shape: Shape,
    readonly bodies: readonly ShownBody[],
    private readonly colours: Colours,
    private clipping: readonly Plane[],
    style: EdgeStyle,
  ) {
    const [first] = bodies;
    if (!first) throw new Error('Bug: a figure of no body');
    this.look = lookOf(first, colours);
    const isHidden = first.look === 'target';
    const isAround = first.look === 'around';
    const data: PickData = {
      bodies: bodies.map(({ body }) => body),
      faces: shape.mesh.faces,
      edges: shape.mesh.edges,
      corners: shape.mesh.corners,
      isTarget: isHidden,
    };
    const { edge, tint, opacity } = this.look;
    if (first.look !== 'before') {
      const surface = this.placed(shape.surface, this.surfaceMaterial(tint, opacity, this.nearness));
      let balls: readonly Sphere[] | undefined;
      surface.raycast = (caster, hits) => {
        balls ??= bodies.map((body) => ballOf(shape).applyMatrix4(matrixOf(body)));
        meetRay(surface, shape, balls, caster, hits);
      };
      if (isAround) (surface.material as Material).depthWrite = false;
      else surface.userData = data;
      surface.visible = !isHidden;
      this.add(surface);
      this.own.push(surface as Mesh<BufferGeometry, Material>);
    }
    const isFaint = first.look === 'stale' || isAround;
    const thin = new LineBasicMaterial({ color: edge, clippingPlanes: [...clipping], transparent: isFaint, opacity: isAround ? 0.2 : isFaint ? 0.4 : 1 });
    bodies.forEach((body) => {
      const lines = new LineSegments(shape.edges, thin);
      lines.applyMatrix4(matrixOf(body));
      if (!isAround) lines.userData = { ...data, bodies: [body.body] };
      lines.visible = !isHidden;
      this.add(lines);
      this.own.push(lines);
      this.lines.push(lines);
    });
    this.cap();
    this.drawEdges(style);
  }

  /** Draws the edges another way. */
  drawEdges({ showsEdges, showsHidden }: EdgeStyle): void {
    const look = this.bodies[0]?.look;
    // An outline of what was before has nothing but edges.
    for (const lines of this.lines) lines.visible = look !== 'target' && (showsEdges || look === 'before');
    if (showsHidden === this.hidden.length > 0 || look === 'target') return;
    for (const lines of this.hidden) {
      this.objects.delete(lines);
      lines.material.dispose();
    }
    this.hidden = showsHidden ? this.lines.map((seen) => this.hiddenLines(seen)) : [];
    for (const lines of this.hidden) this.add(lines);
  }

  /** Lights faces, edges and corners of those names, and no others. */
  light(lit: Lit): void {
    const mine = (names: ReadonlySet<string>): string[] => [...names].filter((name) => this.shape.names.has(name)).sort();
    const named = lit.pointed === WHOLE_BODY ? [...this.shape.names] : lit.pointed === undefined ? [] : [lit.pointed];
    const pointed = new Set(named.filter((name) => !lit.selected.has(name)));
    const under = this.bodies.filter(({ body }) => lit.pointedBody === undefined || body === lit.pointedBody);
    const marked = JSON.stringify([
      mine(pointed),
      under.length === this.bodies.length ? '' : under.map(({ body }) => body),
      mine(lit.hints),
      mine(lit.selected),
    ]);
    if (marked === this.marked) return;
    this.marked = marked;
    for (const mark of this.marks) this.drop(mark);
    this.marks = [
      ...this.mark(pointed, this.colours.selected, 0.22, under),
      ...this.mark(lit.hints, this.colours.hint, 0.6),
      ...this.mark(lit.selected, this.colours.selected, 0.6),
    ];
    for (const mark of this.marks) this.add(mark);
  }

  /** Cuts it by other planes. */
  cut(clipping: readonly Plane[]): void {
    this.clipping = clipping;
    for (const { material } of [...this.own, ...this.hidden, ...(this.marks as { material: Material }[])]) {
      material.clippingPlanes = clipping.length > 0 ? [...clipping] : null;
      material.needsUpdate = true;
    }
    this.cap();
  }

  /** The planes have moved: the faces of the cut go with them. */
  moveCut(): void {
    for (const cap of this.caps) cap.move();
  }

  /** Lets everything go but the shape, which others may have. */
  dispose(): void {
    for (const mark of this.marks) this.drop(mark);
    for (const cap of this.caps) cap.dispose();
    for (const { material } of [...this.own, ...this.hidden]) material.dispose();
    for (const object of this.objects) if (object instanceof InstancedMesh) object.dispose();
    this.objects.clear();
  }

  private get nearness(): number {
    // What was added lies in the faces of what is there after: it is drawn a little nearer.
    return this.bodies[0]?.look === 'added' ? 0 : 1;
  }

  private hiddenLines(seen: LineSegments): LineSegments<BufferGeometry, Material> {
    const dash = ballOf(this.shape).radius / 40;
    const material = new LineDashedMaterial({
      color: this.look.edge,
      dashSize: dash,
      gapSize: dash,
      depthFunc: GreaterDepth,
      depthWrite: false,
      transparent: true,
      opacity: 0.45,
      clippingPlanes: [...this.clipping],
    });
    const lines = new LineSegments(this.shape.edges, material);
    if (!this.shape.edges.hasAttribute('lineDistance')) lines.computeLineDistances();
    lines.applyMatrix4(seen.matrix);
    lines.raycast = () => undefined;
    return lines;
  }

  private cap(): void {
    for (const cap of this.caps) {
      for (const object of cap.objects) this.objects.delete(object);
      cap.dispose();
    }
    const isCut = !['before', 'target'].includes(this.bodies[0]?.look ?? '');
    this.caps = isCut ? this.bodies.flatMap((body) => this.clipping.map((plane) => capOver(this.shape.surface, plane, this.look.tint, matrixOf(body)))) : [];
    for (const { objects } of this.caps) for (const object of objects) this.add(object);
  }

  private mark(names: ReadonlySet<string>, colour: Color, share: number, bodies: readonly ShownBody[] = this.bodies): Mark[] {
    const look = this.bodies[0]?.look;
    if (names.size === 0 || bodies.length === 0 || look === 'after') return [];
    const faces = look === 'before' || look === 'target' ? undefined : facesOf(this.shape, names);
    // A lit face keeps something of its own colour, so that its shape is still seen.
    const tint = this.look.tint.clone().lerp(colour.clone().lerp(WHITE, 0.3), share);
    const lit: Mark[] = faces ? [this.placed(faces, this.surfaceMaterial(tint, this.look.opacity, this.nearness - 1), bodies)] : [];
    const { mesh } = this.shape;
    const edges = mesh.edges.filter(({ name }) => names.has(name));
    const dots = mesh.corners.filter(({ name }) => names.has(name)).flatMap(({ at }) => at);
    if (dots.length > 0) lit.push(...bodies.map((body) => this.dots(dots, colour, body)));
    if (edges.length === 0) return lit;
    const points = edges.flatMap(({ start, count }) => Array.from(mesh.edgePoints.subarray(start * 3, (start + count) * 3)));
    return [...lit, ...bodies.map((body) => this.broadLines(points, colour, body))];
  }

  /** Lit corners are drawn as dots, over everything. */
  private dots(points: number[], color: Color, body: ShownBody): Points {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new Float32BufferAttribute(points, 3));
    const clippingPlanes = this.clipping.length > 0 ? { clippingPlanes: [...this.clipping] } : {};
    const material = new PointsMaterial({ color, size: 9, sizeAttenuation: false, depthTest: false, ...clippingPlanes });
    material.onBeforeCompile = (shader) => {
      shader.fragmentShader = shader.fragmentShader.replace('void main() {', 'void main() {\n  if (length(gl_PointCoord - 0.5) > 0.5) discard;');
    };
    const dots = new Points(geometry, material);
    dots.renderOrder = 1;
    dots.raycast = () => undefined;
    dots.applyMatrix4(matrixOf(body));
    return dots;
  }

  /** Lit edges are drawn broad and over everything, so that none is hidden. */
  private broadLines(points: number[], color: Color, body: ShownBody): LineSegments2 {
    const geometry = new LineSegmentsGeometry();
    geometry.setPositions(points);
    const material = new LineMaterial({ color, linewidth: 4, depthTest: false, ...(this.clipping.length > 0 ? { clippingPlanes: [...this.clipping] } : {}) });
    const lines = new LineSegments2(geometry, material);
    lines.renderOrder = 1;
    lines.applyMatrix4(matrixOf(body));
    return lines;
  }

  private surfaceMaterial(color: Color, opacity: number, nearness: number): MeshLambertMaterial {
    return surfaceMaterial({ color, edge: this.look.edge, opacity, nearness, clipping: this.clipping });
  }

  /** A surface at the place of the body, or at those of all in one draw. */
  private placed(geometry: BufferGeometry, material: Material, bodies: readonly ShownBody[] = this.bodies): Mesh {
    const [first] = bodies;
    if (bodies.length === 1 && first) {
      const mesh = new Mesh(geometry, material);
      mesh.applyMatrix4(matrixOf(first));
      return mesh;
    }
    const mesh = new InstancedMesh(geometry, material, bodies.length);
    bodies.forEach((body, i) => mesh.setMatrixAt(i, matrixOf(body)));
    return mesh;
  }

  private add(object: Object3D): void {
    const side = this.bodies[0]?.side;
    if (side) object.layers.set(LAYERS[side]);
    this.made++;
    this.objects.add(object);
  }

  private drop(mark: Mark): void {
    this.objects.delete(mark);
    if (mark instanceof InstancedMesh) mark.dispose();
    mark.geometry.dispose();
    (mark.material as Material).dispose();
  }
}

/** What stands in the scene for what is lit. */
type Mark = Mesh | Points;

const HERE = new Matrix4();
const WHITE = new Color('#ffffff');

function matrixOf({ place }: ShownBody): Matrix4 {
  return place ? new Matrix4().fromArray(place) : HERE;
}

function ballOf({ surface }: Shape): Sphere {
  if (!surface.boundingSphere) surface.computeBoundingSphere();
  return (surface.boundingSphere ?? new Sphere()).clone();
}

/** Where a ray meets a surface, at each of its places: those that it passes are told by their balls, the rest by the tree of the shape. */
function meetRay(surface: Mesh, shape: Shape, balls: readonly Sphere[], caster: Raycaster, hits: Intersection[]): void {
  for (const [i, ball] of balls.entries()) {
    if (!caster.ray.intersectsSphere(ball)) continue;
    // Keeps the order of the triangles, by which faces are told.
    shape.surface.boundsTree ??= new MeshBVH(shape.surface, { indirect: true });
    if (!(surface instanceof InstancedMesh)) {
      acceleratedRaycast.call(surface, caster, hits);
      return;
    }
    const one = new Mesh(shape.surface, surface.material);
    surface.getMatrixAt(i, one.matrixWorld);
    one.matrixWorld.premultiply(surface.matrixWorld);
    const met: Intersection[] = [];
    acceleratedRaycast.call(one, caster, met);
    hits.push(...met.map((hit) => ({ ...hit, object: surface, instanceId: i })));
  }
}
