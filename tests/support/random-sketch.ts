/**
 * Random sketches with a known solution: geometry is put down first, every constraint and dimension is then read off
 * it, so that it holds; what the solver gets is the same sketch with every place shaken. Fully constrained by
 * construction, and well conditioned: nothing is fixed by lines that nearly run along one another.
 */
import type { SketchEntity, SketchModel } from '@/core/sketch';
import { makeRandom } from './random';
import { SketchBuilder } from './sketches';

type Place = readonly [number, number];

export interface RandomSketch {
  /** The shaken sketch. */
  readonly model: SketchModel;
  /** Where its points are in truth. */
  readonly points: ReadonlyMap<string, Place>;
  readonly radii: ReadonlyMap<string, number>;
}

/** `size` is how many pieces are added; `shake` how far places are moved, in millimetres, where lengths are 20 to 60. */
export function randomSketch(seed: number, size: number, shake: number): RandomSketch {
  return new Generator(makeRandom(seed), shake).build(size);
}

class Generator {
  private readonly truth = new Map<string, Place>();
  private readonly radii = new Map<string, number>();
  private readonly lines: { readonly id: string; readonly a: string; readonly b: string }[] = [];
  private readonly circles: string[] = [];
  private readonly sketch = new SketchBuilder();
  private count = 0;

  constructor(
    private readonly random: () => number,
    private readonly shake: number,
  ) {}

  build(size: number): RandomSketch {
    const first = this.point([0, 0]);
    const second = this.point([this.between(30, 60), 0]);
    this.sketch.relate('coincident', first, 'origin').relate('horizontal', first, second);
    this.length(first, second);
    this.line(first, second);
    const adders = [this.byTwoLengths, this.byAngle, this.squareLine, this.parallelLine, this.circle, this.touchingCircle, this.tangentArc, this.mirrorImage];
    for (let i = 0; i < size; i++) adders[Math.floor(this.random() * adders.length)]?.call(this);
    return { model: this.shaken(), points: this.truth, radii: this.radii };
  }

  private readonly byTwoLengths = (): void => {
    const { a, b } = this.pickLine();
    const [p, q] = [this.at(a), this.at(b)];
    const base = Math.hypot(q[0] - p[0], q[1] - p[1]);
    // Over the middle third of the base, well off it: both circles cross at a good angle.
    const [t, off] = [this.between(0.3, 0.7), (this.random() < 0.5 ? -1 : 1) * this.between(0.5, 1) * base];
    const along: Place = [(q[0] - p[0]) / base, (q[1] - p[1]) / base];
    const c = this.point([p[0] + along[0] * base * t - along[1] * off, p[1] + along[1] * base * t + along[0] * off]);
    this.length(a, c);
    this.length(b, c);
    this.line(a, c);
  };

  private readonly byAngle = (): void => {
    const line = this.pickLine();
    const direction = this.directionOf(line);
    const turn = (this.random() < 0.5 ? -1 : 1) * this.between(0.5, 2.6);
    const c = this.away(line.b, direction + turn);
    const id = this.line(line.b, c);
    this.length(line.b, c);
    // Read from the first line to the second, both from their starts.
    this.sketch.measure('angle', Math.abs(turn), line.id, id);
  };

  private readonly squareLine = (): void => this.relatedLine('perpendicular', Math.PI / 2);
  private readonly parallelLine = (): void => this.relatedLine('parallel', 0);

  private relatedLine(kind: 'perpendicular' | 'parallel', turn: number): void {
    const line = this.pickLine();
    const from = this.pick([...this.truth.keys()]);
    const c = this.away(from, this.directionOf(line) + turn + (this.random() < 0.5 ? Math.PI : 0));
    const id = this.line(from, c);
    this.sketch.relate(kind, line.id, id);
    this.length(from, c);
  }

  private readonly circle = (): void => {
    const id = `o${this.count++}`;
    const radius = this.between(5, 20);
    this.sketch.circle(id, this.pick([...this.truth.keys()]), radius + this.wobble());
    this.sketch.measure(this.random() < 0.5 ? 'radius' : 'diameter', 0, id);
    this.radii.set(id, radius);
    this.circles.push(id);
  };

  private readonly touchingCircle = (): void => {
    const base = this.circles.length === 0 ? undefined : this.pick(this.circles);
    if (base === undefined) {
      this.circle();
      return;
    }
    const centre = this.sketch.entities.find((entity) => entity.id === base);
    if (centre?.type !== 'circle') return;
    const [x, y] = this.at(centre.centre);
    const radius = this.between(8, 20);
    const angle = this.between(0, 2 * Math.PI);
    const gap = radius + (this.radii.get(base) ?? 0);
    const c = this.point([x + gap * Math.cos(angle), y + gap * Math.sin(angle)]);
    const id = `o${this.count++}`;
    this.sketch.circle(id, c, radius + this.wobble());
    this.radii.set(id, radius);
    this.circles.push(id);
    this.sketch.measure('radius', 0, id).relate('tangent', base, id);
    // How far across or up it stands: whichever tells the angle better.
    this.sketch.measure(Math.abs(Math.sin(angle)) > 0.7 ? 'horizontal' : 'vertical', 0, 'origin', c);
  };

