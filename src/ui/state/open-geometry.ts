/** What builds and shows the geometry of a document: code that pages without a shape do not load. */
import type { RegenerationClient } from '@/workers/client';
import type { OpenAssembly } from './page-geometry';

export interface OpenGeometry {
  /** To be closed with the page. */
  readonly client: RegenerationClient;
  readonly openAssembly: OpenAssembly | undefined;
}

export async function openGeometry(document: string, isAssembly: boolean): Promise<OpenGeometry> {
  const [{ clientShowing }, assembly] = await Promise.all([import('./page-workers'), isAssembly ? import('./assembly-geometry') : undefined]);
  const client = clientShowing(document, isAssembly);
  return { client, openAssembly: assembly && ((...args) => new assembly.AssemblyGeometry(...args)) };
}
