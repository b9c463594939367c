'use client';
import { KIND_WORDS, type DocumentKind } from '@/core/document';
import dynamic from 'next/dynamic';
import Link from 'next/link';
import { useRouter } from 'next/navigation';
import { Fragment, useState } from 'react';
import type { DocumentCard } from '@/contract';
import { Button } from '../design/button';
import { RenamableTitle } from '../design/renamable-title';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { ThemeButton } from '../design/theme-button';
import { api } from '../state/api';
import { thisAuthor } from '../state/identity';
import { ChangeSets } from './change-sets';
import { DeleteDialog } from './delete-dialog';
import { DeletedList } from './deleted-list';
import { MaterialChoice } from './material-choice';
import { ProjectMap } from './project-map';
import { CopyDialog } from './copy-dialog';
import { ShelfDialog } from '../shelf/shelf-dialog';
import { brokenGuardWords, interferences, interferenceWords } from './found-problems';
import { KIND_LINES, KINDS, NewDocument } from './new-document';
import { DocumentIcon } from '../design/kind-icons';
import { SmallPicture } from '../design/small-picture';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';

/** Its previews draw solids: their code is loaded with its first use. */
const CatchUpDialog = dynamic(() => import('../catch-up/catch-up-dialog').then((module) => module.CatchUpDialog), { ssr: false });

type View = 'list' | 'map' | 'changes';

/** What a first document is called until it has a name. */
const FIRST_NAMES: Readonly<Record<DocumentKind, string>> = { master: 'Sizes', calc: 'Calculation', part: 'Part', assembly: 'Assembly' };

const VIEWS: Readonly<Record<View, string>> = { list: 'List', map: 'Map', changes: 'Change sets' };

