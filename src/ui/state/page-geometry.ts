/**
 * The geometry of an open document in the browser: regenerated after every change, shown as it was last good, tried out
 * and looked at as it was. No React; it writes to the store of the session.
 */
import type { StoreApi } from 'zustand/vanilla';
import { readMesh } from '@/contract';
import { applyEdit, listIds, type Document, type Edit, type EditFailure } from '@/core/document';
import type { Curve, Frame } from '@/core/geometry';
import { complete, InstanceLibrary, type CompleteDocument } from '@/core/instances';
import type { BodyMesh } from '@/core/kernel-port';
import { fail, succeed, type Result } from '@/core/kit';
import type { RegenerationClient } from '@/workers/client';
import type { Api } from './api';
import type { SessionState } from './session-state';
import type { AssemblyGeometry } from './assembly-geometry';
import { choosePictures, cutAfter, type BodyPicture } from './pictures';

/** Puts an assembly together from its built parts. */
export type OpenAssembly = (store: StoreApi<SessionState>, client: RegenerationClient | undefined, library: InstanceLibrary) => AssemblyGeometry;

/** Meshes kept in the page to go back to, beside those that are shown. */
const MAX_MESHES = 40;

export class PageGeometry {
  /** The newest wish for the ground of a step: older ones are let go of. */
  private wishForBefore: object | undefined;
  /** The document with an edit that is only tried. */
  private previewed: Document | undefined;
  private isClosed = false;
  /** How often a part was asked for, and the newest of these that is shown: answers may come in another order. */
  private asked = 0;
  private shown = 0;
  /** Of an assembly alone, whose code other pages do not load. */
  readonly assembly: AssemblyGeometry | undefined;

  constructor(
    private readonly store: StoreApi<SessionState>,
    private readonly client: RegenerationClient | undefined,
    private readonly readPicture: Api['readPicture'],
    private readonly library: InstanceLibrary = new InstanceLibrary(),
    openAssembly?: OpenAssembly,
  ) {
    this.assembly = openAssembly?.(store, client, library);
  }

  /** The solid of the latest revision, until this page has built its own. An assembly is shown part by part. */
  async showKeptPicture(): Promise<void> {
    if (!this.client || this.assembly) return;
    const reply = await this.readPicture(this.store.getState().document.id);
    if (!reply.ok || this.isClosed) return;
    const { revision, bodies } = reply.value;
    this.store.setState((state) => {
      const meshes = new Map([...bodies.map(({ key, mesh }) => [key, readMesh(mesh)] as const), ...state.meshes]);
      if (state.regenerated) return { meshes };
      const isStale = state.unsavedEdits > 0 || state.revision !== revision;
      return { meshes, pictures: bodies.map(({ id, key }) => ({ body: id, key, isStale })) };
    });
  }

  /** Shows what the document would look like after an edit that is not made yet, built up to a step or as a whole; undefined ends it. */
  preview(edit: Edit | undefined, upTo?: string): EditFailure | undefined {
    if (!edit) {
      if (this.previewed) {
        this.previewed = undefined;
        this.store.setState({ preview: undefined });
        this.regenerate();
      }
      return undefined;
    }
    const result = applyEdit(this.store.getState().document, edit);
    if (!result.ok) return result.failure;
    this.previewed = cutAfter(result.value.document, upTo);
    this.regenerate();
    return undefined;
  }

  /** Steps that an edit would break: what is built now and would not be then. Nothing is changed. */
  async foresee(edit: Edit): Promise<Result<readonly { readonly id: string; readonly message: string }[], EditFailure>> {
    const result = applyEdit(this.store.getState().document, edit);
    if (!result.ok) return fail(result.failure);
    const before = this.store.getState().regenerated;
    const reply = await this.client?.regenerate(this.whole(result.value.document), undefined, 'foresee');
    if (!reply?.ok || !before) return succeed([]);
    const broken = reply.value.result.steps.filter(
      ({ id, status }) => (status === 'failed' || status === 'waiting') && before.steps.some((step) => step.id === id && step.status === 'done'),
    );
    return succeed(broken.map(({ id, problem }) => ({ id, message: problem?.message ?? '' })));
  }

  /** Builds what a step is made on, beside the solid as it is, to pick faces and edges from; undefined lets go of it. */
  async showBefore(step: string | undefined): Promise<void> {
    const wish = {};
    this.wishForBefore = wish;
    this.store.setState({ before: undefined });
    const { document, meshes } = this.store.getState();
    const steps = listIds(document, 'steps');
    const at = step === undefined ? -1 : steps.indexOf(step);
    if (at < 0 || !this.client) return;
    const upTo = { ...document, lists: { ...document.lists, steps: steps.slice(0, at) } };
    const reply = await this.client.regenerate(this.whole(upTo), [...meshes.keys()], 'ground');
    if (!reply.ok || this.wishForBefore !== wish) return;
    const { result, meshes: fresh } = reply.value;
    this.store.setState((state) => ({ before: choosePictures(result, []), meshes: new Map([...state.meshes, ...Object.entries(fresh)]) }));
  }

