/**
 * The 3D picture of bodies: plain functions on three.js, mounted by one component. Draws only when
 * something changed. Millimetres, z up.
 */
import { AmbientLight, DirectionalLight, Group, HemisphereLight, Plane, Scene, Sphere, Vector3, WebGLRenderer } from 'three';
import type { Point3 } from '@/core/geometry';
import { LAYERS, readColours, type EdgeStyle, type Lit } from './body-figure';
import { BodyScene } from './body-scene';
import { ContactShade } from './contact-shade';
import { NO_INSETS, type Insets } from './framing';
import { Ground } from './ground';
import { pickInBox, type PickBox } from './pick-box';
import { pickEdge, pickFace, pickThrough, REACH_PX } from './picking';
import { PlaneFigures, type ShownPlane } from './plane-figures';
import { WHOLE_BODY, type PickedGeometry, type PickKind, type SectionPlane, type ShownBody } from '../state/shown-body';
import { ViewCamera } from './view-camera';

export type ViewName = 'front' | 'back' | 'top' | 'bottom' | 'right' | 'left' | 'corner';

const DIRECTIONS: Readonly<Record<ViewName, readonly [number, number, number]>> = {
  front: [0, -1, 0],
  back: [0, 1, 0],
  top: [0, -1e-4, 1],
  bottom: [0, -1e-4, -1],
  right: [1, 0, 0],
  left: [-1, 0, 0],
  corner: [0.75, -1, 0.6],
};

/** What the scale and the axes of a picture are drawn from. */
export interface SeenAxes {
  /** Each axis as it is seen, y down: of length 1 where it lies across the view. */
  readonly axes: Readonly<Record<'x' | 'y' | 'z', readonly [number, number]>>;
  /** Millimetres that a pixel spans in the middle of the picture. */
  readonly perPixel: number;
}

/** Contact shade is laid while the view rests where the processor draws the picture, and always where a graphics card does. */
const REST_MS = 350;
/** How close surfaces must come to shade one another, in pixels of the picture; and at most, as a part of what is seen. */
const SHADE_PX = 42;
const SHADE_PART = 0.12;

export class Viewport {
  private readonly renderer = new WebGLRenderer({ antialias: true, alpha: true, stencil: true });
  private readonly scene = new Scene();
  private readonly lamp = new Group();
  private readonly bodies: BodyScene;
  private readonly planes = new PlaneFigures();
  private readonly ground: Ground;
  private readonly camera: ViewCamera;
  private readonly observer: ResizeObserver;
  /** Of panels that come and go over the picture. */
  private readonly panels: MutationObserver;
  private inset = '';
  private readonly listeners = new Set<() => void>();
  private shownPlanes: readonly ShownPlane[] = [];
  private hasGround = false;
  private shade: ContactShade | undefined;
  private readonly hasCard: boolean;
  private resting: ReturnType<typeof setTimeout> | undefined;
  private splitAt: number | undefined;
  private clipping: Plane | undefined;
  private isDrawn = true;
  /** What the picture was framed for; undefined before anything was shown. */
  private framed: Sphere | undefined;

  constructor(private readonly host: HTMLElement) {
    const { renderer } = this;
    renderer.localClippingEnabled = true;
    this.hasCard = isDrawnByCard(renderer);
    renderer.setPixelRatio(window.devicePixelRatio);
    renderer.domElement.setAttribute('aria-hidden', 'true');
    host.append(renderer.domElement);
    const colours = readColours(host);
    this.bodies = new BodyScene(colours);
    this.ground = new Ground(colours.ground);
    this.light();
    this.scene.add(this.lamp, this.bodies.group, this.planes.group);
    this.camera = new ViewCamera(renderer.domElement, this.draw);
    this.observer = new ResizeObserver(() => this.resize());
    this.observer.observe(host);
    this.panels = new MutationObserver(() => this.moveAside());
    const around = host.closest('[data-picture]');
    // What stands over it is beside it on the page: what changes within either is nothing to the picture.
    if (around) this.panels.observe(around, { childList: true });
    window.addEventListener('warpbeam-theme', this.recolour);
  }

  show(next: readonly ShownBody[]): void {
    this.bodies.show(next);
    this.draw();
    this.followSize();
  }

  /** Planes to choose from; none for none. */
  showPlanes(planes: readonly ShownPlane[]): void {
    this.shownPlanes = planes;
    this.planes.show(planes, readColours(this.host).selected);
    this.draw();
    this.followSize();
  }

