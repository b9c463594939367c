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
  Mesh,
  MeshBasicMaterial,
  NotEqualStencilFunc,
  type Object3D,
  type Plane,
  PlaneGeometry,
  ReplaceStencilOp,
  Vector3,
  type WebGLRenderer,
} from 'three';

/** The caps are drawn after everything solid, one body after the other. */
let order = 10;

export function capOver(geometry: BufferGeometry, plane: Plane, colour: Color): Object3D[] {
  order = (order + 1) % 10_000;
  const count = (side: typeof BackSide | typeof FrontSide, operation: typeof IncrementWrapStencilOp | typeof DecrementWrapStencilOp): Mesh => {
    const material = new MeshBasicMaterial({ depthWrite: false, depthTest: false, colorWrite: false, side, clippingPlanes: [plane] });
    Object.assign(material, { stencilWrite: true, stencilFunc: AlwaysStencilFunc, stencilFail: operation, stencilZFail: operation, stencilZPass: operation });
    const mesh = new Mesh(geometry, material);
    mesh.renderOrder = 10 + order;
    return mesh;
  };
  geometry.computeBoundingSphere();
  const { center, radius } = geometry.boundingSphere ?? { center: new Vector3(), radius: 1 };
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
  plane.projectPoint(center, cap.position);
  cap.lookAt(cap.position.clone().sub(plane.normal));
  cap.renderOrder = 10 + order + 0.5;
  cap.onAfterRender = (renderer: WebGLRenderer) => renderer.clearStencil();
  return [count(BackSide, IncrementWrapStencilOp), count(FrontSide, DecrementWrapStencilOp), cap];
}
