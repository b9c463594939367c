/**
 * The 3D picture of bodies: plain functions on three.js, mounted by one component. Draws only when
 * something changed. Millimetres, z up.
 */
import { AmbientLight, DirectionalLight, Group, PerspectiveCamera, Plane, Raycaster, Scene, type Sphere, Vector2, Vector3, WebGLRenderer } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import type { Point3 } from '@/core/geometry';
import { LAYERS, readColours } from './body-figure';
import { BodyScene } from './body-scene';
import { pickEdge, pickFace, REACH_PX } from './picking';
import type { PickedGeometry, PickKind, SectionPlane, ShownBody } from './shown-body';

export type ViewName = 'front' | 'back' | 'top' | 'bottom' | 'right' | 'left' | 'corner';

export interface Viewport {
  readonly show: (bodies: readonly ShownBody[]) => void;
  readonly view: (name: ViewName) => void;
  readonly fit: () => void;
  readonly zoom: (factor: number) => void;
  /** The face or edge under a point of the element, in CSS pixels; an edge comes before the faces beside it. */
  readonly pick: (x: number, y: number, wants: PickKind) => PickedGeometry | undefined;
  /** The face under a point of the element, and where in space it is seen there. */
  readonly hit: (x: number, y: number) => { readonly picked: PickedGeometry; readonly place: Point3 } | undefined;
  /** A point of the element in the plane through a place that faces the eye: where something that is dragged comes to. */
  readonly across: (x: number, y: number, through: Point3) => Point3 | undefined;
  /** Keeps the view still while something in it is dragged. */
  readonly hold: (isStill: boolean) => void;
  /** The view as a PNG picture, as a data address. */
  readonly picture: () => string;
  /** Lights up faces and edges of those names; hints in another colour. */
  readonly highlight: (names: ReadonlySet<string>, hints: ReadonlySet<string>) => void;
  /** Cuts everything by a plane; undefined for nothing cut. */
  readonly cut: (section: SectionPlane | undefined) => void;
  /** Splits the picture at this part of its width, from 0 to 1: bodies of one side are seen there only; undefined for no split. */
  readonly split: (at: number | undefined) => void;
  /** Where a place in space is seen, in CSS pixels of the element; undefined behind the eye. */
  readonly project: (place: Point3) => readonly [number, number] | undefined;
  /** Is told each time the picture is drawn. */
  readonly onDraw: (listener: () => void) => void;
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
  const renderer = new WebGLRenderer({ antialias: true, alpha: true, stencil: true });
  renderer.localClippingEnabled = true;
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
  const bodies = new BodyScene(readColours(host));
  scene.add(bodies.group);
  const controls = new OrbitControls(camera, renderer.domElement);
  controls.enableDamping = false;
  controls.zoomToCursor = true;

  let splitAt: number | undefined;
  const render = (): void => {
    lamp.quaternion.copy(camera.quaternion);
    camera.layers.enableAll();
    if (splitAt === undefined) {
      renderer.setScissorTest(false);
      renderer.render(scene, camera);
      return;
    }
    const { clientWidth: width, clientHeight: height } = host;
    const middle = Math.round(width * splitAt);
    renderer.setScissorTest(true);
    for (const [side, from, size] of [
      ['left', 0, middle],
      ['right', middle, width - middle],
    ] as const) {
      if (size <= 0) continue;
      renderer.setScissor(from, 0, size, height);
      camera.layers.set(0);
      camera.layers.enable(LAYERS[side]);
      renderer.render(scene, camera);
    }
  };

  let onDraw: (() => void) | undefined;
  let isDrawn = true;
  const draw = (): void => {
    if (!isDrawn) return;
    isDrawn = false;
    requestAnimationFrame(() => {
      isDrawn = true;
      render();
      onDraw?.();
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

  let clipping: Plane | undefined;
  const isShown = (point: Vector3): boolean => clipping === undefined || clipping.distanceToPoint(point) >= -1e-3;
  /** What the picture was framed for; undefined once somebody has turned, moved or zoomed it. */
  let framed: Sphere | undefined | 'not yet' = 'not yet';
  controls.addEventListener('change', () => {
    if (framed !== 'not yet') framed = undefined;
  });

  const onTheme = (): void => {
    bodies.recolour(readColours(host));
    draw();
  };
  window.addEventListener('warpbeam-theme', onTheme);

  const frame = (direction: Vector3): void => {
    const sphere = bodies.bounds();
    if (!sphere) return;
    const half = Math.tan((camera.fov * Math.PI) / 360) * Math.min(1, camera.aspect);
    const distance = (sphere.radius * 1.08) / Math.sin(Math.atan(half));
    controls.target.copy(sphere.center);
    camera.position.copy(sphere.center).addScaledVector(direction.normalize(), distance);
    camera.near = distance / 200;
    camera.far = distance * 20;
    camera.updateProjectionMatrix();
    controls.update();
    framed = sphere;
    draw();
  };

  const casterAt = (x: number, y: number): Raycaster => {
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2((x / host.clientWidth) * 2 - 1, 1 - (y / host.clientHeight) * 2), camera);
    return caster;
  };

  return {
    show: (next) => {
      bodies.show(next);
      draw();
      const bounds = bodies.bounds();
      if (!bounds || !framed) return;
      if (framed === 'not yet') frame(new Vector3(...DIRECTIONS.corner));
      else if (hasLeft(framed, bounds)) frame(camera.position.clone().sub(controls.target));
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
      render();
      return renderer.domElement.toDataURL('image/png');
    },
    hit: (x, y) => {
      const face = pickFace(casterAt(x, y), bodies.group, isShown);
      return face && { picked: face.picked, place: face.point.toArray() };
    },
    across: (x, y, through) => {
      const facing = new Plane().setFromNormalAndCoplanarPoint(camera.getWorldDirection(new Vector3()), new Vector3(...through));
      return casterAt(x, y).ray.intersectPlane(facing, new Vector3())?.toArray();
    },
    hold: (isStill) => {
      controls.enabled = !isStill;
    },
    pick: (x, y, wants) => {
      const caster = casterAt(x, y);
      const face = pickFace(caster, bodies.group, isShown);
      if (wants === 'face') return face?.picked;
      const perPixel = (2 * Math.tan((camera.fov * Math.PI) / 360)) / host.clientHeight;
      const edge = pickEdge(caster, bodies.group, face?.distance, perPixel * REACH_PX, isShown);
      return edge ?? (wants === 'either' ? face?.picked : undefined);
    },
    highlight: (selected, hints) => {
      bodies.highlight({ selected, hints });
      draw();
    },
    cut: (section) => {
      clipping = section && new Plane(new Vector3(...section.normal).negate(), section.offset);
      bodies.cut(clipping);
      draw();
    },
    split: (at) => {
      splitAt = at;
      draw();
    },
    project: (place) => {
      const at = new Vector3(...place).project(camera);
      return at.z > 1 ? undefined : [((at.x + 1) / 2) * host.clientWidth, ((1 - at.y) / 2) * host.clientHeight];
    },
    onDraw: (listener) => {
      onDraw = listener;
    },
    destroy: () => {
      observer.disconnect();
      window.removeEventListener('warpbeam-theme', onTheme);
      controls.dispose();
      bodies.show([]);
      renderer.dispose();
      renderer.domElement.remove();
    },
  };
}

/** Whether something has grown or moved out of a picture that was framed for what was there before, or is small in it now. */
function hasLeft(framed: Sphere, bounds: Sphere): boolean {
  return bounds.center.distanceTo(framed.center) + bounds.radius > framed.radius * 1.1 || bounds.radius < framed.radius * 0.6;
}
