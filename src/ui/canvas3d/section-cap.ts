/**
 * The cut faces of a body under a section plane. The stencil counts, for each pixel, how often the rest of the body
 * is left minus how often it is entered; where it is left once more, the eye looks into the cut: there the plane
 * itself is drawn.
 */
import {
  AlwaysStencilFunc,
  BackSide,
  type BufferGeometry,
  Color,
  DecrementWrapStencilOp,
  FrontSide,
  IncrementWrapStencilOp,
  type Matrix4,
  Mesh,
  MeshBasicMaterial,
  NotEqualStencilFunc,
  type Object3D,
  type Plane,
  PlaneGeometry,
  ReplaceStencilOp,
  Sphere,
  Vector3,
  type WebGLRenderer,
} from 'three';

/** The caps are drawn after everything solid, one body after the other. */
let order = 10;

export interface SectionCap {
  readonly objects: readonly Object3D[];
  /** To where the plane is now. */
  readonly move: () => void;
  readonly dispose: () => void;
}

/** `place` is where the body of the geometry stands. */
export function capOver(geometry: BufferGeometry, plane: Plane, colour: Color, place: Matrix4): SectionCap {
  order = (order + 1) % 10_000;
  const count = (side: typeof BackSide | typeof FrontSide, operation: typeof IncrementWrapStencilOp | typeof DecrementWrapStencilOp): Mesh => {
    const material = new MeshBasicMaterial({ depthWrite: false, depthTest: false, colorWrite: false, side, clippingPlanes: [plane] });
    Object.assign(material, { stencilWrite: true, stencilFunc: AlwaysStencilFunc, stencilFail: operation, stencilZFail: operation, stencilZPass: operation });
    const mesh = new Mesh(geometry, material);
    mesh.applyMatrix4(place);
    mesh.renderOrder = 10 + order;
    return mesh;
  };
  if (!geometry.boundingSphere) geometry.computeBoundingSphere();
  const { center, radius } = (geometry.boundingSphere ?? new Sphere(new Vector3(), 1)).clone().applyMatrix4(place);
  const material = new MeshBasicMaterial({ color: colour.clone().lerp(new Color('#7a3b2a'), 0.35) });
  Object.assign(material, {
    stencilWrite: true,
    stencilRef: 0,
    stencilFunc: NotEqualStencilFunc,
    stencilFail: ReplaceStencilOp,
    stencilZFail: ReplaceStencilOp,
    stencilZPass: ReplaceStencilOp,
  });
  const cap = new Mesh(new PlaneGeometry(radius * 4, radius * 4), material);
  const move = (): void => {
    plane.projectPoint(center, cap.position);
    cap.lookAt(cap.position.clone().sub(plane.normal));
  };
  move();
  cap.renderOrder = 10 + order + 0.5;
  cap.onAfterRender = (renderer: WebGLRenderer) => renderer.clearStencil();
  const counts = [count(BackSide, IncrementWrapStencilOp), count(FrontSide, DecrementWrapStencilOp)];
  return {
    objects: [...counts, cap],
    move,
    dispose: () => {
      cap.geometry.dispose();
      for (const { material } of [...counts, cap]) (material as MeshBasicMaterial).dispose();
    },
  };
}
