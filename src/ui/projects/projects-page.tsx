'use client';
import Link from 'next/link';
import { useRef, useState } from 'react';
import type { ProjectCard } from '@/contract';
import { Button } from '../design/button';
import { NamePrompt } from '../design/name-prompt';
import { Notice, Skeleton } from '../design/states';
import { ThemeButton } from '../design/theme-button';
import { api, type ApiFailure } from '../state/api';
import { DeleteDialog } from './delete-dialog';
import { DeletedList } from './deleted-list';
import { useLoaded } from './use-loaded';

/** All projects, and bringing in a project file. */
export function ProjectsPage() {
  const { loaded, reload } = useLoaded(api.listProjects);
  const [failure, setFailure] = useState<ApiFailure>();
  const [isImporting, setImporting] = useState(false);
  const [deleting, setDeleting] = useState<ProjectCard>();
  const picker = useRef<HTMLInputElement>(null);

  const importFile = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    setImporting(true);
    const reply = await api.importProject(await file.text());
    setImporting(false);
    setFailure(reply.ok ? undefined : reply.failure);
    reload();
  };

  return (
    <main className="mx-auto max-w-5xl p-6">
      <header className="mb-6 flex items-center gap-3">
        <h1 className="text-2xl font-semibold">Projects</h1>
        <span className="flex-1" />
        <ThemeButton />
        <input
          ref={picker}
          type="file"
          accept=".json,application/json"
          className="hidden"
          aria-label="Project file"
          onChange={(event) => void importFile(event.target.files?.[0])}
        />
        <NamePrompt
          label="New project"
          onAccept={async (name) => {
            const reply = await api.createProject(name);
            reload();
            return reply.ok ? undefined : reply.failure.message;
          }}
        />
        <Button onClick={() => picker.current?.click()} disabled={isImporting}>
          {isImporting ? 'Importing…' : 'Import a project file'}
        </Button>
      </header>
      {failure && (
        <Notice title="The file was not imported" tone="error">
          <p>{failure.message}</p>
          {'problems' in failure && failure.problems && (
            <ul className="mt-2 font-mono text-xs">
              {failure.problems.map((problem, i) => (
                <li key={i}>
                  {problem.path} {problem.message}
                </li>
              ))}
            </ul>
          )}
        </Notice>
      )}
      {loaded.state === 'loading' && <Skeleton />}
      {loaded.state === 'failed' && (
        <Notice title="The projects cannot be shown" tone="error">
          <p className="mb-3">{loaded.failure.message}</p>
          <Button onClick={reload}>Try again</Button>
        </Notice>
      )}
      {loaded.state === 'ready' && loaded.value.projects.length === 0 && (
        <Notice title="No project yet">
          <p className="mb-3">Bring in a project file to begin.</p>
          <Button tone="strong" onClick={() => picker.current?.click()}>
            Import a project file
          </Button>
        </Notice>
      )}
      {loaded.state === 'ready' && (
        <ul className="grid grid-cols-1 gap-4 sm:grid-cols-2 lg:grid-cols-3">
          {loaded.value.projects.map((project) => (
            <li key={project.id} className="relative">
              <Link href={`/projects/${project.id}`} className="block rounded-box border border-rule bg-sheet p-4 pr-20 hover:border-indigo">
                <div className="text-lg font-semibold">{project.name}</div>
                <div className="text-walnut-soft">
                  {project.documents} {project.documents === 1 ? 'document' : 'documents'}
                  {project.behind === undefined && <span className="ml-2">checking links…</span>}
                  {(project.behind ?? 0) > 0 && <span className="ml-2 rounded-box bg-weld-wash px-1.5 text-weld">{project.behind} behind</span>}
                </div>
                {project.problem !== undefined && <p className="text-madder">This project cannot be opened: {project.problem}</p>}
              </Link>
              <Button tone="quiet" className="absolute top-3 right-2" aria-label={`Delete ${project.name}`} onClick={() => setDeleting(project)}>
                Delete
              </Button>
            </li>
          ))}
        </ul>
      )}
      {loaded.state === 'ready' && <DeletedList cards={loaded.value.deleted} onRestore={api.restoreProject} onChanged={reload} />}
      {deleting && (
        <DeleteDialog
          name={deleting.name}
          words={[`Its documents are deleted with it: ${deleting.documents}.`]}
          onDelete={() => api.deleteProject(deleting.id)}
          onClose={() => {
            setDeleting(undefined);
            reload();
          }}
        />
      )}
    </main>
  );
}
