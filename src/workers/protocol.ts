/**
 * What goes between a worker and its client. Buffers of meshes and files are transferred: the worker keeps
 * none of them.
 */
import type { Document } from '@/core/document';
import type { BodyMesh } from '@/core/kernel-port';
import type { Regenerated } from '@/core/steps';

export type WorkerRequest =
  | {
      readonly kind: 'regenerate';
      readonly id: number;
      readonly document: Document;
      /** Keys of bodies whose meshes the client has; undefined for a client that wants no meshes. */
      readonly knownMeshes?: readonly string[];
    }
  | { readonly kind: 'export'; readonly id: number; readonly document: Document; readonly format: 'step' | 'stl' };

export type WorkerReply =
  | { readonly kind: 'ready' }
  | {
      readonly kind: 'regenerated';
      readonly id: number;
      readonly result: Regenerated;
      readonly meshes: Readonly<Record<string, BodyMesh>>;
      /** Bytes that the kernel has taken; the client recycles the worker when they are too many. */
      readonly memory: number;
    }
  | { readonly kind: 'exported'; readonly id: number; readonly files: readonly { readonly body: string; readonly bytes: Uint8Array }[] }
  /** The program itself went wrong; the client restarts the worker. */
  | { readonly kind: 'crashed'; readonly id: number; readonly message: string };
