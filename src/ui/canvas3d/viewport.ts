/**
 * The 3D picture of bodies: plain functions on three.js, mounted by one component. Draws only when
 * something changed. Millimetres, z up.
 */
import {
  AmbientLight,
  Box3,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  Group,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  type Object3D,
  MeshLambertMaterial,
  PerspectiveCamera,
  Raycaster,
  Scene,
  Sphere,
  Vector2,
  Vector3,
  WebGLRenderer,
} from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { LineMaterial } from 'three/examples/jsm/lines/LineMaterial.js';
import { LineSegments2 } from 'three/examples/jsm/lines/LineSegments2.js';
import { LineSegmentsGeometry } from 'three/examples/jsm/lines/LineSegmentsGeometry.js';
import type { BodyMesh } from '@/core/kernel-port';

export interface ShownBody {
  readonly key: string;
  /** Id of the body, where it can be picked from. */
  readonly body?: string;
  readonly mesh: BodyMesh;
  /**
   * Solid, greyed (the last good picture of a body that failed), or in a preview colour. A target is not seen: where
   * there are targets, they are what is picked, while something else is shown.
   */
  readonly look: 'solid' | 'stale' | 'before' | 'after' | 'target';
}

export type PickKind = 'face' | 'edge' | 'either';

export interface PickedGeometry {
  readonly body: string | undefined;
  readonly name: string;
}

export type ViewName = 'front' | 'back' | 'top' | 'bottom' | 'right' | 'left' | 'corner';

export interface Viewport {
  readonly show: (bodies: readonly ShownBody[]) => void;
  readonly view: (name: ViewName) => void;
  readonly fit: () => void;
  readonly zoom: (factor: number) => void;
  /** The face or edge under a point of the element, in CSS pixels; an edge comes before the faces beside it. */
  readonly pick: (x: number, y: number, wants: PickKind) => PickedGeometry | undefined;
  /** The view as a PNG picture, as a data address. */
  readonly picture: () => string;
  /** Lights up faces and edges of those names. */
  readonly highlight: (names: ReadonlySet<string>) => void;
  readonly destroy: () => void;
}

const DIRECTIONS: Readonly<Record<ViewName, readonly [number, number, number]>> = {
  front: [0, -1, 0],
  back: [0, 1, 0],
  top: [0, -1e-4, 1],
  bottom: [0, -1e-4, -1],
  right: [1, 0, 0],
  left: [-1, 0, 0],
  corner: [0.75, -1, 0.6],
};

