/**
 * Shade where surfaces come close to one another, laid over a picture that is drawn: it tells at a glance what touches what.
 *
 * Ambient obscurance from depth alone, after McGuire, Osman, Bukowski and Hennessy, "The Alchemy Screen-Space Ambient Obscurance
 * Algorithm" (2011): neighbours within a reach darken a place by how far they stand out of its plane. At half the size of the picture, as it is
 * soft anyway. Bodies that are seen through, cut or compared have none: their pictures say something else.
 */
import {
  CustomBlending,
  DepthTexture,
  DoubleSide,
  FloatType,
  Mesh,
  MeshBasicMaterial,
  NearestFilter,
  OneFactor,
  OrthographicCamera,
  PlaneGeometry,
  Scene,
  ShaderMaterial,
  SrcColorFactor,
  Vector2,
  WebGLRenderTarget,
  ZeroFactor,
  type Camera,
  type IUniform,
  type Object3D,
  type Texture,
  type WebGLRenderer,
} from 'three';

/** How much of the light is taken where all of it is. */
const DEPTH_OF_SHADE = 0.5;
const SAMPLES = 14;
/** The pattern of samples turns from pixel to pixel, over a square of as many. */
const TILE = 4;

const VERTEX = `
  varying vec2 place;
  void main() { place = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }
`;

const OBSCURANCE = `
  uniform sampler2D depth;
  uniform mat4 fromClip, toClip;
  uniform vec2 pixel;
  uniform float reach;
  varying vec2 place;

  vec3 seenAt(vec2 at) {
    vec4 seen = fromClip * vec4(2.0 * vec3(at, texture2D(depth, at).r) - 1.0, 1.0);
    return seen.xyz / seen.w;
  }

  // Along the surface: to the neighbour that lies nearer in depth, for the other one may be of another surface.
  vec3 along(vec3 here, vec2 by) {
    vec3 ahead = seenAt(place + by) - here, behind = here - seenAt(place - by);
    return abs(ahead.z) < abs(behind.z) ? ahead : behind;
  }

  void main() {
    if (texture2D(depth, place).r >= 1.0) { gl_FragColor = vec4(1.0); return; }
    vec3 here = seenAt(place);
    vec3 normal = normalize(cross(along(here, vec2(pixel.x, 0.0)), along(here, vec2(0.0, pixel.y))));
    vec4 edge = toClip * vec4(here + vec3(reach, 0.0, 0.0), 1.0);
    float across = abs(0.5 * edge.x / edge.w + 0.5 - place.x);
    vec2 spread = vec2(across, across * pixel.y / pixel.x);
    vec2 tile = mod(floor(place / pixel), ${TILE}.0);
    float turn = 6.2831853 * (tile.x + ${TILE}.0 * tile.y) / ${TILE * TILE}.0;
    float sum = 0.0;
    for (int i = 0; i < ${SAMPLES}; i++) {
      float part = (float(i) + 0.5) / ${SAMPLES}.0;
      float angle = turn + float(i) * 2.3999632;
      vec3 to = seenAt(place + spread * sqrt(part) * vec2(cos(angle), sin(angle))) - here;
      float far = length(to) / reach;
      // What stands out of the plane by less than this part of the reach is the plane.
      float above = max(0.0, dot(to, normal) / reach - 0.03);
      sum += far < 1.0 ? above / (far * far + 0.05) * (1.0 - far * far) : 0.0;
    }
    gl_FragColor = vec4(vec3(clamp(1.0 - 1.6 * sum / ${SAMPLES}.0, 0.0, 1.0)), 1.0);
  }
`;

const SMOOTH = `
  uniform sampler2D shade, depth;
  uniform vec2 pixel;
  varying vec2 place;
  void main() {
    float here = texture2D(depth, place).r;
    float sum = 0.0, weights = 0.0;
    for (int x = 0; x < ${TILE}; x++) for (int y = 0; y < ${TILE}; y++) {
      vec2 at = place + (vec2(float(x), float(y)) - ${(TILE - 1) / 2}) * pixel;
      float weight = abs(texture2D(depth, at).r - here) < 0.004 ? 1.0 : 0.02;
      sum += weight * texture2D(shade, at).r;
      weights += weight;
    }
    gl_FragColor = vec4(vec3(sum / weights), 1.0);
  }
`;

const OVER = `
  uniform sampler2D shade;
  varying vec2 place;
  void main() {
    float taken = ${DEPTH_OF_SHADE} * (1.0 - texture2D(shade, place).r);
    gl_FragColor = vec4(vec3(1.0) - taken * vec3(0.92, 1.0, 1.08), 1.0);
  }
`;

