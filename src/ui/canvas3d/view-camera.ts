/**
 * The eye of the 3D picture: parallel or in perspective, turned about what is under the pointer, moved to views within a moment.
 * Millimetres, z up. The target is the place that is seen in the middle; the span is how many millimetres are seen there from the lower
 * to the upper edge.
 */
import { type Box3, MathUtils, OrthographicCamera, PerspectiveCamera, Raycaster, Spherical, Vector2, Vector3 } from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { fitSpan, shiftOfRoom, type Insets } from './framing';

/** Degrees from the lower to the upper edge of a picture in perspective. */
const FIELD = 30;
/** How long a move to another view takes, in milliseconds. */
const MOVE_MS = 150;
/** Spherical angles of three.js are about y; ours are about z. */
const Y_UP = (v: Vector3): Vector3 => new Vector3(v.x, v.z, -v.y);
const Z_UP = (v: Vector3): Vector3 => new Vector3(v.x, -v.z, v.y);

export class ViewCamera {
  readonly controls: OrbitControls;
  /** Whether somebody has turned, moved or zoomed the picture since it was framed. */
  isTouched = false;
  private readonly parallel = new OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly perspective = new PerspectiveCamera(FIELD, 1, 0.1, 1e5);
  private size: readonly [width: number, height: number] = [1, 1];
  /** Of what is shown, for how far the picture reaches in depth. */
  private reach = { centre: new Vector3(), radius: 100 };
  private pivot: { readonly place: Vector3; readonly seen: Vector3 } | undefined;
  private isMoving = false;
  private frame = 0;

  /** Without a surface to listen to, it is moved by calls alone. */
  constructor(
    surface: HTMLElement | undefined,
    private readonly onChange: () => void,
  ) {
    for (const camera of [this.parallel, this.perspective]) {
      camera.up.set(0, 0, 1);
      camera.position.set(300, -400, 240);
    }
    this.controls = new OrbitControls(this.parallel, surface);
    this.controls.enableDamping = false;
    this.controls.zoomToCursor = true;
    this.controls.addEventListener('change', () => {
      if (this.isMoving) return;
      this.isTouched = true;
      this.keepPivot();
      this.onChange();
    });
    this.setSpan(300);
  }

  get now(): OrthographicCamera | PerspectiveCamera {
    return this.controls.object === this.perspective ? this.perspective : this.parallel;
  }

  get isParallel(): boolean {
    return this.now === this.parallel;
  }

  get span(): number {
    if (this.isParallel) return (this.parallel.top - this.parallel.bottom) / this.parallel.zoom;
    return 2 * Math.tan((FIELD * Math.PI) / 360) * this.perspective.position.distanceTo(this.controls.target);
  }

  /** From the target to the eye. */
  get direction(): Vector3 {
    return this.now.position.clone().sub(this.controls.target).normalize();
  }

  /** Millimetres that a pixel spans, at a distance from the eye. */
  perPixel(distance: number): number {
    const span = this.isParallel ? this.span : 2 * Math.tan((FIELD * Math.PI) / 360) * distance;
    return span / this.size[1];
  }

  setPerspective(isPerspective: boolean): void {
    if (isPerspective !== this.isParallel) return;
    const [{ span, direction }, { target }] = [this, this.controls];
    this.controls.object = isPerspective ? this.perspective : this.parallel;
    this.put(direction, target.clone(), span);
  }

  resize(width: number, height: number): void {
    const { span } = this;
    this.size = [width, height];
    this.perspective.aspect = width / height;
    if (this.isParallel) this.setSpan(span);
    this.perspective.updateProjectionMatrix();
  }

  /** What is shown lies in this ball. */
  setReach(centre: Vector3, radius: number): void {
    this.reach = { centre, radius: Math.max(radius, 1) };
  }

  /** Sees all of a box from a direction, within what is free of the picture. */
  frameBox(direction: Vector3, box: Box3, insets: Insets, isGradual: boolean): void {
    const { right, up } = axesOf(direction);
    const [width, height] = this.size;
    const span = fitSpan(box, { right, up, towards: direction.clone().normalize() }, [width, height], insets, this.isParallel ? 0 : FIELD);
    const [dx, dy] = shiftOfRoom(insets);
    const perPixel = span / height;
    const target = box
      .getCenter(new Vector3())
      .addScaledVector(right, -dx * perPixel)
      .addScaledVector(up, dy * perPixel);
    this.moveTo(direction, target, span, isGradual);
    this.isTouched = false;
  }

  zoom(factor: number): void {
    this.put(this.direction, this.controls.target.clone(), this.span / factor);
    this.isTouched = true;
  }

  /** What the view turns about while the pointer is down: it stays where it is seen. */
  turnAbout(place: Vector3 | undefined): void {
    this.pivot = place && { place, seen: place.clone().applyMatrix4(this.seenFrom()) };
  }

