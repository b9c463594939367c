import type { MeasureKind, RelationKind, SketchEntity, SketchModel } from '@/core/sketch';

/** A sketch written down in short: points by name, then what joins and constrains them. */
export class SketchBuilder {
  readonly entities: SketchEntity[] = [];
  private readonly constraints: { id: string; kind: RelationKind; on: string[] }[] = [];
  private readonly dimensions: { id: string; kind: MeasureKind; on: string[]; value: number; isReference: boolean }[] = [];

  point(id: string, x: number, y: number): this {
    this.entities.push({ type: 'point', id, x, y });
    return this;
  }

  line(id: string, start: string, end: string): this {
    this.entities.push({ type: 'line', id, start, end });
    return this;
  }

  circle(id: string, centre: string, radius: number): this {
    this.entities.push({ type: 'circle', id, centre, radius });
    return this;
  }

  arc(id: string, centre: string, start: string, end: string): this {
    this.entities.push({ type: 'arc', id, centre, start, end });
    return this;
  }

  relate(kind: RelationKind, ...on: string[]): this {
    this.constraints.push({ id: `${kind} ${on.join(' ')}`, kind, on });
    return this;
  }

  measure(kind: MeasureKind, value: number, ...on: string[]): this {
    this.dimensions.push({ id: `${on.join(' ')} = ${value}`, kind, on, value, isReference: false });
    return this;
  }

  read(kind: MeasureKind, ...on: string[]): this {
    this.dimensions.push({ id: `(${on.join(' ')})`, kind, on, value: NaN, isReference: true });
    return this;
  }

  get model(): SketchModel {
    return { entities: this.entities, constraints: this.constraints, dimensions: this.dimensions };
  }
}

/** A rectangle with its first corner on the origin, drawn roughly. */
export function rectangle(width: number, height: number): SketchBuilder {
  return new SketchBuilder()
    .point('a', 1, -2)
    .point('b', 52, 1)
    .point('c', 49, 31)
    .point('d', -1, 28)
    .line('ab', 'a', 'b')
    .line('bc', 'b', 'c')
    .line('cd', 'c', 'd')
    .line('da', 'd', 'a')
    .relate('coincident', 'a', 'origin')
    .relate('horizontal', 'ab')
    .relate('horizontal', 'cd')
    .relate('vertical', 'bc')
    .relate('vertical', 'da')
    .measure('horizontal', width, 'ab')
    .measure('vertical', height, 'bc');
}
