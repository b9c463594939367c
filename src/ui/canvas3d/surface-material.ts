/** How surfaces are lit: quietly and without gloss, and with a line where a round face turns away from the eye. */
import { MeshLambertMaterial, type Color, type Plane } from 'three';

interface SurfaceOptions {
  readonly color: Color;
  readonly edge: Color;
  readonly opacity: number;
  /** How much behind its own edges it is drawn. */
  readonly nearness: number;
  readonly clipping: readonly Plane[];
}

/** About how many pixels wide the line is. */
const LINE_PX = '1.3';

export function surfaceMaterial({ color, edge, opacity, nearness, clipping }: SurfaceOptions): MeshLambertMaterial {
  const material = new MeshLambertMaterial({
    color,
    clippingPlanes: [...clipping],
    polygonOffset: true,
    polygonOffsetFactor: nearness,
    polygonOffsetUnits: nearness,
    transparent: opacity < 1,
    opacity,
  });
  material.onBeforeCompile = (shader) => {
    shader.uniforms['silhouette'] = { value: edge };
    shader.fragmentShader = shader.fragmentShader.replace('void main() {', 'uniform vec3 silhouette;\nvoid main() {').replace(
      '#include <opaque_fragment>',
      // A flat face that is seen from its side has no line of its own: its facing does not change from pixel to pixel.
      `float facing = abs(dot(normalize(vNormal), isOrthographic ? vec3(0.0, 0.0, 1.0) : normalize(vViewPosition)));
       float turning = fwidth(facing);
       float line = turning < 1e-4 ? 0.0 : 1.0 - smoothstep(0.4, 1.0, facing / (${LINE_PX} * turning));
       outgoingLight = mix(outgoingLight, silhouette, 0.85 * line);
       #include <opaque_fragment>`,
    );
  };
  return material;
}