  view(name: ViewName): void {
    this.frame(new Vector3(...DIRECTIONS[name]));
  }

  /** Looks along an axis, from its positive end; from the other where it is looked along already. */
  lookAlong(axis: 'x' | 'y' | 'z'): void {
    const [positive, negative] = ({ x: ['right', 'left'], y: ['back', 'front'], z: ['top', 'bottom'] } as const)[axis];
    const isThere = this.camera.direction.dot(new Vector3(...DIRECTIONS[positive]).normalize()) > 0.999;
    this.view(isThere ? negative : positive);
  }

  fit(): void {
    this.frame(this.camera.direction);
  }

  /** Sees all of one body as large as it can be; everything where there is none of that name. */
  fitBody(body: string | undefined): void {
    const box = this.bodies.box(body);
    if (!box.isEmpty()) this.camera.frameBox(this.camera.direction, box, this.insets(), true);
    this.camera.isTouched = true;
  }

  zoom(factor: number): void {
    this.camera.zoom(factor);
  }

  setPerspective(isPerspective: boolean): void {
    this.camera.setPerspective(isPerspective);
  }

  showGround(isShown: boolean): void {
    this.hasGround = isShown;
    if (isShown) this.scene.add(this.ground.group);
    else this.scene.remove(this.ground.group);
    this.draw();
  }

  showShade(isShown: boolean): void {
    if (isShown) this.shade ??= new ContactShade();
    else {
      this.shade?.dispose();
      this.shade = undefined;
    }
    this.draw();
  }

  drawEdges(style: EdgeStyle): void {
    this.bodies.drawEdges(style);
    this.draw();
  }

  /** What is under a point of the element, in CSS pixels; a corner comes before the edges that end there, an edge before the faces beside it. */
  pick(x: number, y: number, wants: PickKind): PickedGeometry | undefined {
    const caster = this.camera.rayAt(x, y);
    const face = pickFace(caster, this.bodies.group, this.isShown);
    if (wants === 'face') return face?.picked;
    if (wants === 'body') return face && { body: face.picked.body, name: WHOLE_BODY };
    const edge = pickEdge(caster, this.bodies.group, face?.distance, {
      reachAt: (distance) => this.camera.perPixel(distance) * REACH_PX,
      isShown: this.isShown,
      withCorners: wants === 'any',
    });
    return edge ?? (wants === 'edge' ? undefined : face?.picked);
  }

  /** What lies in a rectangle of the element, or touches it where that was drawn to the left. */
  pickBox(box: PickBox, wants: PickKind): readonly PickedGeometry[] {
    return pickInBox(this.bodies.bodies, box, wants, (place) => this.camera.project(place));
  }

  /** Every face under a point of the element, nearest first. */
  pickThrough(x: number, y: number): PickedGeometry[] {
    return pickThrough(this.camera.rayAt(x, y), this.bodies.group, this.isShown);
  }

  /** The plane under a point of the element, where no body is before it. */
  pickPlane(x: number, y: number): string | undefined {
    if (this.shownPlanes.length === 0) return undefined;
    const caster = this.camera.rayAt(x, y);
    const plane = this.planes.pick(caster);
    const face = pickFace(caster, this.bodies.group, this.isShown);
    return plane && (face === undefined || plane.distance < face.distance) ? plane.id : undefined;
  }

  lightPlane(id: string | undefined): void {
    this.planes.light(id);
    this.draw();
  }

  /** The face under a point of the element, and where in space it is seen there. */
  hit(x: number, y: number): { readonly picked: PickedGeometry; readonly place: Point3 } | undefined {
    const face = pickFace(this.camera.rayAt(x, y), this.bodies.group, this.isShown);
    return face && { picked: face.picked, place: face.point.toArray() };
  }

  /** A point of the element in the plane through a place that faces the eye: where something that is dragged comes to. */
  across(x: number, y: number, through: Point3): Point3 | undefined {
    const facing = new Plane().setFromNormalAndCoplanarPoint(this.camera.direction, new Vector3(...through));
    return this.camera.rayAt(x, y).ray.intersectPlane(facing, new Vector3())?.toArray();
  }

  /** While the pointer is down, the view turns about what is under it. */
  turnAbout(x: number, y: number): void {
    const place = this.hit(x, y)?.place;
    this.camera.turnAbout(place && new Vector3(...place));
  }

