import * as z from 'zod/mini';
import { projectFileSchema } from './project-file';

/** The published JSON Schema of the format. In a module of its own: no page writes it, and what writes it is not little. */
export function projectJsonSchema(): unknown {
  return z.toJSONSchema(projectFileSchema, { target: 'draft-2020-12', unrepresentable: 'any' });
}
