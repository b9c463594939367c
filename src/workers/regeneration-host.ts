/** What a regeneration worker does with its requests; the same in a browser, a server and a test. */
import { DocumentValues } from '@/core/document';
import type { BodyMesh, KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import type { WorkerReply, WorkerRequest } from './protocol';

export class RegenerationHost {
  private readonly regenerator: Regenerator;

  constructor(private readonly kernel: KernelPort) {
    this.regenerator = new Regenerator(kernel);
  }

  answer(request: WorkerRequest): { readonly reply: WorkerReply; readonly transfer: ArrayBuffer[] } {
    const { document, id } = request;
    const result = this.regenerator.regenerate(document, new DocumentValues(document));
    const transfer: ArrayBuffer[] = [];
    if (request.kind === 'export') {
      const files = result.bodies.flatMap(({ name, key }) =>
        key === undefined ? [] : [{ body: name, bytes: this.regenerator.exportFile([key], request.format) }],
      );
      for (const { bytes } of files) transfer.push(bytes.buffer as ArrayBuffer);
      return { reply: { kind: 'exported', id, files }, transfer };
    }
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
}