  endTurn(): void {
    this.camera.turnAbout(undefined);
  }

  /** Keeps the view still while something in it is dragged. */
  hold(isStill: boolean): void {
    this.camera.controls.enabled = !isStill;
  }

  /** The view as a PNG picture, as a data address. */
  picture(): string {
    // Read in the same turn as it is drawn: the buffer is not kept.
    this.render();
    this.layShade();
    return this.renderer.domElement.toDataURL('image/png');
  }

  /** Lights up faces and edges of those names; hints in another colour, what is pointed at faintly. */
  highlight(lit: Lit): void {
    this.bodies.highlight(lit);
    this.draw();
  }

  /** Cuts everything by a plane; undefined for nothing cut. */
  cut(section: SectionPlane | undefined): void {
    this.clipping = section && new Plane(new Vector3(...section.normal).negate(), section.offset);
    this.bodies.cut(this.clipping);
    this.draw();
  }

  /** Splits the picture at this part of its width, from 0 to 1: bodies of one side are seen there only; undefined for no split. */
  split(at: number | undefined): void {
    this.splitAt = at;
    this.draw();
  }

  /** Where a place in space is seen, in CSS pixels of the element; undefined behind the eye. */
  project(place: Point3): readonly [number, number] | undefined {
    return this.camera.project(new Vector3(...place));
  }

  seenAxes(): SeenAxes {
    const seen = (x: number, y: number, z: number): readonly [number, number] => this.camera.seenDirection(new Vector3(x, y, z));
    return {
      axes: { x: seen(1, 0, 0), y: seen(0, 1, 0), z: seen(0, 0, 1) },
      perPixel: this.camera.span / Math.max(this.host.clientHeight, 1),
    };
  }

  /** Is told each time the picture is drawn, until the function that comes back is called. */
  onDraw(listener: () => void): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  destroy(): void {
    this.observer.disconnect();
    this.panels.disconnect();
    window.removeEventListener('warpbeam-theme', this.recolour);
    this.listeners.clear();
    clearTimeout(this.resting);
    this.shade?.dispose();
    this.camera.dispose();
    this.bodies.show([]);
    this.planes.clear();
    this.ground.clear();
    this.renderer.dispose();
    this.renderer.domElement.remove();
  }

  private readonly isShown = (point: Vector3): boolean => this.clipping === undefined || this.clipping.distanceToPoint(point) >= -1e-3;

  private readonly draw = (): void => {
    if (!this.isDrawn) return;
    this.isDrawn = false;
    requestAnimationFrame(() => {
      this.isDrawn = true;
      this.render();
      clearTimeout(this.resting);
      if (this.hasCard) this.layShade();
      else if (this.shade) this.resting = setTimeout(this.drawResting, REST_MS);
      for (const listener of this.listeners) listener();
    });
  };

  /** What is drawn is not kept: the shade comes over the picture as it is drawn once more. */
  private readonly drawResting = (): void => {
    this.render();
    this.layShade();
  };

  /** What is cut or compared has none. */
  private layShade(): void {
    const { surfaces } = this.bodies;
    if (!this.shade || this.clipping || this.splitAt !== undefined || surfaces.size === 0) return;
    const perPixel = this.camera.span / Math.max(this.host.clientHeight, 1);
    const size = this.bodies.box().getBoundingSphere(new Sphere()).radius;
    this.shade.lay(this.renderer, this.scene, this.camera.now, surfaces, Math.min(SHADE_PX * perPixel, SHADE_PART * size));
  }

  private readonly recolour = (): void => {
    const colours = readColours(this.host);
    this.bodies.recolour(colours);
    this.ground.recolour(colours.ground);
    this.planes.show(this.shownPlanes, colours.selected);
    this.draw();
  };

  /** Soft light from the viewer's left shoulder, a little more from above than from below. It goes along with the eye. */
  private light(): void {
    const key = new DirectionalLight('#ffffff', 1.75);
    key.position.set(-0.45, 0.75, 1);
    const far = new DirectionalLight('#ffffff', 0.35);
    far.position.set(0.9, 0.1, 0.3);
    const sky = new HemisphereLight('#ffffff', '#d8cdbb', 0.75);
    this.lamp.add(new AmbientLight('#ffffff', 0.85), key, far, sky);
  }