/** The documents of a project, sources first, with their states. */
export function ProjectPage({ id }: { id: string }) {
  const router = useRouter();
  const { loaded, reload } = useLoaded(QUERIES.project(id));
  const [view, setView] = useState<View>('list');
  const [copying, setCopying] = useState<Pick<DocumentCard, 'id' | 'name'>>();
  const [isShelfOpen, setShelfOpen] = useState(false);
  const [deleting, setDeleting] = useState<Pick<DocumentCard, 'id' | 'name'>>();
  const [catchUp, setCatchUp] = useState<{ readonly document?: string; readonly isBranch?: boolean }>();
  const project = loaded.state === 'ready' ? loaded.value : undefined;
  const behind = project?.documents.filter((document) => document.behind > 0).length ?? 0;
  return (
    <main className={`mx-auto p-6 ${view === 'map' ? '' : 'max-w-7xl'}`}>
      <header className="mb-6 flex items-center gap-3">
        <Link href="/" className="text-walnut-soft underline">
          Projects
        </Link>
        {project ? (
          <RenamableTitle
            name={project.name}
            className="min-w-0 text-2xl"
            onRename={async (name) => {
              const reply = await api.changeProject(id, { name });
              if (reply.ok) reload();
              return reply.ok ? undefined : reply.failure.message;
            }}
          />
        ) : (
          <h1 className="text-2xl font-semibold">…</h1>
        )}
        <span className="flex-1" />
        <ThemeButton />
        {project && (
          <NewDocument
            onCreate={async (kind, name) => {
              const reply = await api.createDocument(id, { name, kind, author: thisAuthor() });
              if (!reply.ok) return reply.failure.message;
              router.push(`/documents/${reply.value.id}`);
              return undefined;
            }}
          />
        )}
        {project && <Button onClick={() => setShelfOpen(true)}>From the shelf</Button>}
        {project && (
          <a
            href={`/api/projects/${id}/export`}
            className="flex h-7 items-center rounded-box border border-rule bg-sheet px-2.5 whitespace-nowrap hover:bg-flax"
          >
            Export the project file
          </a>
        )}
        <Button tone={behind > 0 ? 'strong' : 'plain'} disabled={behind === 0} onClick={() => setCatchUp({})}>
          Catch up {behind > 0 ? `${behind} document${behind === 1 ? '' : 's'}` : ''}
        </Button>
      </header>
      {loaded.state === 'loading' && <Skeleton />}
      {loaded.state === 'failed' && <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {project?.documents.length === 0 && (
        <section aria-label="First document">
          <h2 className="mb-3 text-lg font-semibold">What do you want to begin with?</h2>
          <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
            {KINDS.map((kind) => (
              <li key={kind}>
                <button
                  type="button"
                  className="flex h-full w-full flex-col items-start rounded-box border border-rule bg-sheet px-3 py-2 text-left hover:border-indigo"
                  onClick={() =>
                    void api.createDocument(id, { name: FIRST_NAMES[kind], kind, author: thisAuthor() }).then((reply) => {
                      if (reply.ok) router.push(`/documents/${reply.value.id}`);
                      else reload();
                    })
                  }
                >
                  <strong className="block font-semibold text-indigo first-letter:uppercase">{KIND_WORDS[kind]}</strong>
                  <span className="text-walnut-soft">{KIND_LINES[kind]}</span>
                </button>
              </li>
            ))}
          </ul>
        </section>
      )}
      {project && project.documents.length > 0 && (
        <>
          <div className="mb-2 flex items-center">
            <div role="group" aria-label="How the documents are shown" className="flex flex-1 gap-1">
              {(Object.keys(VIEWS) as View[]).map((kind) => (
                <Button key={kind} tone={view === kind ? 'plain' : 'quiet'} aria-pressed={view === kind} onClick={() => setView(kind)}>
                  {VIEWS[kind]}
                </Button>
              ))}
            </div>
            <MaterialChoice project={id} material={project.material} onChanged={reload} />
          </div>
          {view === 'list' && <DocumentTable documents={project.documents} onCopy={setCopying} onDelete={setDeleting} />}
          {view === 'map' && <ProjectMap project={id} documents={project.documents} onCatchUp={(document, isBranch) => setCatchUp({ document, isBranch })} />}
          {view === 'changes' && <ChangeSets project={id} onChanged={reload} />}
        </>
      )}
      {project?.broken.map(({ id: document, name, reason }) => (
        <Notice key={document} title={`${name} cannot be read`} tone="error">
          <p className="mb-3">The other documents are not affected. Reason: {reason}</p>
          <Button onClick={() => setDeleting({ id: document, name })}>Delete</Button>
        </Notice>
      ))}
      {project && <DeletedList cards={project.deleted} onRestore={api.restoreDocument} onChanged={reload} />}
      {deleting && (
        <DeleteDialog
          name={deleting.name}
          words={describeTakers(project?.documents ?? [], deleting.id)}
          onDelete={() => api.deleteDocument(deleting.id)}
          onClose={() => {
            setDeleting(undefined);
            reload();
          }}
        />
      )}
      {copying && (
        <CopyDialog
          document={copying.id}
          name={copying.name}
          project={id}
          there={new Set(project?.documents.map(({ name }) => name))}
          onClose={() => setCopying(undefined)}
        />
      )}
      {isShelfOpen && (
        <ShelfDialog
          project={id}
          there={new Set(project?.documents.map(({ name }) => name))}
          onTaken={() => {
            setShelfOpen(false);
            reload();
          }}
          onClose={() => setShelfOpen(false)}
        />
      )}
      {catchUp && (
        <CatchUpDialog
          project={id}
          {...catchUp}
          onClose={() => {
            setCatchUp(undefined);
            reload();
          }}
        />
      )}
    </main>
  );
}

function Thumbnail({ document }: { document: DocumentCard }) {
  if (!document.hasThumbnail) return <span className="block h-14 w-20" />;
  return <SmallPicture document={document.id} revision={document.revision} />;
}

/** Who takes values from a document, and what becomes of them. */
function describeTakers(documents: readonly DocumentCard[], id: string): string[] {
  const takers = documents.filter(({ links }) => links.some(({ source }) => source === id)).map(({ name }) => name);
  if (takers.length === 0) return [];
  return [`${takers.join(', ')} ${takers.length === 1 ? 'takes' : 'take'} values from it. Those values stay as they are and are no longer updated.`];
}

interface DocumentTableProps {
  readonly documents: readonly DocumentCard[];
  readonly onCopy: (document: DocumentCard) => void;
  readonly onDelete: (document: DocumentCard) => void;
}

const ERROR = 'bg-madder-wash text-madder';

/** What somebody should look at, never broken over lines. */
function Mark({ tone, children }: { readonly tone: string; readonly children: React.ReactNode }) {
  return <span className={`ml-2 rounded-box px-1.5 whitespace-nowrap ${tone}`}>{children}</span>;
}

function DocumentTable({ documents, onCopy, onDelete }: DocumentTableProps) {
  const nameOf = (id: string): string => documents.find((document) => document.id === id)?.name ?? 'a document that is not here';
  return (
    <table className="w-full border-collapse overflow-hidden rounded-box border border-rule bg-sheet">
      <thead>
        <tr className="bg-flax text-left text-walnut-soft">
          <th className="w-24 px-3 py-1.5 font-semibold">
            <span className="sr-only">Picture</span>
          </th>
          <th className="w-60 px-3 py-1.5 font-semibold">Document</th>
          <th className="px-3 py-1.5 font-semibold">Takes values from</th>
          <th className="px-3 py-1.5 font-semibold">Mass at the last revision</th>
          <th className="px-3 py-1.5 font-semibold">State</th>
          <th className="px-3 py-1.5">
            <span className="sr-only">Copy, delete</span>
          </th>
        </tr>
      </thead>
      <tbody>
        {documents.map((document) => (
          <tr key={document.id} className="border-t border-rule">
            <td className="px-3 py-1">
              <Thumbnail document={document} />
            </td>
            <td className="px-3 py-2">
              <DocumentIcon kind={document.kind} />
              <Link href={`/documents/${document.id}`} className="font-semibold underline decoration-rule underline-offset-4 hover:decoration-indigo">
                {document.name}
              </Link>
              <span className="ml-2 whitespace-nowrap text-walnut-soft">{KIND_WORDS[document.kind]}</span>
            </td>
            <td className="px-3 py-2">{document.links.map(({ source }) => nameOf(source)).join(', ')}</td>
            <td className="px-3 py-2 font-mono tabular-nums">
              {document.bodies.map((body, at) => (
                <Fragment key={at}>
                  {at > 0 && ', '}
                  {body.name} {body.mass !== undefined && <span className="whitespace-nowrap">{body.mass.toFixed(3)} kg</span>}
                </Fragment>
              ))}
            </td>
            <td className="px-3 py-2">
              <span className="whitespace-nowrap">revision {document.revision}</span>
              {document.unsavedEdits > 0 && (
                <span className="ml-2 whitespace-nowrap text-walnut-soft">
                  {document.unsavedEdits} unsaved edit{document.unsavedEdits === 1 ? '' : 's'}
                </span>
              )}
              {document.behind > 0 && <Mark tone="bg-weld-wash text-weld">{document.behind} behind</Mark>}
              {document.brokenGuards > 0 && <Mark tone={ERROR}>{brokenGuardWords(document.brokenGuards)}</Mark>}
              {document.failing > 0 && <Mark tone={ERROR}>{document.failing} failing</Mark>}
              {interferences(document) > 0 && <Mark tone={ERROR}>{interferenceWords(interferences(document))}</Mark>}
            </td>
            <td className="px-3 py-2 text-right whitespace-nowrap">
              <Button tone="quiet" aria-label={`Copy ${document.name}`} onClick={() => onCopy(document)}>
                Copy
              </Button>
              <Button tone="quiet" aria-label={`Delete ${document.name}`} onClick={() => onDelete(document)}>
                Delete
              </Button>
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
