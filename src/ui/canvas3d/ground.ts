/** Faint lines of the ground, as low as what is shown and no higher than z = 0: as close as can be told apart, every tenth stronger. Their spacing
 * follows the zoom, by tens. */
import type { Color } from 'three';
import { BufferAttribute, BufferGeometry, Group, LineBasicMaterial, LineSegments, type Box3 } from 'three';

/** Lines to each side of the middle. */
const HALF = 60;
/** Lines that are nearer than this are left out, in pixels. */
const LEAST_PX = 7;

/** Millimetres between two lines, for so many millimetres in a pixel. */
export function spacingOf(perPixel: number): number {
  return 10 ** Math.ceil(Math.log10(LEAST_PX * perPixel));
}

export class Ground {
  readonly group = new Group();
  private at = '';

  constructor(private colour: Color) {}

  recolour(colour: Color): void {
    this.colour = colour;
    this.at = '';
  }

  /** Lays it out under what is shown. */
  lay(perPixel: number, box: Box3): void {
    const spacing = spacingOf(perPixel);
    const stride = 10 * spacing;
    const middle = box.isEmpty() ? ([0, 0] as const) : ([(box.min.x + box.max.x) / 2, (box.min.y + box.max.y) / 2] as const);
    const [x, y] = middle.map((value) => Math.round(value / stride) * stride) as [number, number];
    const z = box.isEmpty() ? 0 : Math.min(0, box.min.z);
    const at = [spacing, x, y, z].join();
    if (at === this.at) return;
    this.at = at;
    this.clear();
    const reach = HALF * spacing;
    const fine: number[] = [];
    const strong: number[] = [];
    for (let i = -HALF; i <= HALF; i++) {
      const line = i % 10 === 0 ? strong : fine;
      line.push(x - reach, y + i * spacing, z, x + reach, y + i * spacing, z, x + i * spacing, y - reach, z, x + i * spacing, y + reach, z);
    }
    this.add(fine, 0.16);
    this.add(strong, 0.38);
  }

  clear(): void {
    for (const child of [...this.group.children]) {
      const { geometry, material } = child as LineSegments<BufferGeometry, LineBasicMaterial>;
      geometry.dispose();
      material.dispose();
      this.group.remove(child);
    }
  }

  private add(points: readonly number[], opacity: number): void {
    const geometry = new BufferGeometry();
    geometry.setAttribute('position', new BufferAttribute(Float32Array.from(points), 3));
    const lines = new LineSegments(geometry, new LineBasicMaterial({ color: this.colour, transparent: true, opacity, depthWrite: false }));
    lines.renderOrder = -1;
    this.group.add(lines);
  }
}
