import { useState } from 'react';
import Link from 'next/link';
import type { ProjectCard } from '@/contract';
import { describeAuthor } from '../state/identity';
import { changedWhen } from './listed-projects';

/** A project with its picture, what needs attention in it, and when it was changed. */
export function ProjectCardLink({ project }: { project: ProjectCard }) {
  const { id, name, documents, behind, failing = 0, changed, picture, problem } = project;
  const [now] = useState(() => new Date());
  return (
    <Link href={`/projects/${id}`} className="flex h-full flex-col rounded-box border border-rule bg-sheet p-3 hover:border-indigo">
      <span className="mb-2 flex h-32 items-center justify-center rounded-box bg-linen">
        {picture ? (
          // Made by the server, of a size that needs no fitting.
          // oxlint-disable-next-line nextjs/no-img-element
          <img
            src={`/api/documents/${picture.document}/thumbnail?revision=${picture.revision}`}
            alt=""
            width={192}
            height={128}
            className="max-h-full object-contain"
          />
        ) : (
          <span className="text-walnut-soft">{documents === 0 ? 'Empty' : 'No picture yet'}</span>
        )}
      </span>
      <span className="flex items-baseline gap-2">
        <strong className="min-w-0 flex-1 truncate text-base font-semibold">{name}</strong>
        {(behind ?? 0) > 0 && <span className="rounded-box bg-weld-wash px-1.5 text-weld">{behind} behind</span>}
        {failing > 0 && <span className="rounded-box bg-madder-wash px-1.5 text-madder">{failing} failing</span>}
      </span>
      <span className="pr-16 text-walnut-soft">
        {documents} {documents === 1 ? 'document' : 'documents'}
        {behind === undefined && problem === undefined && <span className="ml-2">checking links…</span>}
        {changed && `, changed ${changedWhen(changed.at, now)}${authorWords(changed.author)}`}
      </span>
      {problem !== undefined && <span className="text-madder">This project cannot be opened: {problem}</span>}
    </Link>
  );
}

/** By whom, where that says something: what was imported says when alone. */
function authorWords(author: string): string {
  return author === 'import' ? '' : ` by ${describeAuthor(author)}`;
}
