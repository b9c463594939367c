/** The services that the administrator has listed, in the file that `WARPBEAM_SERVICES` names. */
import { readFile } from 'node:fs/promises';
import { fail, succeed, type Result } from '@/core/kit';
import { servicesFileSchema, type ListedService } from './protocol';

/** None where no file is named; the words for what is wrong with one that is. */
export async function listServices(file = process.env['WARPBEAM_SERVICES']): Promise<Result<readonly ListedService[], string>> {
  if (file === undefined || file === '') return succeed([]);
  let data: unknown;
  try {
    data = JSON.parse(await readFile(file, 'utf8'));
  } catch (problem) {
    return fail(`The list of services cannot be read: ${problem instanceof Error ? problem.message : 'it is damaged'}.`);
  }
  const parsed = servicesFileSchema.safeParse(data);
  if (parsed.success) return succeed(parsed.data.services);
  const [issue] = parsed.error.issues;
  return fail(`The list of services cannot be read: ${issue?.path.join('.') ?? ''} ${issue?.message ?? ''}.`);
}

export async function findService(name: string): Promise<Result<ListedService, string>> {
  const services = await listServices();
  if (!services.ok) return services;
  const found = services.value.find((service) => service.name === name);
  return found ? succeed(found) : fail(`There is no service ${name}. Its administrator lists services in the file that WARPBEAM_SERVICES names.`);
}
