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
import type { BodyMesh } from '@/core/kernel-port';

export interface ShownBody {
  readonly key: string;
  readonly mesh: BodyMesh;
  /** Solid, greyed (the last good picture of a body that failed), or edges alone in a preview colour. */
  readonly look: 'solid' | 'stale' | 'before' | 'after';
}

export type ViewName = 'front' | 'back' | 'top' | 'bottom' | 'right' | 'left' | 'corner';

export interface Viewport {
  readonly show: (bodies: readonly ShownBody[]) => void;
  readonly view: (name: ViewName) => void;
  readonly fit: () => void;
  readonly zoom: (factor: number) => void;
  /** Name of the face under a point of the element, in CSS pixels. */
  readonly pick: (x: number, y: number) => string | undefined;
  readonly highlight: (faces: ReadonlySet<string>) => void;
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
      if (child instanceof Mesh || child instanceof LineSegments) (child.geometry as BufferGeometry).dispose();
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
    pick: (x, y) => {
      const caster = new Raycaster();
      caster.setFromCamera(new Vector2((x / host.clientWidth) * 2 - 1, 1 - (y / host.clientHeight) * 2), camera);
      const [hit] = caster.intersectObjects(bodies.children.filter((child) => child instanceof Mesh));
      const faces = hit?.object.userData['faces'] as BodyMesh['faces'] | undefined;
      const index = (hit?.faceIndex ?? -1) * 3;
      return faces?.find(({ start, count }) => index >= start && index < start + count)?.name;
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

function buildBody({ mesh, look }: ShownBody, colours: Colours, highlighted: ReadonlySet<string>): (Mesh | LineSegments)[] {
  const edgeColour = look === 'before' ? colours.before : look === 'after' ? colours.after : colours.edge;
  const lines = new LineSegments(
    edgeGeometry(mesh),
    new LineBasicMaterial({ color: edgeColour, transparent: look === 'stale', opacity: look === 'stale' ? 0.4 : 1 }),
  );
  if (look === 'before') return [lines];
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
  const lit = new MeshLambertMaterial({ color: colours.selected, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 });
  for (const { name, start, count } of mesh.faces) geometry.addGroup(start, count, highlighted.has(name) ? 1 : 0);
  const surface = new Mesh(geometry, [base, lit]);
  surface.userData['faces'] = mesh.faces;
  return [surface, lines];
}

/** Polylines as pairs of points, which is what line segments are drawn from. */
function edgeGeometry(mesh: BodyMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.edgePoints, 3));
  return geometry;
}