  /** A ray through a point of the element, in CSS pixels. */
  rayAt(x: number, y: number): Raycaster {
    this.settleDepth();
    const caster = new Raycaster();
    caster.setFromCamera(new Vector2((x / this.size[0]) * 2 - 1, 1 - (y / this.size[1]) * 2), this.now);
    return caster;
  }

  /** Where a place is seen, in CSS pixels; undefined behind the eye. */
  project(place: Vector3): readonly [number, number] | undefined {
    this.now.updateMatrixWorld();
    const at = place.project(this.now);
    return at.z > 1 ? undefined : [((at.x + 1) / 2) * this.size[0], ((1 - at.y) / 2) * this.size[1]];
  }

  /** A direction in space as it is seen, y down: of length 1 where it lies across the view. */
  seenDirection(direction: Vector3): readonly [number, number] {
    const { right, up } = axesOf(this.direction);
    return [direction.dot(right), -direction.dot(up)];
  }

  /** Before each drawing: nothing that is shown lies before or behind what the picture reaches to. */
  settleDepth(): void {
    const { centre, radius } = this.reach;
    const { now: camera } = this;
    camera.updateMatrixWorld();
    if (camera === this.parallel) {
      // How far away the eye of a parallel picture stands changes nothing in it.
      const far = 4 * radius + this.span;
      const behind = camera.position.clone().sub(centre).dot(this.direction);
      const move = this.direction.multiplyScalar(far - behind);
      camera.position.add(move);
      this.controls.target.add(move);
      camera.near = 0;
      camera.far = 2 * far;
    } else {
      const distance = camera.position.distanceTo(centre);
      camera.near = Math.max(distance - 1.5 * radius, distance / 500, radius / 500);
      camera.far = distance + 4 * radius;
    }
    camera.updateProjectionMatrix();
    camera.updateMatrixWorld();
  }

  dispose(): void {
    if (this.frame !== 0) cancelAnimationFrame(this.frame);
    this.controls.dispose();
  }

  private moveTo(direction: Vector3, target: Vector3, span: number, isGradual: boolean): void {
    if (this.frame !== 0) cancelAnimationFrame(this.frame);
    this.frame = 0;
    if (!isGradual || matchMedia('(prefers-reduced-motion: reduce)').matches) {
      this.put(direction, target, span);
      return;
    }
    const from = { turn: turnOf(this.direction), target: this.controls.target.clone(), span: this.span };
    const to = turnOf(direction);
    // Round the shorter way.
    const theta = from.turn.theta + MathUtils.euclideanModulo(to.theta - from.turn.theta + Math.PI, 2 * Math.PI) - Math.PI;
    const begun = performance.now();
    const step = (): void => {
      const share = MathUtils.smoothstep(performance.now() - begun, 0, MOVE_MS);
      const turn = new Spherical(1, MathUtils.lerp(from.turn.phi, to.phi, share), MathUtils.lerp(from.turn.theta, theta, share));
      const between = Z_UP(new Vector3().setFromSpherical(turn));
      this.put(share < 1 ? between : direction, from.target.clone().lerp(target, share), from.span * (span / from.span) ** share);
      if (share < 1) this.frame = requestAnimationFrame(step);
    };
    step();
  }

  /** Sees a place from a direction. */
  private put(direction: Vector3, target: Vector3, span: number): void {
    const { now: camera } = this;
    const distance = this.isParallel ? 4 * this.reach.radius + span : span / (2 * Math.tan((FIELD * Math.PI) / 360));
    this.controls.target.copy(target);
    camera.position.copy(target).addScaledVector(direction.clone().normalize(), distance);
    this.setSpan(span);
    this.isMoving = true;
    this.controls.update();
    this.isMoving = false;
    this.onChange();
  }

  private setSpan(span: number): void {
    const [width, height] = this.size;
    const half = span / 2;
    Object.assign(this.parallel, { left: (-half * width) / height, right: (half * width) / height, top: half, bottom: -half, zoom: 1 });
    this.parallel.updateProjectionMatrix();
  }

  /** Turning goes on about the middle of the picture; moved along with it, the pivot stays where it was seen. */
  private keepPivot(): void {
    if (!this.pivot) return;
    const { place, seen } = this.pivot;
    const drift = place.clone().applyMatrix4(this.seenFrom()).sub(seen);
    const back = drift.applyQuaternion(this.now.quaternion);
    this.now.position.add(back);
    this.controls.target.add(back);
  }

  private seenFrom(): OrthographicCamera['matrixWorldInverse'] {
    this.now.updateMatrixWorld();
    return this.now.matrixWorldInverse;
  }
}

function turnOf(direction: Vector3): Spherical {
  return new Spherical().setFromVector3(Y_UP(direction));
}

/** Right and up of the picture, seen from a direction. */
function axesOf(direction: Vector3): { readonly right: Vector3; readonly up: Vector3 } {
  const towards = direction.clone().normalize();
  const right = new Vector3(0, 0, 1).cross(towards).normalize();
  return { right, up: towards.clone().cross(right) };
}
