import { api } from './api';

/** A name for a new project: as wished, or with a number where there is one of that name. */
export async function freeProjectName(wish: string): Promise<string> {
  const listed = await api.listProjects();
  const taken = new Set(listed.ok ? listed.value.projects.map(({ name }) => name) : []);
  if (!taken.has(wish)) return wish;
  let number = 2;
  while (taken.has(`${wish} ${number}`)) number++;
  return `${wish} ${number}`;
}
