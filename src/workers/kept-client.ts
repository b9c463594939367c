/**
 * A client that asks a store before it asks its worker: what was built, described or measured once, under the same content, is not built again. A
 * page that opens an assembly for the second time shows it without a kernel.
 *
 * Keys say what decides an answer, and nothing else: the meaning of a document, the keys of bodies (which are of their content) and movements.
 * Only answers are kept: no failure, and nothing that was cut short.
 */
import { sha256 } from '@noble/hashes/sha2.js';
import { bytesToHex, utf8ToBytes } from '@noble/hashes/utils.js';
import { stableJson, type Document } from '@/core/document';
import { meaningText, type CompleteDocument } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import type { BodyMesh, BodyProperties, Movement } from '@/core/kernel-port';
import type { KeyedPlace, Regenerated } from '@/core/steps';
import { RegenerationClient, type Purpose, type RegenerationReply } from './client';
import type { Lane } from './lane';
import type { RegenerationFailure } from './one-worker';
import type { Between, NamedGeometry } from './protocol';

type Shape = NonNullable<RegenerationReply['shapes']>[number];

/** A part as it was built, without its meshes. */
interface BuiltPart {
  readonly result: Regenerated;
  /** Faces and edges that were described, by body and name. */
  readonly shapes: Readonly<Record<string, Shape>>;
}

/** What is kept, by the kinds of answers; what is between two bodies may be none. */
export interface Kept {
  readonly part: BuiltPart;
  readonly mesh: BodyMesh;
  readonly between: { readonly value: Between | undefined };
  readonly box: { readonly value: BodyProperties['box'] | undefined };
}

export type KeptKind = keyof Kept;

/** Where answers are kept; it may forget any of them at any time. */
export interface BuiltStore {
  read: <K extends keyof Kept>(kind: K, key: string) => Promise<Kept[K] | undefined>;
  keep: <K extends keyof Kept>(kind: K, key: string, value: Kept[K]) => void;
}

export class KeptRegenerationClient extends RegenerationClient {
  constructor(
    lane: Lane,
    private readonly store: BuiltStore,
  ) {
    super(lane);
  }

  override async regenerate(
    document: CompleteDocument,
    knownMeshes?: readonly string[],
    purpose: Purpose = 'show',
    describe: readonly NamedGeometry[] = [],
  ): Promise<Result<RegenerationReply, RegenerationFailure>> {
    if (!purpose.startsWith('part ')) return this.build(document, knownMeshes, purpose, describe);
    return (await this.regenerateOnce(document, knownMeshes, purpose, describe)).reply;
  }

  /** Has the worker build it, whatever is kept. */
  protected build(...request: Parameters<RegenerationClient['regenerate']>): ReturnType<RegenerationClient['regenerate']> {
    return super.regenerate(...request);
  }

  /** What is kept of a part, or else what its worker builds, which is kept from then on. Nothing is built that is not wanted any more. */
  protected async regenerateOnce(
    document: CompleteDocument,
    knownMeshes: readonly string[] | undefined,
    purpose: Purpose,
    describe: readonly NamedGeometry[],
    isWanted: () => boolean = () => true,
  ): Promise<{ readonly reply: Result<RegenerationReply, RegenerationFailure>; readonly isKept: boolean }> {
    const key = digest(meaningText(withoutSources(document)));
    const known = await this.readPart(key, knownMeshes, describe);
    if (known) return { reply: succeed(known), isKept: true };
    if (!isWanted()) return { reply: fail({ kind: 'superseded' }), isKept: false };
    const reply = await this.build(document, knownMeshes, purpose, describe);
    // A step that waits may wait for a file that is not at hand just now.
    if (reply.ok && isWhole(reply.value.result)) await this.keepPart(key, describe, reply.value);
    return { reply, isKept: false };
  }

  override async between(
    wants: 'overlap' | 'clearance',
    parts: readonly [CompleteDocument, CompleteDocument],
    places: readonly [KeyedPlace, KeyedPlace],
    movements: readonly Movement[],
    purpose?: Purpose,
  ): Promise<Result<Between | undefined, RegenerationFailure>> {
    const key = digest(stableJson({ wants, places, movements: movements.flatMap(movementText) }));
    const known = await this.store.read('between', key);
    if (known) return succeed(known.value);
    const reply = await super.between(wants, parts, places, movements, purpose);
    if (reply.ok) this.store.keep('between', key, { value: reply.value });
    return reply;
  }

