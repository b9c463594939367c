/** What a regeneration worker does with its requests; the same in a browser, a server and a test. */
import { DocumentValues, findRecord, type Document } from '@/core/document';
import type { BodyMesh, KernelPort } from '@/core/kernel-port';
import { colourOf, Regenerator, type Regenerated } from '@/core/steps';
import { readColour, type MeshedBody } from '@/formats/mesh-file';
import type { WorkerReply, WorkerRequest } from './protocol';

interface Answer {
  readonly reply: WorkerReply;
  readonly transfer: ArrayBuffer[];
}

type Report = (reply: WorkerReply) => void;

export class RegenerationHost {
  private readonly regenerator: Regenerator;

  constructor(private readonly kernel: KernelPort) {
    this.regenerator = new Regenerator(kernel);
  }

  /** `report` is told how far a long request is, before the answer. */
  async answer(request: WorkerRequest, report: Report): Promise<Answer> {
    const { document, id } = request;
    const result = this.regenerator.regenerate(document, new DocumentValues(document));
    if (request.kind === 'export') return this.exportFile(request, result, report);
    const transfer: ArrayBuffer[] = [];
    const meshes: Record<string, BodyMesh> = {};
    if (request.knownMeshes) {
      for (const { key } of result.bodies) {
        if (key === undefined || request.knownMeshes.includes(key)) continue;
        const mesh = this.regenerator.mesh(key);
        if (!mesh) continue;
        meshes[key] = mesh;
        for (const array of [mesh.positions, mesh.normals, mesh.indices, mesh.edgePoints]) transfer.push(array.buffer as ArrayBuffer);
      }
    }
    return { reply: { kind: 'regenerated', id, result, meshes, memory: this.kernel.memory() }, transfer };
  }

  private async exportFile(request: Extract<WorkerRequest, { readonly kind: 'export' }>, result: Regenerated, report: Report): Promise<Answer> {
    const { document, id, format } = request;
    const built = result.bodies.flatMap(({ id: body, name, key }) =>
      key === undefined || request.bodies?.includes(body) === false ? [] : [{ key, name, colour: shownColour(document, body) }],
    );
    const tell = (done: number): void => report({ kind: 'progress', id, done, of: built.length + 1 });
    tell(0);
    let bytes: Uint8Array;
    if (format === 'step' || format === 'stl') {
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

function shownColour(document: Document, body: string): string {
  return colourOf(findRecord(document, body, 'body') ?? { material: '' });
}
