/** Asks a service: with a time limit, again after a while where it does not answer, and with its reply checked like any value. */
import { setTimeout as wait } from 'node:timers/promises';
import type { Question } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { parseUnit } from '@/core/units';
import { checkOutputs, type Answered, type AskFailure } from './answered';
import { askReplySchema, functionsReplySchema, type AskRequest, type FunctionsReply, type ListedService } from './protocol';
import { quote, readReply } from './reply-text';

const TIME_LIMIT_S = 10;
/** Before the second and the third attempt. */
const BACK_OFF_MS = [200, 800];

/** What it computes. */
export async function listFunctions(service: ListedService): Promise<Result<FunctionsReply, AskFailure>> {
  const reply = await send(service, 'functions', undefined);
  if (!reply.ok) return reply;
  const parsed = functionsReplySchema.safeParse(reply.value);
  return parsed.success ? succeed(parsed.data) : fail(nonsense(service.name, reply.value));
}

export async function askService(service: ListedService, question: Question): Promise<Result<Answered, AskFailure>> {
  const { asked } = question;
  if (asked.of !== 'service') return fail({ kind: 'refused', problem: 'This is no question to a service.' });
  const inputs = Object.fromEntries(
    Object.entries(question.inputs).map(([key, { value, unit }]) => [key, { value, unit, dimension: parseUnit(unit)?.dimension.key ?? '' }]),
  );
  for (let attempt = 0; ; attempt++) {
    const answered = await attemptOnce(service, question, { function: asked.function, inputs });
    const pause = BACK_OFF_MS[attempt];
    if (answered.ok || answered.failure.kind !== 'no-answer' || pause === undefined) return answered;
    await wait(pause);
  }
}

async function attemptOnce(service: ListedService, { outputs }: Question, request: AskRequest): Promise<Result<Answered, AskFailure>> {
  const reply = await send(service, 'ask', request);
  if (!reply.ok) return reply;
  const parsed = askReplySchema.safeParse(reply.value);
  if (!parsed.success) return fail(nonsense(service.name, reply.value));
  if ('problem' in parsed.data) return fail({ kind: 'refused', problem: `${service.name}: ${parsed.data.problem}` });
  return checkOutputs(service.name, outputs, parsed.data.outputs, parsed.data.version);
}

function nonsense(name: string, reply: unknown): AskFailure {
  return { kind: 'nonsense', problem: `${name} answered something else than numbers: ${quote(JSON.stringify(reply))}` };
}

async function send({ name, url, secret, timeLimit = TIME_LIMIT_S }: ListedService, path: string, body: unknown): Promise<Result<unknown, AskFailure>> {
  const token = secret === undefined ? undefined : process.env[secret];
  try {
    const response = await fetch(new URL(path, url.endsWith('/') ? url : `${url}/`), {
      method: body === undefined ? 'GET' : 'POST',
      headers: {
        Accept: 'application/json',
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(token === undefined ? {} : { Authorization: `Bearer ${token}` }),
      },
      ...(body === undefined ? {} : { body: JSON.stringify(body) }),
      signal: AbortSignal.timeout(timeLimit * 1000),
      // It could lead anywhere.
      redirect: 'error',
      cache: 'no-store',
    });
    if (response.status >= 500) return fail({ kind: 'no-answer', problem: `${name} failed (HTTP ${response.status}).` });
    const reply = await readReply(response);
    if (reply.ok) return reply;
    return fail({ kind: 'nonsense', problem: `${name} cannot be understood${response.ok ? '' : ` (HTTP ${response.status})`}. ${reply.failure}` });
  } catch (problem) {
    const isLate = typeof problem === 'object' && problem !== null && 'name' in problem && problem.name === 'TimeoutError';
    return fail({ kind: 'no-answer', problem: isLate ? `${name} did not answer within ${timeLimit} s.` : `${name} cannot be reached.` });
  }
}