export function createViewport(host: HTMLElement): Viewport {
  const renderer = new WebGLRenderer({ antialias: true, alpha: true });
  renderer.setPixelRatio(window.devicePixelRatio);
  renderer.domElement.setAttribute('aria-hidden', 'true');
  host.append(renderer.domElement);
  const scene = new Scene();
  const camera = new PerspectiveCamera(32, 1, 0.1, 1e5);
  camera.up.set(0, 0, 1);
  camera.position.set(300, -400, 250);
  const lights = [new AmbientLight('#ffffff', 1.5), new DirectionalLight('#ffffff', 1.9), new DirectionalLight('#ffffff', 0.6)];
  const lamp = new Group();
  lights[1]?.position.set(0.6, 0.9, 1);
  lights[2]?.position.set(-1, -0.4, 0.3);
  lamp.add(...lights);
  scene.add(lamp);
  const bodies = new Group();
  scene.add(bodies);
  const controls = new OrbitControls(camera, renderer.domElement);
  controls.enableDamping = false;
  controls.zoomToCursor = true;

  let isDrawn = true;
  const draw = (): void => {
    if (!isDrawn) return;
    isDrawn = false;
    requestAnimationFrame(() => {
      isDrawn = true;
      lamp.quaternion.copy(camera.quaternion);
      renderer.render(scene, camera);
    });
  };
  controls.addEventListener('change', draw);

  const resize = (): void => {
    const { clientWidth, clientHeight } = host;
    if (clientWidth === 0 || clientHeight === 0) return;
    renderer.setSize(clientWidth, clientHeight);
    camera.aspect = clientWidth / clientHeight;
    camera.updateProjectionMatrix();
    draw();
  };
  const observer = new ResizeObserver(resize);
  observer.observe(host);

  let shown: readonly ShownBody[] = [];
  let highlighted: ReadonlySet<string> = new Set();
  let hasFitted = false;

  const rebuild = (): void => {
    for (const child of [...bodies.children]) {
      bodies.remove(child);
      if (child instanceof Mesh || child instanceof LineSegments || child instanceof LineSegments2) (child.geometry as BufferGeometry).dispose();
    }
    const colours = readColours(host);
    for (const body of shown) bodies.add(...buildBody(body, colours, highlighted));
    draw();
  };
  const onTheme = (): void => rebuild();
  window.addEventListener('warpbeam-theme', onTheme);

  const frame = (direction: Vector3): void => {
    const box = new Box3().setFromObject(bodies);
    if (box.isEmpty()) return;
    const sphere = box.getBoundingSphere(new Sphere());
    const half = Math.tan((camera.fov * Math.PI) / 360) * Math.min(1, camera.aspect);
    const distance = (sphere.radius * 1.08) / Math.sin(Math.atan(half));
    controls.target.copy(sphere.center);
    camera.position.copy(sphere.center).addScaledVector(direction.normalize(), distance);
    camera.near = distance / 200;
    camera.far = distance * 20;
    camera.updateProjectionMatrix();
    controls.update();
    draw();
  };

  return {
    show: (next) => {
      shown = next;
      rebuild();
      if (!hasFitted && next.length > 0) {
        hasFitted = true;
        frame(new Vector3(...DIRECTIONS.corner));
      }
    },
    view: (name) => frame(new Vector3(...DIRECTIONS[name])),
    fit: () => frame(camera.position.clone().sub(controls.target)),
    zoom: (factor) => {
      camera.position
        .sub(controls.target)
        .multiplyScalar(1 / factor)
        .add(controls.target);
      controls.update();
      draw();
    },
    picture: () => {
      // Read in the same turn as it is drawn: the buffer is not kept.
      lamp.quaternion.copy(camera.quaternion);
      renderer.render(scene, camera);
      return renderer.domElement.toDataURL('image/png');
    },
    pick: (x, y, wants) => {
      const caster = new Raycaster();
      caster.setFromCamera(new Vector2((x / host.clientWidth) * 2 - 1, 1 - (y / host.clientHeight) * 2), camera);
      const face = pickFace(caster, bodies);
      if (wants === 'face') return face?.picked;
      const perPixel = (2 * Math.tan((camera.fov * Math.PI) / 360)) / host.clientHeight;
      const edge = pickEdge(caster, bodies, face?.distance, perPixel * REACH_PX);
      return edge ?? (wants === 'either' ? face?.picked : undefined);
    },
    highlight: (faces) => {
      highlighted = faces;
      rebuild();
    },
    destroy: () => {
      observer.disconnect();
      window.removeEventListener('warpbeam-theme', onTheme);
      controls.dispose();
      shown = [];
      rebuild();
      renderer.dispose();
      renderer.domElement.remove();
    },
  };
}

/** How near an edge the pointer must come, in pixels. */
const REACH_PX = 7;

function pickFace(caster: Raycaster, bodies: Group): { readonly picked: PickedGeometry; readonly distance: number } | undefined {
  const [hit] = caster.intersectObjects(pickable(bodies).filter((child) => child instanceof Mesh && !(child instanceof LineSegments2)));
  if (!hit) return undefined;
  const { faces, body } = hit.object.userData as PickData;
  const index = (hit.faceIndex ?? -1) * 3;
  const found = faces.find(({ start, count }) => index >= start && index < start + count);
  return found && { picked: { body, name: found.name }, distance: hit.distance };
}

