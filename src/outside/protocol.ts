/**
 * How a service is spoken to: JSON over HTTP, two addresses below the one that the administrator lists.
 *
 * - `GET functions` tells what it computes: names, kinds and units of inputs and outputs.
 * - `POST ask` computes: numbers with their units go in, numbers with units come out; or the words for why there are none.
 *
 * `docs/service-protocol.md` says the same to those who write one.
 */
import * as z from 'zod/mini';

const name = z.string().check(z.minLength(1), z.maxLength(80));
const words = z.string().check(z.maxLength(400));

const portSchema = z.object({
  key: z.string().check(z.minLength(1), z.maxLength(120)),
  /** A kind of quantity: `length`, `torque`, `number`, ... */
  kind: z.string().check(z.maxLength(40)),
  unit: z.string().check(z.maxLength(60)),
  about: z.optional(words),
});

export const functionsReplySchema = z.object({
  version: z.string().check(z.maxLength(100)),
  functions: z
    .array(
      z.object({
        name: z.string().check(z.minLength(1), z.maxLength(120)),
        about: z.optional(words),
        inputs: z.array(portSchema).check(z.maxLength(50)),
        outputs: z.array(portSchema).check(z.maxLength(50)),
      }),
    )
    .check(z.maxLength(200)),
});

export const askRequestSchema = z.strictObject({
  function: z.string().check(z.minLength(1), z.maxLength(120)),
  /** `dimension` is the key of the unit's dimension in base quantities, such as `length=2,mass=1,time=-2`. */
  inputs: z.record(z.string(), z.strictObject({ value: z.number(), unit: z.string(), dimension: z.string() })),
});

export const askReplySchema = z.union([
  z.object({
    version: z.string().check(z.maxLength(100)),
    outputs: z.record(z.string().check(z.maxLength(120)), z.object({ value: z.number(), unit: z.string().check(z.maxLength(60)) })),
  }),
  z.object({ problem: z.string().check(z.minLength(1), z.maxLength(400)) }),
]);

/** What an administrator lists. */
export const servicesFileSchema = z.strictObject({
  services: z
    .array(
      z.strictObject({
        name,
        /** Where it is: nothing that a document says leads anywhere else. */
        url: z.url({ protocol: /^https?$/ }),
        /** The environment variable that holds its secret, which is sent as a bearer token. */
        secret: z.optional(z.string().check(z.regex(/^[A-Z][A-Z0-9_]*$/))),
        /** In seconds; 10 where none is given. */
        timeLimit: z.optional(z.number().check(z.gte(0.1), z.lte(60))),
      }),
    )
    .check(
      z.maxLength(100),
      z.refine((services) => new Set(services.map((one) => one.name)).size === services.length, 'two services have one name'),
    ),
});

export type FunctionsReply = z.infer<typeof functionsReplySchema>;
export type ServiceFunction = FunctionsReply['functions'][number];
export type AskRequest = z.infer<typeof askRequestSchema>;
export type AskReply = z.infer<typeof askReplySchema>;
export type ListedService = z.infer<typeof servicesFileSchema>['services'][number];
