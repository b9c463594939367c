/**
 * A calculation service that stands in for a real one: it speaks the protocol, computes real formulas, and can be told to give trouble.
 * `POST trouble` with `{"is": "slow" | "failing" | "nonsense" | "wrong-unit" | "huge" | "none", "ms"?: number}`.
 */
import { createServer, type IncomingMessage, type Server } from 'node:http';
import { setTimeout as wait } from 'node:timers/promises';
import * as z from 'zod/mini';
import { inUnit, parseUnit } from '../src/core/units';
import { askRequestSchema, type AskReply, type AskRequest, type FunctionsReply } from '../src/outside/protocol';
import { FUNCTIONS } from './functions';

const VERSION = 'workshop 1';
const MOST_BYTES = 64_000;

const troubleSchema = z.strictObject({
  is: z.enum(['none', 'slow', 'failing', 'nonsense', 'wrong-unit', 'huge']),
  ms: z.optional(z.number().check(z.gte(0), z.lte(60_000))),
});

type Trouble = z.infer<typeof troubleSchema>;

export interface Calculator {
  readonly server: Server;
  /** How often it was asked to compute. */
  readonly asked: () => number;
  readonly giveTrouble: (trouble: Trouble) => void;
}

/** `secret`: what a request must bring as a bearer token, if anything. */
export function createCalculator(secret?: string): Calculator {
  let trouble: Trouble = { is: 'none' };
  let asked = 0;
  const answer = async (request: IncomingMessage): Promise<{ readonly status: number; readonly body: string }> => {
    if (secret !== undefined && request.headers.authorization !== `Bearer ${secret}`) return say(401, { problem: 'the secret is missing or wrong' });
    const path = request.url ?? '';
    if (request.method === 'GET' && path === '/functions') return say(200, listFunctions());
    if (request.method !== 'POST') return say(404, { problem: 'there is nothing here' });
    const text = await readBody(request);
    if (path === '/trouble') {
      const wanted = troubleSchema.safeParse(parse(text));
      if (!wanted.success) return say(400, { problem: 'no trouble of that kind' });
      trouble = wanted.data;
      return say(200, trouble);
    }
    if (path !== '/ask') return say(404, { problem: 'there is nothing here' });
    asked++;
    const parsed = askRequestSchema.safeParse(parse(text));
    if (!parsed.success) return say(400, { problem: 'the request is not of the protocol' });
    if (trouble.is === 'slow') await wait(trouble.ms ?? 3000);
    if (trouble.is === 'failing') return { status: 500, body: 'out of order' };
    if (trouble.is === 'nonsense') return { status: 200, body: '<html><body>Maintenance</body></html>' };
    if (trouble.is === 'huge') return { status: 200, body: JSON.stringify({ version: VERSION, outputs: {}, rest: 'x'.repeat(10_000_000) }) };
    const reply = compute(parsed.data);
    if (trouble.is === 'wrong-unit' && 'outputs' in reply) for (const output of Object.values(reply.outputs)) output.unit = 'kg';
    return say('problem' in reply ? 422 : 200, reply);
  };
  const server = createServer((request, response) => {
    void answer(request).then(({ status, body }) => response.writeHead(status, { 'Content-Type': 'application/json' }).end(body));
  });
  return {
    server,
    asked: () => asked,
    giveTrouble: (wanted) => {
      trouble = wanted;
    },
  };
}

function say(status: number, body: unknown) {
  return { status, body: JSON.stringify(body) };
}

function listFunctions(): FunctionsReply {
  return { version: VERSION, functions: FUNCTIONS.map(({ compute: _, ...told }) => told) };
}

function compute({ function: name, inputs }: AskRequest): AskReply {
  const found = FUNCTIONS.find((one) => one.name === name);
  if (!found) return { problem: `there is no function ${name}` };
  const amounts: Record<string, number> = {};
  for (const { key, unit } of found.inputs) {
    const input = inputs[key];
    if (!input) return { problem: `${key} is missing` };
    const [given, wanted] = [parseUnit(input.unit), parseUnit(unit)];
    if (given?.dimension !== wanted?.dimension) return { problem: `${key} came in ${input.unit || 'no unit'}, not in ${unit || 'no unit'}` };
    amounts[key] = given && wanted ? inUnit(input.value * given.size, wanted) : input.value;
  }
  const results = found.compute(amounts);
  if (typeof results === 'string') return { problem: results };
  return { version: VERSION, outputs: Object.fromEntries(found.outputs.map(({ key, unit }) => [key, { value: results[key] ?? NaN, unit }])) };
}

async function readBody(request: IncomingMessage): Promise<string> {
  const parts: Buffer[] = [];
  let size = 0;
  for await (const part of request) {
    const bytes = part as Buffer;
    size += bytes.byteLength;
    if (size > MOST_BYTES) break;
    parts.push(bytes);
  }
  return Buffer.concat(parts).toString('utf8');
}

function parse(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return undefined;
  }
}