  private readonly tangentArc = (): void => {
    const line = this.pickLine();
    const direction = this.directionOf(line);
    const radius = this.between(10, 30);
    const sweep = this.between(0.6, 2.4);
    const [x, y] = this.at(line.b);
    // To the left of the line's direction: it runs counter-clockwise from the end of the line.
    const centre: Place = [x - radius * Math.sin(direction), y + radius * Math.cos(direction)];
    const c = this.point(centre);
    const from = direction - Math.PI / 2;
    const end = this.point([centre[0] + radius * Math.cos(from + sweep), centre[1] + radius * Math.sin(from + sweep)]);
    const id = `r${this.count++}`;
    this.sketch
      .arc(id, c, line.b, end)
      .relate('tangent', line.id, id)
      .measure('radius', 0, id)
      .measure('arc-length', radius * sweep, id);
    this.radii.set(id, radius);
  };

  private readonly mirrorImage = (): void => {
    const line = this.pickLine();
    const off = [...this.truth.keys()].filter((id) => id !== line.a && id !== line.b && this.offLine(id, line) > 8);
    if (off.length === 0) return;
    const p = this.pick(off);
    const [[ax, ay], [bx, by], [x, y]] = [this.at(line.a), this.at(line.b), this.at(p)];
    const t = ((x - ax) * (bx - ax) + (y - ay) * (by - ay)) / ((bx - ax) ** 2 + (by - ay) ** 2);
    const image = this.point([2 * (ax + t * (bx - ax)) - x, 2 * (ay + t * (by - ay)) - y]);
    this.sketch.relate('symmetric', p, image, line.id);
  };

  private point(place: Place): string {
    const id = `p${this.count++}`;
    this.truth.set(id, place);
    this.sketch.point(id, place[0], place[1]);
    return id;
  }

  private line(a: string, b: string): string {
    const id = `l${this.count++}`;
    this.sketch.line(id, a, b);
    this.lines.push({ id, a, b });
    return id;
  }

  private length(a: string, b: string): void {
    this.sketch.measure('length', 0, a, b);
  }

  /** A new point some way off in a direction. */
  private away(from: string, direction: number): string {
    const [x, y] = this.at(from);
    const far = this.between(20, 60);
    return this.point([x + far * Math.cos(direction), y + far * Math.sin(direction)]);
  }

  private offLine(id: string, { a, b }: { readonly a: string; readonly b: string }): number {
    const [[ax, ay], [bx, by], [x, y]] = [this.at(a), this.at(b), this.at(id)];
    return Math.abs((bx - ax) * (y - ay) - (by - ay) * (x - ax)) / Math.hypot(bx - ax, by - ay);
  }

  private directionOf({ a, b }: { readonly a: string; readonly b: string }): number {
    const [p, q] = [this.at(a), this.at(b)];
    return Math.atan2(q[1] - p[1], q[0] - p[0]);
  }

  private pickLine() {
    return this.pick(this.lines);
  }

  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)] as T;
  }

  private at(id: string): Place {
    return this.truth.get(id) ?? [0, 0];
  }

  private between(least: number, most: number): number {
    return least + this.random() * (most - least);
  }

  private wobble(): number {
    return (this.random() * 2 - 1) * this.shake;
  }

  /** Values are read off the truth; then every point is moved. */
  private shaken(): SketchModel {
    const { model } = this.sketch;
    const entities = model.entities.map((entity): SketchEntity =>
      entity.type === 'point' ? { ...entity, x: entity.x + this.wobble(), y: entity.y + this.wobble() } : entity,
    );
    const dimensions = model.dimensions.map((dimension, i) => ({ ...dimension, id: `d${i}`, value: this.measure(dimension) }));
    const constraints = model.constraints.map((constraint, i) => ({ ...constraint, id: `c${i}` }));
    return { entities, constraints, dimensions };
  }

  private measure({ kind, on, value }: SketchModel['dimensions'][number]): number {
    const [first = '', second = ''] = on;
    const [p, q] = [this.at(first), this.at(second)];
    switch (kind) {
      case 'length':
        return Math.hypot(q[0] - p[0], q[1] - p[1]);
      case 'horizontal':
        return Math.abs(q[0] - p[0]);
      case 'vertical':
        return Math.abs(q[1] - p[1]);
      case 'radius':
        return this.radii.get(first) ?? 0;
      case 'diameter':
        return 2 * (this.radii.get(first) ?? 0);
      case 'angle':
      case 'arc-length':
        return value;
    }
  }
}
