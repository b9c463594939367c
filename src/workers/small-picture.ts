/**
 * Small pictures of parts, drawn without a graphics card: triangles into a depth buffer, lit from the eye, with
 * their edges over them. Looked at from the front, the right and above, as the canvas does at first.
 */
import { placeMesh } from '@/core/assembly';
import type { Document } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { listPlaced } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { colourOfBody, type Regenerated } from '@/core/steps';
import type { WholeAssembly } from './whole-assembly';

export interface DrawnBody {
  readonly mesh: BodyMesh;
  /** Red, green and blue: `#8a6a4f`. */
  readonly colour: string;
}

/** Red, green, blue and opacity of each pixel, in lines from the top. */
export interface SmallPicture {
  readonly width: number;
  readonly height: number;
  readonly data: Uint8ClampedArray<ArrayBuffer>;
}

const SIZE = { width: 240, height: 160 } as const;
/** Drawn larger by this and averaged, so that edges are smooth. */
const OVERSAMPLING = 2;
const MARGIN = 0.06;
const EDGE: Point3 = [43, 35, 29];

/** Right, up and towards the eye, for a look from (0.75, -1, 0.6). */
const VIEW = viewFrom([0.75, -1, 0.6]);

/** The bodies of a part that was built with its meshes, each that is not used up. */
export function drawnOfPart(document: Document, { bodies }: Pick<Regenerated, 'bodies'>, meshes: Readonly<Record<string, BodyMesh>>): DrawnBody[] {
  return bodies.flatMap(({ id, key, usedBy }) => {
    const mesh = key === undefined || usedBy !== undefined ? undefined : meshes[key];
    return mesh ? [{ mesh, colour: colourOfBody(document, id) }] : [];
  });
}

/** The bodies of an assembly that was built with its meshes, where they stand. */
export function drawnOfWhole({ values, placement, results, meshes }: WholeAssembly): DrawnBody[] {
  const known = Object.fromEntries(meshes);
  return listPlaced(values, placement.standing).flatMap(({ key, document, at }) =>
    drawnOfPart(document, results.get(key) ?? { bodies: [] }, known).map(({ mesh, colour }) => ({ mesh: placeMesh(mesh, at), colour })),
  );
}

/** As large as there is room for all of `among`, so that several are drawn to one scale. Undefined when there is nothing to see. */
export function drawPicture(bodies: readonly DrawnBody[], among: readonly DrawnBody[] = bodies): SmallPicture | undefined {
  const fit = bodies.length === 0 ? undefined : fitTo(among);
  if (!fit) return undefined;
  const canvas = new Canvas(SIZE.width * OVERSAMPLING, SIZE.height * OVERSAMPLING);
  for (const body of bodies) drawSurface(canvas, body, fit);
  for (const { mesh } of bodies) drawEdges(canvas, mesh, fit);
  return canvas.read();
}

type Fit = (x: number, y: number, z: number) => Point3;

function viewFrom(eye: Point3): readonly [Point3, Point3, Point3] {
  const [x, y, z] = unit(eye);
  const right = unit([-y, x, 0]);
  return [right, [y * right[2] - z * right[1], z * right[0] - x * right[2], x * right[1] - y * right[0]], [x, y, z]];
}

function unit([x, y, z]: Point3): Point3 {
  const length = Math.hypot(x, y, z);
  return [x / length, y / length, z / length];
}

function along([x, y, z]: Point3, axis: Point3): number {
  return x * axis[0] + y * axis[1] + z * axis[2];
}

/** Places in space to pixels and depth, so that the bodies fill the picture. */
function fitTo(bodies: readonly DrawnBody[]): Fit | undefined {
  const [right, up, towards] = VIEW;
  const range = { left: Infinity, right: -Infinity, low: Infinity, high: -Infinity };
  for (const { mesh } of bodies) {
    for (let i = 0; i < mesh.positions.length; i += 3) {
      const place: Point3 = [mesh.positions[i] ?? 0, mesh.positions[i + 1] ?? 0, mesh.positions[i + 2] ?? 0];
      const [x, y] = [along(place, right), along(place, up)];
      range.left = Math.min(range.left, x);
      range.right = Math.max(range.right, x);
      range.low = Math.min(range.low, y);
      range.high = Math.max(range.high, y);
    }
  }
  const [width, height] = [range.right - range.left, range.high - range.low];
  if (!(Math.max(width, height) > 0)) return undefined;
  const [w, h] = [SIZE.width * OVERSAMPLING, SIZE.height * OVERSAMPLING];
  const scale = (1 - 2 * MARGIN) * Math.min(w / Math.max(width, 1e-9), h / Math.max(height, 1e-9));
  const [midX, midY] = [(range.left + range.right) / 2, (range.low + range.high) / 2];
  return (x, y, z) => {
    const place: Point3 = [x, y, z];
    return [w / 2 + (along(place, right) - midX) * scale, h / 2 - (along(place, up) - midY) * scale, along(place, towards) * scale];
  };
}

