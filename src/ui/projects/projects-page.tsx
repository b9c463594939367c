'use client';
import { useRouter } from 'next/navigation';
import { useMemo, useRef, useState } from 'react';
import type { ProjectCard } from '@/contract';
import { Button } from '../design/button';
import { NamePrompt } from '../design/name-prompt';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { ThemeButton } from '../design/theme-button';
import { api, type ApiFailure } from '../state/api';
import { DeleteDialog } from './delete-dialog';
import { DeletedList } from './deleted-list';
import { FirstSteps } from './first-steps';
import { LastOpened } from './last-opened';
import { ProjectCardLink } from './project-card';
import { listedProjects, PROJECT_SORTS, type ProjectSort } from './listed-projects';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

/** More projects than this are searched and sorted. */
const FEW = 3;

/** What this is, all projects, and how to begin one. */
export function ProjectsPage() {
  const { loaded, reload } = useLoaded(QUERIES.projects);
  const [failure, setFailure] = useState<ApiFailure>();
  const [isImporting, setImporting] = useState(false);
  const [deleting, setDeleting] = useState<ProjectCard>();
  const [text, setText] = useState('');
  const [sort, setSort] = useState<ProjectSort>('changed');
  const picker = useRef<HTMLInputElement>(null);
  const router = useRouter();
  const projects = loaded.state === 'ready' ? loaded.value.projects : undefined;
  const listed = useMemo(() => listedProjects(projects ?? [], text, sort), [projects, text, sort]);

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
      <header className="mb-6 flex flex-wrap items-start gap-3">
        <div className="min-w-72 flex-1">
          <h1 className="text-3xl font-semibold tracking-tight">Warpbeam</h1>
          <p className="mt-1 text-base text-walnut-soft">Name the sizes that drive a design, and every sketch, part and assembly follows when one changes.</p>
        </div>
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
            if (!reply.ok) return reply.failure.message;
            router.push(`/projects/${reply.value.id}`);
            return undefined;
          }}
        />
        <Button onClick={() => picker.current?.click()} disabled={isImporting}>
          {isImporting ? 'Importing…' : 'Import a project file'}
        </Button>
      </header>
      <FirstSteps onFailure={setFailure} />
      {failure && <FailureNotice failure={failure} />}
      {projects && <LastOpened projects={projects} />}
      <div className="mt-6 mb-3 flex flex-wrap items-center gap-3">
        <h2 className="flex-1 text-lg font-semibold">Projects</h2>
        {(projects?.length ?? 0) > FEW && (
          <>
            <input
              type="search"
              aria-label="Search projects"
              placeholder="Search projects"
              className="h-7 w-56 rounded-box border border-rule bg-sheet px-2"
              value={text}
              onChange={(event) => setText(event.target.value)}
            />
            <select
              aria-label="Order of projects"
              className="h-7 rounded-box border border-rule bg-sheet"
              value={sort}
              onChange={(event) => setSort(event.target.value as ProjectSort)}
            >
              {Object.entries(PROJECT_SORTS).map(([each, words]) => (
                <option key={each} value={each}>
                  {words}
                </option>
              ))}
            </select>
          </>
        )}
      </div>
      {loaded.state === 'loading' && <Skeleton />}
      {loaded.state === 'failed' && <FailedToLoad title="The projects cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {projects?.length === 0 && <p className="text-walnut-soft">No project yet. Begin with one of the buttons above, or import a project file.</p>}
      {projects && projects.length > 0 && listed.length === 0 && <p className="text-walnut-soft">No project matches.</p>}
      <ul className="grid grid-cols-1 gap-4 sm:grid-cols-2 lg:grid-cols-3">
        {listed.map((project) => (
          <li key={project.id} className="relative">
            <ProjectCardLink project={project} />
            <Button tone="quiet" className="absolute right-2 bottom-2 h-6" aria-label={`Delete ${project.name}`} onClick={() => setDeleting(project)}>
              Delete
            </Button>
          </li>
        ))}
      </ul>
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

function FailureNotice({ failure }: { failure: ApiFailure }) {
  const problems = 'problems' in failure ? (failure.problems ?? []) : [];
  return (
    <Notice title={problems.length > 0 ? 'The file was not imported' : 'That was not done'} tone="error">
      <p>{failure.message}</p>
      {problems.length > 0 && (
        <ul className="mt-2 font-mono text-xs">
          {problems.map((problem, i) => (
            <li key={i}>
              {problem.path} {problem.message}
            </li>
          ))}
        </ul>
      )}
    </Notice>
  );
}
