/** What a service could not do, for the one who asked. */
import { UniqueConstraintError, type Transaction } from 'sequelize';
import type { ErrorReply } from '@/contract';
import { fail, succeed, type Result } from '@/core/kit';
import { transact } from '../db/connect';

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

/** Work that is done as a whole, or refused and then not done at all. */
export async function inOneTransaction<T>(work: (transaction: Transaction) => Promise<T>): Promise<Result<T, Refusal>> {
  try {
    return succeed(await transact(work));
  } catch (problem) {
    if (problem instanceof RefusedTransaction) return fail(problem.refusal);
    // Two did the same at once: the other one was first.
    if (problem instanceof UniqueConstraintError)
      return fail(refuse('moved-on', 'Somebody did this at the same moment; look again before doing it once more.'));
    throw problem;
  }
}