  /** Regenerates only up to a step, for a look at the part as it was then; undefined for all of it. */
  buildTo(step: string | undefined): void {
    this.store.setState({ builtTo: step });
    this.regenerate();
  }

  /** Stops geometry, also what is being built just now, from following edits; or lets it follow again. */
  setPaused(isPaused: boolean): void {
    this.store.setState({ isPaused });
    if (!isPaused) {
      this.regenerate();
      return;
    }
    this.client?.cancel();
    this.store.setState({ regeneration: 'idle' });
  }

  /** Builds what the document is now; the newest request wins. */
  regenerate(): void {
    const { client, previewed } = this;
    if (this.store.getState().isPaused) return;
    if (this.assembly) {
      this.assembly.regenerate();
      return;
    }
    const { meshes, builtTo } = this.store.getState();
    const document = cutAfter(this.store.getState().document, builtTo);
    if (!client || document.kind !== 'part') return;
    this.store.setState({ regeneration: 'running' });
    const wish = ++this.asked;
    void client.regenerate(this.whole(previewed ?? document), [...meshes.keys()]).then((reply) => {
      if (this.isClosed || wish < this.shown) return;
      if (!reply.ok) {
        if (reply.failure.kind !== 'superseded') this.store.setState({ regeneration: reply.failure });
        return;
      }
      this.shown = wish;
      const { result } = reply.value;
      const { meshes: before, pictures: shown } = this.store.getState();
      const pictures = choosePictures(result, shown);
      const known = this.forgetOldest(new Map([...before, ...Object.entries(reply.value.meshes)]), pictures);
      if (previewed) {
        if (this.previewed === previewed) this.store.setState({ preview: { document: previewed, result, pictures }, meshes: known, regeneration: 'idle' });
        return;
      }
      this.store.setState({ regenerated: result, meshes: known, pictures, regeneration: 'idle' });
      this.takeMeasured();
    });
  }

  /** With what it uses, for the worker. */
  private whole(document: Document): CompleteDocument {
    return complete(document, this.library);
  }

  /** Resolves once nothing is being built: the latest wish was met, refused or stopped. */
  settled(): Promise<void> {
    const isSettled = (): boolean => this.isClosed || this.store.getState().regeneration !== 'running';
    if (isSettled()) return Promise.resolve();
    return new Promise((resolve) => {
      const stop = this.store.subscribe(() => {
        if (!isSettled()) return;
        stop();
        resolve();
      });
    });
  }

  /** Where a plane cuts what is shown, in x and y of its frame; undefined where not all of it is built, or it cannot be cut. */
  async section(frame: Frame): Promise<readonly Curve[] | undefined> {
    const { document, regenerated } = this.store.getState();
    if (this.assembly) return this.assembly.section(frame);
    const keys = (regenerated?.bodies ?? []).flatMap(({ key }) => key ?? []);
    const found = await this.client?.section(complete(document, this.library), keys, frame);
    return found?.ok === true ? found.value : undefined;
  }

  /** What is shown, or may be picked from, is never let go of, however long ago it was built. */
  private forgetOldest(meshes: Map<string, BodyMesh>, pictures: readonly BodyPicture[]): ReadonlyMap<string, BodyMesh> {
    const { before, preview, pictures: standing } = this.store.getState();
    const used = new Set([...pictures, ...standing, ...(before ?? []), ...(preview?.pictures ?? [])].map(({ key }) => key));
    const idle = [...meshes.keys()].filter((key) => !used.has(key));
    for (const key of idle.slice(0, Math.max(0, idle.length - MAX_MESHES))) meshes.delete(key);
    return meshes;
  }

  /** What the last regeneration read off the geometry becomes part of the values. */
  takeMeasured(): void {
    const { regenerated, values } = this.store.getState();
    if (regenerated && values.setMeasured(regenerated.measured)) this.store.setState((state) => ({ version: state.version + 1 }));
  }

  /** An edit was made: what was only tried is let go of. */
  endPreview(): void {
    this.previewed = undefined;
    if (this.store.getState().preview) this.store.setState({ preview: undefined });
  }

  close(): void {
    this.isClosed = true;
    this.assembly?.close();
    this.client?.close();
  }
}
