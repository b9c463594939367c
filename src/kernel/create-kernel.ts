/**
 * The kernel port on OpenCASCADE compiled to wasm (`replicad-opencascadejs`, called through its raw
 * bindings). One module is loaded in each worker. No wasm type leaves this folder.
 */
import initOpenCascade from 'replicad-opencascadejs';
import { fail, succeed } from '@/core/kit';
import type { BodyHandle, BodyProperties, KernelPort, NamedPlace } from '@/core/kernel-port';
import { combine } from './boolean';
import { chamfer, draft, fillet, shell } from './dress';
import { extrude } from './extrude';
import { describeFailure, KernelRefusal } from './failures';
import { readBody, readStep, writeBody, writeStep, writeStepProducts, writeStl } from './files';
import { describeCorner, describeEdge, describeFace, findNearest } from './inspect';
import { nameEdges } from './lookup';
import { measure } from './measure';
import { mesh } from './mesh';
import { move } from './move';
import { gather, nameFaces, type NamedBody } from './named-body';
import { revolve } from './revolve';
import { dispose } from './scope';
import { section } from './section';
import type { Oc } from './shapes';
import { loft, sweep } from './sweep';

/** Changes with the package and with anything here that changes a result. */
export const KERNEL_VERSION = 'occt-8.0/replicad-opencascadejs-1.1.0/4';

/** Loads the wasm module (about half a second) and gives the port on it. */
export async function createKernel(): Promise<KernelPort> {
  return new Kernel(await initOpenCascade({ print: ignoreChatter })).port();
}

/** The kernel prints progress of file transfers. */
function ignoreChatter(): void {
  // Nothing of it is for anybody.
}

class Kernel {
  private readonly bodies = new Map<BodyHandle, NamedBody>();
  /** Measured once, when the result of an operation is checked. */
  private readonly measured = new Map<BodyHandle, BodyProperties>();
  private nextHandle = 1;

  constructor(private readonly oc: Oc) {}

  port(): KernelPort {
    const { oc } = this;
    return {
      version: KERNEL_VERSION,
      // Profiles come with loops that neither cross nor touch: drawn out straight they are sound.
      extrude: (request) => this.attempt('extrude', () => extrude(oc, request), (request.taper ?? 0) === 0),
      combine: (operation, body, tools) =>
        this.attempt(operation, () =>
          combine(
            oc,
            operation,
            this.require(body),
            tools.map((tool) => this.require(tool)),
          ),
        ),
      revolve: (request) => this.attempt('revolve', () => revolve(oc, request)),
      sweep: (request) => this.attempt('sweep', () => sweep(oc, request)),
      loft: (request) => this.attempt('loft', () => loft(oc, request)),
      importStep: (bytes, step) => this.attempt('import', () => readStep(oc, bytes, step)),
      fillet: (body, edges, radius, step) => this.attempt('fillet', () => fillet(oc, this.require(body), edges, radius, step)),
      chamfer: (body, edges, size, step) => this.attempt('chamfer', () => chamfer(oc, this.require(body), edges, size, step)),
      shell: (body, open, wall, step) => this.attempt('shell', () => shell(oc, this.require(body), open, wall, step)),
      draft: (body, faces, plane, angle, step) => this.attempt('taper', () => draft(oc, this.require(body), faces, plane, angle, step)),
      move: (body, movements, prefix) => this.attempt('move', () => move(oc, this.require(body), movements, prefix)),
      repeat: (body, places) =>
        this.attempt('repeat', () =>
          gather(
            oc,
            places.map(({ movements, prefix }) => move(oc, this.require(body), movements, prefix)),
          ),
        ),
      describeFace: (body, name) => describeFace(oc, this.require(body), name),
      describeEdge: (body, name) => describeEdge(oc, this.require(body), name),
      section: (body, frame) => section(oc, this.require(body), frame),
      describeCorner: (body, name) => describeCorner(oc, this.require(body), name),
      names: (body) => {
        const named = this.require(body);
        return { faces: named.faces.map(({ name }) => name), edges: [...new Set(nameEdges(oc, named).map(({ name }) => name))] };
      },
      nearest: (first, second) => {
        const place = ({ body, name }: NamedPlace) => ({ body: this.require(body), name });
        return findNearest(oc, place(first), place(second));
      },
      measure: (body) => this.measured.get(body) ?? measure(oc, this.require(body).shape),
      mesh: (body) => mesh(oc, this.require(body)),
      save: (body) => {
        const { shape, faces } = this.require(body);
        return { bytes: writeBody(oc, shape), faceNames: faces.map(({ name }) => name) };
      },
      load: ({ bytes, faceNames }) => {
        const shape = readBody(oc, bytes);
        // Numbers of pieces are part of the stored names; the order of faces survives the round trip.
        const faces = nameFaces(oc, shape, (_, index) => `${index}`).map((entry, index) => ({ ...entry, name: faceNames[index] ?? 'unnamed' }));
        return this.keep({ shape, faces });
      },
      exportFile: (bodies, format) => {
        const shapes = bodies.map(({ body, ...rest }) => ({ ...rest, shape: this.require(body).shape }));
        return format === 'step'
          ? writeStep(oc, shapes)
          : writeStl(
              oc,
              shapes.map(({ shape }) => shape),
            );
      },
      exportProducts: (products, root) =>
        writeStepProducts(
          oc,
          new Map(
            [...products].map(([key, { name, parts, bodies }]) => [
              key,
              { name, parts, shapes: bodies.map(({ body, ...rest }) => ({ ...rest, shape: this.require(body).shape })) },
            ]),
          ),
          root,
        ),
      release: (body) => {
        this.release(body);
      },
      memory: () => oc.wasmMemory.buffer.byteLength,
    };
  }

  private attempt(operation: string, make: () => NamedBody, isSound = false) {
    try {
      const body = make();
      const properties = measure(this.oc, body.shape, isSound);
      this.check(operation, properties);
      const handle = this.keep(body);
      this.measured.set(handle, properties);
      return succeed(handle);
    } catch (problem) {
      return fail(describeFailure(this.oc, operation, problem));
    }
  }

  /** The kernel accepts nonsense without an error: what it gives back is looked at. */
  private check(operation: string, { isValid, solids, volume }: BodyProperties): void {
    if (solids === 0) throw new KernelRefusal(operation, 'Nothing is left of the body.', undefined, true);
    if (!isValid || !(volume > 0)) throw new KernelRefusal(operation, 'The result would not be a valid solid.');
  }

  private keep(body: NamedBody): BodyHandle {
    const handle = this.nextHandle++;
    this.bodies.set(handle, body);
    return handle;
  }

  private require(handle: BodyHandle): NamedBody {
    const body = this.bodies.get(handle);
    if (!body) throw new Error(`Bug: the kernel holds no body ${handle}`);
    return body;
  }

  private release(handle: BodyHandle): void {
    const body = this.bodies.get(handle);
    if (!body) return;
    this.bodies.delete(handle);
    this.measured.delete(handle);
    this.oc.BRepTools.Clean(body.shape, true);
    for (const { face } of body.faces) dispose(face);
    dispose(body.shape);
  }
}
