/**
 * Regeneration: the steps of a part in order, each from cache where nothing that it is built of changed.
 *
 * The key of a result is the hash of everything that went into it: the resolved numbers, the keys of what
 * it builds on, the kernel's version. A step that fails does not stop steps that do not need it; those that do
 * are waiting. Values that are measured on the way drive later steps in the same pass.
 */
import type { Curve, Frame } from '../geometry';
import { listSteps, type Document, type DocumentValues } from '../document';
import type { BodyMesh, BodyProperties, ExportedProduct, KernelPort, Movement, NamedExport, Nearest, GeometryShape } from '../kernel-port';
import { describeNamed } from './describe-named';
import { commonVolume, findDifferences, findOverlaps, type BodyDifference, type Overlap } from './differences';
import type { Regenerated } from './outcome';
import { ResultCache } from './result-cache';
import { Run } from './run';

/** A product with its bodies by the keys of their shapes. */
export interface KeyedProduct extends Omit<ExportedProduct, 'bodies'> {
  readonly bodies: readonly (Omit<NamedExport, 'body'> & { readonly key: string })[];
}

/** A built body by the key of its shape, or a face or edge of it. */
export interface KeyedPlace {
  readonly key: string;
  readonly name?: string | undefined;
}

/** Regenerates documents on one kernel, and remembers results by their keys. */
export class Regenerator {
  private readonly cache: ResultCache;

  constructor(kernel: KernelPort) {
    this.cache = new ResultCache(kernel);
  }

  /** Brings the content of a file here, for the documents that name it by its hash. */
  keepFile(hash: string, content: string): void {
    this.cache.keepFile(hash, content);
  }

  regenerate(document: Document, values: DocumentValues): Regenerated {
    this.cache.begin();
    const run = new Run(this.cache, document, values);
    for (const step of listSteps(document)) run.regenerateStep(step);
    return run.finish();
  }

  /** What a face, edge or corner of a built body is; undefined where there is none of that name. */
  describe(key: string, name: string): GeometryShape | undefined {
    const [body] = this.cache.handlesOf([key]);
    if (body === undefined) return undefined;
    return describeNamed(this.cache.port, body, name);
  }

  /** The mesh of a body that a regeneration reported; undefined once it is forgotten. */
  mesh(key: string): BodyMesh | undefined {
    return this.cache.mesh(key);
  }

  /** What two regenerations of a part have and the other has not. */
  differences(before: Regenerated, after: Regenerated): BodyDifference[] {
    return findDifferences(this.cache.port, (key) => this.cache.handlesOf([key])[0], before, after);
  }

  /** Bodies of a regeneration that stand in one another. */
  overlaps(state: Regenerated): Overlap[] {
    return findOverlaps(this.cache.port, (key) => this.cache.handlesOf([key])[0], state);
  }

  /** Volume in common of two built bodies, the second moved first, in cubic millimetres; undefined where it cannot be told. */
  common(first: string, second: string, movements: readonly Movement[]): number | undefined {
    const [[a], [b]] = [this.cache.handlesOf([first]), this.cache.handlesOf([second])];
    return a === undefined || b === undefined ? undefined : commonVolume(this.cache.port, a, b, movements);
  }

  /** Where two built bodies, or faces or edges of them, are nearest, the second moved first; undefined where one is not there. */
  nearest(first: KeyedPlace, second: KeyedPlace, movements: readonly Movement[]): Nearest | undefined {
    const { port } = this.cache;
    const [[a], [b]] = [this.cache.handlesOf([first.key]), this.cache.handlesOf([second.key])];
    const moved = b === undefined ? undefined : port.move(b, movements);
    if (a === undefined || !moved?.ok) return undefined;
    const found = port.nearest({ body: a, name: first.name }, { body: moved.value, name: second.name });
    port.release(moved.value);
    return found;
  }

  /** The box around a built body that is moved, in millimetres; undefined where it is not there. */
  box(key: string, movements: readonly Movement[]): BodyProperties['box'] | undefined {
    const { port } = this.cache;
    const [body] = this.cache.handlesOf([key]);
    const moved = body === undefined ? undefined : port.move(body, movements);
    if (!moved?.ok) return undefined;
    const { box } = port.measure(moved.value);
    port.release(moved.value);
    return box;
  }

  /** Where a plane cuts a built body, in x and y of its frame; undefined where it is not there, or that cannot be told. */
  section(key: string, frame: Frame): readonly Curve[] | undefined {
    const [body] = this.cache.handlesOf([key]);
    return body === undefined ? undefined : this.cache.port.section(body, frame);
  }

  /** STEP with product structure; bodies by the keys of their shapes, those that are forgotten are left out. */
  exportProducts(products: ReadonlyMap<string, KeyedProduct>, root: string): Uint8Array {
    const held = [...products].map(([key, { bodies, ...rest }]) => {
      const handles = bodies.flatMap(({ key: shape, ...named }) => this.cache.handlesOf([shape]).map((body) => ({ ...named, body })));
      return [key, { ...rest, bodies: handles }] as const;
    });
    return this.cache.port.exportProducts(new Map(held), root);
  }

  /** Bodies of a regeneration as a file; those that are forgotten are left out. */
  exportFile(bodies: readonly (Omit<NamedExport, 'body'> & { readonly key: string })[], format: 'step' | 'stl'): Uint8Array {
    const held = bodies.flatMap(({ key, ...rest }) => this.cache.handlesOf([key]).map((body) => ({ ...rest, body })));
    return this.cache.port.exportFile(held, format);
  }
}