  override async box(
    document: CompleteDocument,
    key: string,
    movements: readonly Movement[],
  ): Promise<Result<BodyProperties['box'] | undefined, RegenerationFailure>> {
    const kept = digest(stableJson({ key, movements: movements.flatMap(movementText) }));
    const known = await this.store.read('box', kept);
    if (known) return succeed(known.value);
    const reply = await super.box(document, key, movements);
    if (reply.ok) this.store.keep('box', kept, { value: reply.value });
    return reply;
  }

  /** Undefined where anything that is wanted of it is not kept. */
  private async readPart(key: string, knownMeshes: readonly string[] | undefined, describe: readonly NamedGeometry[]): Promise<RegenerationReply | undefined> {
    const part = await this.store.read('part', key);
    if (!part) return undefined;
    const shapes: Shape[] = [];
    for (const one of describe) {
      const shape = part.shapes[placeText(one)];
      if (shape === undefined) return undefined;
      shapes.push(shape);
    }
    const meshes: Record<string, BodyMesh> = {};
    for (const { key: body } of knownMeshes ? part.result.bodies : []) {
      if (body === undefined || knownMeshes?.includes(body) === true) continue;
      const mesh = await this.store.read('mesh', body);
      if (!mesh) return undefined;
      meshes[body] = mesh;
    }
    return { result: part.result, meshes, shapes };
  }

  private async keepPart(key: string, describe: readonly NamedGeometry[], { result, meshes, shapes = [] }: RegenerationReply): Promise<void> {
    // What is described is added to what was. Where nothing is, there was nothing, or its meshes were let go of.
    const before = describe.length > 0 ? await this.store.read('part', key) : undefined;
    const described = Object.fromEntries(describe.map((one, i) => [placeText(one), shapes[i] ?? null]));
    for (const [body, mesh] of Object.entries(meshes)) this.store.keep('mesh', body, mesh);
    this.store.keep('part', key, { result, shapes: { ...before?.shapes, ...described } });
  }
}

/** Where values are taken from decides nothing: what they are does. So copies of a part, of whatever master, are built once. */
function withoutSources(document: Document): Document {
  const links = Object.entries(document.records).flatMap(([id, record]) => (record.type === 'link' ? [[id, { ...record, source: '' }] as const] : []));
  return links.length === 0 ? document : { ...document, records: { ...document.records, ...Object.fromEntries(links) } };
}

function isWhole({ steps }: Regenerated): boolean {
  return steps.every(({ status }) => status === 'done' || status === 'suppressed');
}

/** About how many bytes a kept answer takes. */
export function bytesOf(value: Kept[keyof Kept]): number {
  if ('positions' in value) return [value.positions, value.normals, value.indices, value.edgePoints].reduce((sum, { byteLength }) => sum + byteLength, 1000);
  return 'result' in value ? 4000 : 200;
}

/** Movements that differ by less than the kernel tells apart are one: they come from solvers that began elsewhere. None where it moves nothing. */
function movementText(movement: Movement): string[] {
  const millimetres = (place: readonly number[]): string[] => place.map((v) => rounded(v, 5));
  switch (movement.kind) {
    case 'shift':
      return [`shift ${millimetres(movement.by).join(',')}`];
    case 'mirror':
      return [`mirror ${[...millimetres(movement.plane.origin), ...movement.plane.normal.map((v) => rounded(v, 8))].join(',')}`];
    case 'turn': {
      const { about, angle } = movement;
      const turn = [Math.cos(angle / 2), ...about.direction.map((v) => v * Math.sin(angle / 2))].map((v) => rounded(v, 8));
      return turn.slice(1).every((v) => Number(v) === 0) ? [] : [`turn ${[...millimetres(about.origin), ...turn].join(',')}`];
    }
  }
}

function rounded(value: number, digits: number): string {
  const text = value.toFixed(digits);
  return Number(text) === 0 ? (0).toFixed(digits) : text;
}

function placeText({ body, name }: NamedGeometry): string {
  return `${body} ${name}`;
}

function digest(text: string): string {
  return bytesToHex(sha256(utf8ToBytes(text)));
}