/** `reach` is the reach at a distance of 1. Edges behind the nearest face are not picked. */
function pickEdge(caster: Raycaster, bodies: Group, limit: number | undefined, reach: number): PickedGeometry | undefined {
  const distance = limit ?? caster.ray.origin.length();
  caster.params.Line.threshold = reach * distance;
  const hits = caster.intersectObjects(pickable(bodies).filter((child) => child instanceof LineSegments));
  const hit = hits.find((candidate) => limit === undefined || candidate.distance < limit + 3 * caster.params.Line.threshold);
  if (!hit) return undefined;
  const { edges, body } = hit.object.userData as PickData;
  const index = hit.index ?? -1;
  const found = edges.find(({ start, count }) => index >= start && index < start + count);
  return found && { body, name: found.name };
}

/** Targets where there are any, else what is shown. */
function pickable(bodies: Group): Object3D[] {
  const targets = bodies.children.filter((child) => !child.visible);
  return targets.length > 0 ? targets : bodies.children;
}

interface PickData {
  readonly body: string | undefined;
  readonly faces: BodyMesh['faces'];
  readonly edges: BodyMesh['edges'];
}

interface Colours {
  readonly wood: Color;
  readonly stale: Color;
  readonly edge: Color;
  readonly selected: Color;
  readonly before: Color;
  readonly after: Color;
}

function readColours(host: HTMLElement): Colours {
  const style = getComputedStyle(host);
  const read = (name: string): Color => new Color(style.getPropertyValue(name).trim() || '#888888');
  return {
    wood: read('--wood'),
    stale: read('--flax-deep'),
    edge: read('--wood-edge'),
    selected: read('--indigo'),
    before: read('--madder'),
    after: read('--indigo'),
  };
}

function buildBody({ body, mesh, look }: ShownBody, colours: Colours, highlighted: ReadonlySet<string>): (Mesh | LineSegments | LineSegments2)[] {
  const edgeColour = look === 'before' ? colours.before : look === 'after' ? colours.after : colours.edge;
  const lines = new LineSegments(
    edgeGeometry(mesh),
    new LineBasicMaterial({ color: edgeColour, transparent: look === 'stale', opacity: look === 'stale' ? 0.4 : 1 }),
  );
  const data: PickData = { body, faces: mesh.faces, edges: mesh.edges };
  lines.userData = data;
  const lit = look === 'after' ? [] : mesh.edges.filter(({ name }) => highlighted.has(name));
  const marks = lit.length > 0 ? [litEdges(mesh, lit, colours)] : [];
  if (look === 'before') return [lines, ...marks];
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  const base = new MeshLambertMaterial({
    color: look === 'stale' ? colours.stale : colours.wood,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
    transparent: look === 'after' || look === 'stale',
    opacity: look === 'after' ? 0.75 : look === 'stale' ? 0.5 : 1,
  });
  const litFace = new MeshLambertMaterial({ color: colours.selected, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 });
  for (const { name, start, count } of mesh.faces) geometry.addGroup(start, count, highlighted.has(name) ? 1 : 0);
  const surface = new Mesh(geometry, [base, litFace]);
  surface.userData = data;
  if (look === 'target') for (const hidden of [surface, lines]) hidden.visible = false;
  return [surface, lines, ...marks];
}

/** Lit edges are drawn broad and over everything, so that none is hidden. */
function litEdges(mesh: BodyMesh, edges: BodyMesh['edges'], colours: Colours): LineSegments2 {
  const points = edges.flatMap(({ start, count }) => Array.from(mesh.edgePoints.subarray(start * 3, (start + count) * 3)));
  const geometry = new LineSegmentsGeometry();
  geometry.setPositions(points);
  const material = new LineMaterial({ color: colours.selected, linewidth: 4, depthTest: false });
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
