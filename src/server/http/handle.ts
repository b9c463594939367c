/**
 * The one way from a request to a reply: body size and JSON checked, the schema applied, refusals and bugs
 * turned into error replies. Route handlers only name the schema and the service.
 */
import { ConnectionError, DatabaseError } from 'sequelize';
import type * as z from 'zod/mini';
import type { ErrorCode, ErrorReply } from '@/contract';
import type { Result } from '@/core/kit';
import { EndedCalculation } from '../calculation/run';
import { database } from '../db/connect';
import type { Refusal } from '../services/refusal';

const STATUS: Readonly<Record<ErrorCode, number>> = {
  'bad-request': 400,
  'too-large': 413,
  'not-found': 404,
  stale: 409,
  'edit-refused': 422,
  'bad-file': 422,
  'moved-on': 409,
  forbidden: 403,
  'database-unavailable': 503,
  failed: 500,
};

/** Largest JSON body of an ordinary request, in bytes: an edit of the largest size, in characters of several bytes. */
const MAX_BODY = 12_000_000;

/** Replies tell the present state: nobody keeps them. */
const FRESH = { 'Cache-Control': 'no-store' };

export function handle<T>(work: () => Promise<Result<T, Refusal>>): Promise<Response> {
  return handleWith(work, (value) => Response.json(value, { headers: FRESH }));
}

/** The same where the reply is something else than JSON. */
export async function handleWith<T>(work: () => Promise<Result<T, Refusal>>, reply: (value: T) => Response): Promise<Response> {
  try {
    // Each bundle of the server has its own copy of the models; this binds them.
    database();
    const result = await work();
    return result.ok ? reply(result.value) : errorReply(result.failure);
  } catch (problem) {
    if (isDatabaseDown(problem)) {
      return errorReply({
        code: 'database-unavailable',
        message: 'The database does not answer just now. Your edits are kept in this browser and will be sent when it is back.',
      });
    }
    if (problem instanceof EndedCalculation) return errorReply({ code: 'too-large', message: problem.message });
    console.error(problem);
    return errorReply({ code: 'failed', message: 'Something went wrong in the server. Nothing of yours was changed.' });
  }
}

/** The same for a request with a JSON body. */
export function handleBody<S extends z.ZodMiniType, T>(
  request: Request,
  schema: S,
  work: (body: z.infer<S>) => Promise<Result<T, Refusal>>,
): Promise<Response> {
  return handle(async () => {
    const text = await readText(request, MAX_BODY);
    if (text === undefined) return { ok: false, failure: { code: 'too-large', message: 'The request is too large.' } };
    const parsed = schema.safeParse(parseJson(text));
    if (parsed.success) return work(parsed.data);
    const [issue] = parsed.error.issues;
    return {
      ok: false,
      failure: { code: 'bad-request', message: `The request is not understood: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}`.trimEnd() },
    };
  });
}

/** The body as text, or undefined when it is longer than `limit` bytes. */
export async function readText(request: Request, limit: number): Promise<string | undefined> {
  const reader = request.body?.getReader();
  if (!reader) return '';
  const chunks: Uint8Array[] = [];
  let size = 0;
  for (;;) {
    const { done, value } = await reader.read();
    if (done) break;
    size += value.byteLength;
    if (size > limit) {
      await reader.cancel();
      return undefined;
    }
    chunks.push(value);
  }
  return Buffer.concat(chunks).toString('utf8');
}

function errorReply(error: Refusal): Response {
  const body: ErrorReply = { error };
  return Response.json(body, { status: STATUS[error.code], headers: FRESH });
}

function parseJson(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}

function isDatabaseDown(problem: unknown): boolean {
  if (problem instanceof ConnectionError) return true;
  return problem instanceof DatabaseError && /socket|ECONN|closed|gone away|shutdown|connection/i.test(problem.message);
}