  private render(): void {
    const { renderer, scene, camera } = this;
    camera.settleDepth();
    this.lamp.quaternion.copy(camera.now.quaternion);
    if (this.hasGround) this.ground.lay(camera.span / Math.max(this.host.clientHeight, 1), this.bodies.box());
    camera.now.layers.enableAll();
    if (this.splitAt === undefined) {
      renderer.setScissorTest(false);
      renderer.render(scene, camera.now);
      return;
    }
    const { clientWidth: width, clientHeight: height } = this.host;
    const middle = Math.round(width * this.splitAt);
    renderer.setScissorTest(true);
    for (const [side, from, size] of [
      ['left', 0, middle],
      ['right', middle, width - middle],
    ] as const) {
      if (size <= 0) continue;
      renderer.setScissor(from, 0, size, height);
      camera.now.layers.set(0);
      camera.now.layers.enable(LAYERS[side]);
      renderer.render(scene, camera.now);
    }
  }

  private resize(): void {
    const { clientWidth, clientHeight } = this.host;
    if (clientWidth === 0 || clientHeight === 0) return;
    this.renderer.setSize(clientWidth, clientHeight);
    this.camera.resize(clientWidth, clientHeight);
    if (this.framed && !this.camera.isTouched) this.frame(this.camera.direction, false);
    this.draw();
  }

  /** What is shown first is framed; afterwards, what outgrows the picture is, until somebody has turned, moved or zoomed it. */
  private followSize(): void {
    const box = this.shownBox();
    if (box.isEmpty()) return;
    const bounds = box.getBoundingSphere(new Sphere());
    this.camera.setReach(bounds.center, bounds.radius);
    if (!this.framed) this.frame(new Vector3(...DIRECTIONS.corner), false);
    else if (!this.camera.isTouched && hasLeft(this.framed, bounds)) this.frame(this.camera.direction, false);
  }

  /** What is shown is framed anew in what is left of the picture, until somebody has turned, moved or zoomed it. */
  private moveAside(): void {
    const inset = JSON.stringify(this.insets());
    if (inset === this.inset) return;
    this.inset = inset;
    if (this.framed && !this.camera.isTouched) this.frame(this.camera.direction);
  }

  private frame(direction: Vector3, isGradual = true): void {
    const box = this.shownBox();
    if (box.isEmpty()) return;
    const bounds = box.getBoundingSphere(new Sphere());
    this.camera.setReach(bounds.center, bounds.radius);
    this.camera.frameBox(direction, box, this.insets(), isGradual);
    this.framed = bounds;
  }

  /** Of bodies, or of planes where there are none. */
  private shownBox(): ReturnType<BodyScene['box']> {
    const box = this.bodies.box();
    if (box.isEmpty()) this.planes.group.updateMatrixWorld();
    return box.isEmpty() ? box.setFromObject(this.planes.group) : box;
  }

  /** What stands over the picture, by its attribute `data-over`, with the edge that it stands at. */
  private insets(): Insets {
    const frame = this.host.getBoundingClientRect();
    const insets = { ...NO_INSETS };
    for (const over of this.host.closest('[data-picture]')?.querySelectorAll<HTMLElement>('[data-over]') ?? []) {
      const box = over.getBoundingClientRect();
      if (box.width === 0) continue;
      const edge = over.dataset['over'];
      if (edge === 'left') insets.left = Math.max(insets.left, box.right - frame.left);
      else if (edge === 'right') insets.right = Math.max(insets.right, frame.right - box.left);
      else if (edge === 'top') insets.top = Math.max(insets.top, box.bottom - frame.top);
      else insets.bottom = Math.max(insets.bottom, frame.bottom - box.top);
    }
    return insets;
  }
}

/** Whether a graphics card draws, and not the processor in its place; where that is not told, a card. */
function isDrawnByCard(renderer: WebGLRenderer): boolean {
  const context = renderer.getContext();
  const known = context.getExtension('WEBGL_debug_renderer_info');
  const name: unknown = known && context.getParameter(known.UNMASKED_RENDERER_WEBGL);
  return typeof name !== 'string' || !/swiftshader|llvmpipe|software|basic render/i.test(name);
}

/** Whether something has grown or moved out of a picture that was framed for what was there before, or is small in it now. */
function hasLeft(framed: Sphere, bounds: Sphere): boolean {
  return bounds.center.distanceTo(framed.center) + bounds.radius > framed.radius * 1.1 || bounds.radius < framed.radius * 0.6;
}
