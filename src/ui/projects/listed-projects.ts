/** Which projects are listed, in which order. Pure. */
import type { ProjectCard } from '@/contract';

export type ProjectSort = 'changed' | 'name' | 'attention';

export const PROJECT_SORTS: Readonly<Record<ProjectSort, string>> = {
  changed: 'last changed first',
  name: 'by name',
  attention: 'behind or failing first',
};

export function listedProjects(projects: readonly ProjectCard[], text: string, sort: ProjectSort): ProjectCard[] {
  const wanted = text.trim().toLowerCase();
  const found = projects.filter(({ name }) => name.toLowerCase().includes(wanted));
  const byName = (a: ProjectCard, b: ProjectCard): number => a.name.localeCompare(b.name);
  const attention = ({ behind = 0, failing = 0, problem }: ProjectCard): number => behind + failing + (problem === undefined ? 0 : 1000);
  switch (sort) {
    case 'name':
      return found.sort(byName);
    case 'changed':
      return found.sort((a, b) => (b.changed?.at ?? '').localeCompare(a.changed?.at ?? '') || byName(a, b));
    case 'attention':
      return found.sort((a, b) => attention(b) - attention(a) || byName(a, b));
  }
}

/** `today 14:05`, `yesterday 9:30`, or the day. */
export function changedWhen(at: string, now: Date): string {
  const then = new Date(at);
  const time = `${then.getHours()}:${String(then.getMinutes()).padStart(2, '0')}`;
  const midnight = new Date(now.getFullYear(), now.getMonth(), now.getDate()).getTime();
  if (then.getTime() >= midnight) return `today ${time}`;
  if (then.getTime() >= midnight - 86_400_000) return `yesterday ${time}`;
  return `${then.getDate()} ${MONTHS[then.getMonth()] ?? ''} ${then.getFullYear()}`;
}

const MONTHS = ['January', 'February', 'March', 'April', 'May', 'June', 'July', 'August', 'September', 'October', 'November', 'December'];
