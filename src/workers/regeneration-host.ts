/** What a regeneration worker does with its requests; the same in a browser, a server and a test. */
import { openComplete, type CompleteDocument } from '@/core/instances';
import { HeldDocuments, type PostedRequest } from './held-documents';
import type { BodyMesh, KernelPort, Movement } from '@/core/kernel-port';
import { colourOfBody, Regenerator, type KeyedPlace, type Regenerated } from '@/core/steps';
import { readColour, type MeshedBody } from '@/formats/mesh-file';
import { exportAssembly } from './assembly-export';
import type { Between, FileNotice, WorkerReply, WorkerRequest } from './protocol';

interface Answer {
  readonly reply: WorkerReply;
  readonly transfer: ArrayBuffer[];
}

type Report = (reply: WorkerReply) => void;

export class RegenerationHost {
  private readonly regenerator: Regenerator;
  private readonly held = new HeldDocuments();

  constructor(private readonly kernel: KernelPort) {
    this.regenerator = new Regenerator(kernel);
  }

  keepFile({ hash, content }: FileNotice): void {
    this.regenerator.keepFile(hash, content);
  }

  /** `report` is told how far a long request is, before the answer. */
  async answer(request: PostedRequest, report: Report): Promise<Answer> {
    if (request.kind === 'regenerate') return this.regenerate(request);
    const { document, id } = request;
    if (request.kind === 'export-assembly') {
      const { bytes, bodies } = await exportAssembly(this.regenerator, request);
      return { reply: { kind: 'exported', id, bytes, bodies }, transfer: [bytes.buffer as ArrayBuffer] };
    }
    const result = this.build(document);
    if (request.kind === 'export') return this.exportFile(request, result, report);
    if (request.kind === 'compare') return this.compare(request, result);
    if (request.kind === 'between') {
      this.build(request.other);
      const { places, movements } = request;
      const [first, second] = places;
      const found = request.wants === 'overlap' ? this.inCommon(first.key, second.key, movements) : this.apart(first, second, movements);
      return { reply: { kind: 'between', id, found: found ?? null, memory: this.kernel.memory() }, transfer: [] };
    }
    if (request.kind === 'section') {
      const found = request.keys.map((key) => this.regenerator.section(key, request.frame));
      const curves = found.some((one) => one === undefined) ? null : found.flatMap((one) => one ?? []);
      return { reply: { kind: 'section', id, curves, memory: this.kernel.memory() }, transfer: [] };
    }
    const box = this.regenerator.box(request.key, request.movements) ?? null;
    return { reply: { kind: 'box', id, box, memory: this.kernel.memory() }, transfer: [] };
  }

  private regenerate(request: Extract<PostedRequest, { readonly kind: 'regenerate' }>): Answer {
    const { id } = request;
    const { document, values } = this.held.open(request);
    const result = this.regenerator.regenerate(document, values);
    const { known, transfer } = this.readMeshes(result, request.knownMeshes);
    const shapes = request.describe?.map(({ body, name }) => {
      const key = result.bodies.find((one) => one.id === body)?.key;
      return (key === undefined ? undefined : this.regenerator.describe(key, name)) ?? null;
    });
    return { reply: { kind: 'regenerated', id, result, meshes: known, memory: this.kernel.memory(), ...(shapes ? { shapes } : {}) }, transfer };
  }

  private inCommon(first: string, second: string, movements: readonly Movement[]): Between | undefined {
    const volume = this.regenerator.common(first, second, movements);
    return volume === undefined ? undefined : { amount: volume };
  }

  private apart(first: KeyedPlace, second: KeyedPlace, movements: readonly Movement[]): Between | undefined {
    const found = this.regenerator.nearest(first, second, movements);
    if (!found) return undefined;
    const { distance, from, to } = found;
    return { amount: distance, along: [to[0] - from[0], to[1] - from[1], to[2] - from[2]] };
  }

  private build(document: CompleteDocument): Regenerated {
    return this.regenerator.regenerate(document, openComplete(document));
  }

  /** Meshes by key, but for those that the client has; none for a client that wants none. */
  private readMeshes({ bodies }: Regenerated, atClient: readonly string[] | undefined) {
    const transfer: ArrayBuffer[] = [];
    const known: Record<string, BodyMesh> = {};
    for (const { key } of atClient ? bodies : []) {
      if (key === undefined || atClient?.includes(key)) continue;
      const mesh = this.regenerator.mesh(key);
      if (!mesh) continue;
      known[key] = mesh;
      transfer.push(...buffersOf(mesh));
    }
    return { known, transfer };
  }

  private compare(request: Extract<WorkerRequest, { readonly kind: 'compare' }>, after: Regenerated): Answer {
    const { id, wants } = request;
    const before = this.build(request.before);
    const wanted = wants === 'meshes' ? [] : undefined;
    const old = this.readMeshes(before, wanted);
    const now = this.readMeshes(after, wanted && Object.keys(old.known));
    const isWhole = wants === 'differences';
    const differences = isWhole ? this.regenerator.differences(before, after) : [];
    const overlaps = { before: isWhole ? this.regenerator.overlaps(before) : [], after: isWhole ? this.regenerator.overlaps(after) : [] };
    const sides = differences.flatMap(({ added, removed }) => [added, removed].flatMap((side) => (side ? buffersOf(side.mesh) : [])));
    return {
      reply: { kind: 'compared', id, before, after, meshes: { ...old.known, ...now.known }, differences, overlaps, memory: this.kernel.memory() },
      transfer: [...old.transfer, ...now.transfer, ...sides],
    };
  }

  private async exportFile(request: Extract<WorkerRequest, { readonly kind: 'export' }>, result: Regenerated, report: Report): Promise<Answer> {
    const { document, id, format } = request;
    const built = result.bodies.flatMap(({ id: body, name, key }) =>
      key === undefined || request.bodies?.includes(body) === false ? [] : [{ key, name, colour: colourOfBody(document, body) }],
    );
    const tell = (done: number): void => report({ kind: 'progress', id, done, of: built.length + 1 });
    tell(0);
    let bytes: Uint8Array;
    // The kernel has no file of nothing.
    if (built.length === 0) bytes = new Uint8Array();
    else if (format === 'step' || format === 'stl') {
      bytes = this.regenerator.exportFile(
        built.map(({ colour, ...rest }) => ({ ...rest, colour: readColour(colour) })),
        format,
      );
    } else {
      const meshed = built.flatMap(({ key, name, colour }, i): MeshedBody[] => {
        const mesh = this.regenerator.mesh(key);
        tell(i + 1);
        return mesh ? [{ name, colour, mesh }] : [];
      });
      // Loaded when it is asked for: most pages never export.
      bytes =
        format === '3mf'
          ? (await import('@/formats/write-3mf')).write3mf(meshed, document.name)
          : await (await import('@/formats/write-gltf')).writeGltf(meshed, document.name);
    }
    return { reply: { kind: 'exported', id, bytes, bodies: built.length }, transfer: [bytes.buffer as ArrayBuffer] };
  }
}

function buffersOf(mesh: BodyMesh): ArrayBuffer[] {
  return [mesh.positions, mesh.normals, mesh.indices, mesh.edgePoints].map((array) => array.buffer as ArrayBuffer);
}
