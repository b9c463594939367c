/**
 * How a service is spoken to: JSON over HTTP, two addresses below the one that the administrator lists.
 *
 * - `GET functions` tells what it computes: names, kinds and units of inputs and outputs.
 * - `POST ask` computes: numbers with their units go in, numbers with units come out; or the words for why there are none.
 *
 * `docs/service-protocol.md` says the same to those who write one.
 */
import { z } from 'zod';

const name = z.string().min(1).max(80);
const words = z.string().max(400);

const portSchema = z.object({
  key: z.string().min(1).max(120),
  /** A kind of quantity: `length`, `torque`, `number`, ... */
  kind: z.string().max(40),
  unit: z.string().max(60),
  about: words.optional(),
});

export const functionsReplySchema = z.object({
  version: z.string().max(100),
  functions: z
    .array(z.object({ name: z.string().min(1).max(120), about: words.optional(), inputs: z.array(portSchema).max(50), outputs: z.array(portSchema).max(50) }))
    .max(200),
});

export const askRequestSchema = z.strictObject({
  function: z.string().min(1).max(120),
  /** `dimension` is the key of the unit's dimension in base quantities, such as `length=2,mass=1,time=-2`. */
  inputs: z.record(z.string(), z.strictObject({ value: z.number(), unit: z.string(), dimension: z.string() })),
});

export const askReplySchema = z.union([
  z.object({ version: z.string().max(100), outputs: z.record(z.string().max(120), z.object({ value: z.number(), unit: z.string().max(60) })) }),
  z.object({ problem: z.string().min(1).max(400) }),
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
        secret: z
          .string()
          .regex(/^[A-Z][A-Z0-9_]*$/)
          .optional(),
        /** In seconds; 10 where none is given. */
        timeLimit: z.number().min(0.1).max(60).optional(),
      }),
    )
    .max(100)
    .refine((services) => new Set(services.map((one) => one.name)).size === services.length, 'two services have one name'),
});

export type FunctionsReply = z.infer<typeof functionsReplySchema>;
export type ServiceFunction = FunctionsReply['functions'][number];
export type AskRequest = z.infer<typeof askRequestSchema>;
export type AskReply = z.infer<typeof askReplySchema>;
export type ListedService = z.infer<typeof servicesFileSchema>['services'][number];
