import Link from 'next/link';
import { useStore } from 'zustand';
import type { ProjectCard } from '@/contract';
import { DocumentIcon } from '../design/kind-icons';
import { openedDocuments } from '../state/opened-documents';

/** The documents that were opened last in this browser, of the projects that are there; nothing where there is none. */
export function LastOpened({ projects }: { readonly projects: readonly ProjectCard[] }) {
  const documents = useStore(openedDocuments, (state) => state.documents);
  const there = documents.flatMap((document) => {
    const project = projects.find(({ id }) => id === document.project);
    return project ? [{ ...document, project }] : [];
  });
  if (there.length === 0) return null;
  return (
    <section aria-label="Last opened" className="mt-6">
      <h2 className="mb-3 text-lg font-semibold">Last opened</h2>
      <ul className="grid grid-cols-1 gap-x-4 gap-y-1 sm:grid-cols-2 lg:grid-cols-3">
        {there.map(({ id, name, kind, project }) => (
          <li key={id} className="flex min-w-0 items-center">
            <DocumentIcon kind={kind} />
            <Link href={`/documents/${id}`} className="min-w-0 truncate font-semibold underline decoration-rule underline-offset-4 hover:decoration-indigo">
              {name}
            </Link>
            <span className="ml-2 min-w-0 truncate text-walnut-soft">{project.name}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}
