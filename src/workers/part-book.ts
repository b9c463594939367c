/**
 * What has been built of the parts that stand in assemblies, by key: their results, and the faces and edges that mates hold on to. What is
 * measured on one part may set a value of the next, so that one asks until nothing is left to build.
 */
import type { GeometryShape } from '@/core/kernel-port';
import { listWanted, type ShapeSource, type WantedShape } from '@/core/assembly';
import type { DocumentValues } from '@/core/document';
import { listPlaced, type InstanceKey, type PlacedPart } from '@/core/instances';
import type { Regenerated } from '@/core/steps';
import type { NamedGeometry } from './protocol';

export interface WantedPart {
  readonly part: PlacedPart;
  readonly describe: readonly NamedGeometry[];
}

export class PartBook {
  readonly results = new Map<InstanceKey, Regenerated>();
  readonly shapes: ShapeSource = (wanted) => this.described.get(shapeKey(wanted));
  private readonly described = new Map<string, GeometryShape | 'lost'>();
  private readonly failed = new Set<InstanceKey>();

  /** A part that has not been built, or of which faces or edges are still to be described; parts that failed are not asked for again. */
  next(values: DocumentValues): WantedPart | undefined {
    const wanted = listWanted(values).filter((one) => !this.described.has(shapeKey(one)));
    for (const part of listPlaced(values)) {
      if (this.failed.has(part.key)) continue;
      const describe = wanted.filter(({ key }) => key === part.key).map(({ body, name }) => ({ body, name }));
      if (!this.results.has(part.key) || describe.length > 0) return { part, describe };
    }
    return undefined;
  }

  takeShapes(key: InstanceKey, wanted: readonly NamedGeometry[], shapes: readonly (GeometryShape | null)[] = []): void {
    wanted.forEach(({ body, name }, i) => this.described.set(shapeKey({ key, body, name }), shapes[i] ?? 'lost'));
  }

  fail(key: InstanceKey): void {
    this.failed.add(key);
  }

  /** Lets go of the oldest results that nobody uses, down to so many. */
  forgetOldest(most: number, used: ReadonlySet<InstanceKey>): void {
    for (const key of this.results.keys()) {
      if (this.results.size <= most) return;
      if (!used.has(key)) this.results.delete(key);
    }
  }
}

function shapeKey({ key, body, name }: WantedShape): string {
  return `${key} ${body} ${name}`;
}