type Uniforms = Record<string, IUniform>;

const drawn = (fragmentShader: string, uniforms: Uniforms): ShaderMaterial =>
  new ShaderMaterial({ vertexShader: VERTEX, fragmentShader, uniforms, depthTest: false, depthWrite: false });

export class ContactShade {
  private readonly depth = new WebGLRenderTarget(1, 1, { depthTexture: new DepthTexture(1, 1, FloatType), minFilter: NearestFilter, magFilter: NearestFilter });
  private readonly rough = new WebGLRenderTarget(1, 1, { depthBuffer: false, minFilter: NearestFilter, magFilter: NearestFilter });
  private readonly smooth = new WebGLRenderTarget(1, 1, { depthBuffer: false });
  private readonly surfaces = new MeshBasicMaterial({
    colorWrite: false,
    side: DoubleSide,
    polygonOffset: true,
    polygonOffsetFactor: 1,
    polygonOffsetUnits: 1,
  });
  private readonly pixel = new Vector2();
  private readonly obscurance: ShaderMaterial;
  private readonly smoothing: ShaderMaterial;
  private readonly over: ShaderMaterial;
  private readonly sheet = new Mesh(new PlaneGeometry(2, 2));
  private readonly flat = new Scene();
  private readonly eye = new OrthographicCamera(-1, 1, 1, -1, 0, 1);

  constructor() {
    const depth: IUniform<Texture | null> = { value: this.depth.depthTexture };
    const pixel = { value: this.pixel };
    this.obscurance = drawn(OBSCURANCE, { depth, pixel, reach: { value: 1 }, fromClip: { value: null }, toClip: { value: null } });
    this.smoothing = drawn(SMOOTH, { depth, pixel, shade: { value: this.rough.texture } });
    this.over = drawn(OVER, { shade: { value: this.smooth.texture } });
    Object.assign(this.over, {
      transparent: true,
      blending: CustomBlending,
      blendSrc: ZeroFactor,
      blendDst: SrcColorFactor,
      blendSrcAlpha: ZeroFactor,
      blendDstAlpha: OneFactor,
    });
    this.sheet.frustumCulled = false;
    this.flat.add(this.sheet);
  }

  /**
   * Lays the shade over what the renderer has just drawn of a scene by a camera. `surfaces` are what casts and takes it; `reach` is how close
   * they must come, in millimetres.
   */
  lay(renderer: WebGLRenderer, scene: Scene, camera: Camera, surfaces: ReadonlySet<Object3D>, reach: number): void {
    const size = renderer.getDrawingBufferSize(new Vector2()).multiplyScalar(0.5).ceil();
    for (const target of [this.depth, this.rough, this.smooth]) target.setSize(size.x, size.y);
    this.pixel.set(1 / size.x, 1 / size.y);
    const aside = hideAllBut(scene, surfaces);
    scene.overrideMaterial = this.surfaces;
    renderer.setRenderTarget(this.depth);
    renderer.clear();
    renderer.render(scene, camera);
    scene.overrideMaterial = null;
    for (const object of aside) object.visible = true;

    const { uniforms } = this.obscurance;
    Object.assign(uniforms['reach'] ?? {}, { value: reach });
    Object.assign(uniforms['fromClip'] ?? {}, { value: camera.projectionMatrixInverse });
    Object.assign(uniforms['toClip'] ?? {}, { value: camera.projectionMatrix });
    this.draw(renderer, this.obscurance, this.rough);
    this.draw(renderer, this.smoothing, this.smooth);
    const { autoClear } = renderer;
    renderer.autoClear = false;
    this.draw(renderer, this.over, null);
    renderer.autoClear = autoClear;
  }

  dispose(): void {
    for (const one of [this.depth, this.rough, this.smooth, this.surfaces, this.obscurance, this.smoothing, this.over, this.sheet.geometry]) one.dispose();
    this.depth.depthTexture?.dispose();
  }

  private draw(renderer: WebGLRenderer, material: ShaderMaterial, target: WebGLRenderTarget | null): void {
    this.sheet.material = material;
    renderer.setRenderTarget(target);
    renderer.render(this.flat, this.eye);
  }
}

/** Hides what is drawn and is none of them; gives what was hidden. */
function hideAllBut(scene: Scene, shown: ReadonlySet<Object3D>): readonly Object3D[] {
  const hidden: Object3D[] = [];
  scene.traverseVisible((object) => {
    if (!shown.has(object) && object.children.length === 0) hidden.push(object);
  });
  for (const object of hidden) object.visible = false;
  return hidden;
}
