/** What the kernel could not do, as a value. Anything else that it throws is decoded into words. */
import type { KernelFailure } from '@/core/kernel-port';
import type { Oc } from './shapes';

/** Thrown inside this folder only; the port turns it into a {@link KernelFailure}. */
export class KernelRefusal extends Error {
  constructor(
    readonly operation: string,
    readonly reason: string,
    /** The name that was looked for in vain. */
    readonly lost?: string,
    readonly isEmpty = false,
  ) {
    super(`${operation}: ${reason}`);
  }
}

/** What the kernel could not do, in words. A kernel that broke down is not to be trusted any more: that is thrown on, and ends its worker. */
export function describeFailure(oc: Oc, operation: string, problem: unknown): KernelFailure {
  if (problem instanceof WebAssembly.RuntimeError) throw new Error(`The geometry kernel broke down in ${operation} (${problem.message}).`);
  if (problem instanceof KernelRefusal) {
    const { reason, lost, isEmpty } = problem;
    return { operation: problem.operation, reason, ...(lost === undefined ? {} : { lost }), ...(isEmpty ? { isEmpty } : {}) };
  }
  if (problem instanceof WebAssembly.Exception) {
    const [type, message] = oc.getExceptionMessage(problem);
    oc.decrementExceptionRefcount(problem);
    return { operation, reason: `The geometry kernel refused (${[type, message].filter((part) => part !== '').join(': ')}).` };
  }
  return { operation, reason: `The geometry kernel failed (${problem instanceof Error ? problem.message : String(problem)}).` };
}