function drawSurface(canvas: Canvas, { mesh, colour }: DrawnBody, fit: Fit): void {
  const { positions, normals, indices } = mesh;
  const part = (at: number): number => Number.parseInt(colour.slice(at, at + 2), 16);
  const base: Point3 = [part(1), part(3), part(5)];
  const corner = (index: number): Point3 => fit(positions[3 * index] ?? 0, positions[3 * index + 1] ?? 0, positions[3 * index + 2] ?? 0);
  for (let i = 0; i + 2 < indices.length; i += 3) {
    const [a = 0, b = 0, c = 0] = indices.subarray(i, i + 3);
    const normal = unit([normals[3 * a] ?? 0, normals[3 * a + 1] ?? 0, normals[3 * a + 2] ?? 1]);
    const facing = along(normal, VIEW[2]);
    const light = 0.55 + 0.35 * Math.max(0, facing) + 0.12 * Math.max(0, normal[2]);
    canvas.triangle(corner(a), corner(b), corner(c), [base[0] * light, base[1] * light, base[2] * light]);
  }
}

function drawEdges(canvas: Canvas, { edgePoints, edges }: BodyMesh, fit: Fit): void {
  for (const { start, count } of edges) {
    for (let i = start; i + 1 < start + count; i += 2) {
      const end = (at: number): Point3 => fit(edgePoints[3 * at] ?? 0, edgePoints[3 * at + 1] ?? 0, edgePoints[3 * at + 2] ?? 0);
      canvas.line(end(i), end(i + 1), EDGE);
    }
  }
}

class Canvas {
  private readonly depth: Float32Array;
  private readonly pixels: Float32Array;

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {
    this.depth = new Float32Array(width * height).fill(-Infinity);
    // Red, green, blue, and how much is covered.
    this.pixels = new Float32Array(width * height * 4);
  }

  triangle(a: Point3, b: Point3, c: Point3, colour: Point3): void {
    const area = (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
    if (Math.abs(area) < 1e-9) return;
    const [left, right] = [Math.max(0, Math.floor(Math.min(a[0], b[0], c[0]))), Math.min(this.width - 1, Math.ceil(Math.max(a[0], b[0], c[0])))];
    const [top, bottom] = [Math.max(0, Math.floor(Math.min(a[1], b[1], c[1]))), Math.min(this.height - 1, Math.ceil(Math.max(a[1], b[1], c[1])))];
    for (let y = top; y <= bottom; y++) {
      for (let x = left; x <= right; x++) {
        const [px, py] = [x + 0.5, y + 0.5];
        const u = ((b[0] - px) * (c[1] - py) - (b[1] - py) * (c[0] - px)) / area;
        const v = ((c[0] - px) * (a[1] - py) - (c[1] - py) * (a[0] - px)) / area;
        if (u < 0 || v < 0 || u + v > 1) continue;
        this.put(x, y, u * a[2] + v * b[2] + (1 - u - v) * c[2], colour);
      }
    }
  }

  line(a: Point3, b: Point3, colour: Point3): void {
    const steps = Math.max(1, Math.ceil(Math.max(Math.abs(b[0] - a[0]), Math.abs(b[1] - a[1]))));
    for (let i = 0; i <= steps; i++) {
      const share = i / steps;
      // A little nearer than the faces that meet there.
      this.put(Math.floor(a[0] + share * (b[0] - a[0])), Math.floor(a[1] + share * (b[1] - a[1])), a[2] + share * (b[2] - a[2]) + 1.5, colour);
    }
  }

  read(): SmallPicture {
    const [width, height] = [this.width / OVERSAMPLING, this.height / OVERSAMPLING];
    const data = new Uint8ClampedArray(4 * width * height);
    for (let y = 0; y < height; y++) {
      for (let x = 0; x < width; x++) data.set(this.average(x, y), 4 * (y * width + x));
    }
    return { width, height, data };
  }

  private put(x: number, y: number, z: number, colour: Point3): void {
    if (x < 0 || y < 0 || x >= this.width || y >= this.height) return;
    const at = y * this.width + x;
    if (z <= (this.depth[at] ?? 0)) return;
    this.depth[at] = z;
    this.pixels.set([...colour, 255], 4 * at);
  }

  /** Red, green, blue and opacity of a pixel of the picture. */
  private average(x: number, y: number): [number, number, number, number] {
    const sum = [0, 0, 0, 0];
    for (let dy = 0; dy < OVERSAMPLING; dy++) {
      for (let dx = 0; dx < OVERSAMPLING; dx++) {
        const at = 4 * ((y * OVERSAMPLING + dy) * this.width + x * OVERSAMPLING + dx);
        for (let i = 0; i < 4; i++) sum[i] = (sum[i] ?? 0) + (this.pixels[at + i] ?? 0);
      }
    }
    const covered = (sum[3] ?? 0) / 255 || 1;
    const part = (i: number): number => Math.min(255, Math.round((sum[i] ?? 0) / covered));
    return [part(0), part(1), part(2), Math.round((sum[3] ?? 0) / OVERSAMPLING ** 2)];
  }
}
