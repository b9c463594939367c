/** What a service could not do, for the one who asked. */
import type { ErrorReply } from '@/contract';

export type Refusal = ErrorReply['error'];

/** Unwinds a transaction when its work turns out refused; rolled back, then returned as a value. */
export class RefusedTransaction extends Error {
  constructor(readonly refusal: Refusal) {
    super(refusal.message);
  }
}

export function refuse(code: Refusal['code'], message: string, more: Partial<Refusal> = {}): Refusal {
  return { code, message, ...more };
}
