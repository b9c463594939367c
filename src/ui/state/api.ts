/** Requests to the server. Every failure is a value: a refusal of the server, or no answer at all. */
import type * as z from 'zod/mini';
import type {
  AskedReply,
  BuiltAnswerReply,
  CatchUpPreviewReply,
  CatchUpReply,
  catchUpSchema,
  ChangeSetReply,
  ChangeSetsReply,
  CheckedSize,
  copyDocumentSchema,
  CopyReply,
  DeletedCard,
  DocumentReply,
  EditsReply,
  ErrorReply,
  HandOverReply,
  handOverSchema,
  HistoryReply,
  LinkableReply,
  OffersReply,
  PictureReply,
  PostEdits,
  ProjectCard,
  ProjectReply,
  ReachReply,
  RevisionReply,
  SaveRevisionReply,
  ServicesReply,
  ShelfReply,
  SizeChecksReply,
  RunSamplesReply,
  RunsReply,
  WhatIfsReply,
  changeRunsSchema,
  changeWhatIfSchema,
  previewWhatIfSchema,
  StandingReply,
  TakenFromShelf,
  UndoChangeSetReply,
  UsesReply,
  ValueHistoryReply,
} from '@/contract';
import type { DocumentKind } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';

export type ApiFailure = ErrorReply['error'] | { readonly code: 'no-answer'; readonly message: string };

type Reply<T> = Promise<Result<T, ApiFailure>>;

async function request<T>(path: string, init?: RequestInit): Reply<T> {
  let response: Response;
  try {
    response = await fetch(path, { cache: 'no-store', ...init });
  } catch {
    return fail({ code: 'no-answer', message: 'The server does not answer.' });
  }
  try {
    const body: unknown = await response.json();
    if (response.ok) return succeed(body as T);
    return fail((body as ErrorReply).error);
  } catch {
    return fail({ code: 'no-answer', message: 'The server gave an answer that cannot be read.' });
  }
}

/** For what the page can do without: it is not waited for without end. */
const SOON_MS = 10_000;
const soon = (): RequestInit => ({ signal: AbortSignal.timeout(SOON_MS) });

function send<T>(method: 'POST' | 'PATCH' | 'DELETE', path: string, body: unknown): Reply<T> {
  return request<T>(path, { method, headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) });
}

function post<T>(path: string, body: unknown): Reply<T> {
  return send<T>('POST', path, body);
}

/** Which documents a preview is of. */
export interface PreviewWish {
  readonly document?: string | undefined;
  readonly isBranch?: boolean;
  readonly isMeasured?: boolean;
}

/** The content of a file that a document names by its hash; undefined where it cannot be had now. */
export async function readFileContent(hash: string): Promise<string | undefined> {
  try {
    const response = await fetch(`/api/files/${hash}`);
    return response.ok ? await response.text() : undefined;
  } catch {
    return undefined;
  }
}

export const api = {
  listProjects: () => request<{ projects: ProjectCard[]; deleted: DeletedCard[] }>('/api/projects'),
  deleteProject: (id: string) => send<{ id: string }>('DELETE', `/api/projects/${id}`, {}),
  restoreProject: (id: string) => post<{ id: string }>(`/api/projects/${id}/restore`, {}),
  deleteDocument: (id: string) => send<{ id: string }>('DELETE', `/api/documents/${id}`, {}),
  restoreDocument: (id: string) => post<{ id: string }>(`/api/documents/${id}/restore`, {}),
  importProject: (text: string) => request<{ id: string; name: string }>('/api/projects', { method: 'POST', body: text }),
  openExample: () => post<{ id: string }>('/api/projects/example', {}),
  createProject: (name: string) => post<{ id: string }>('/api/projects/new', { name }),
  changeProject: (id: string, changes: { readonly name?: string; readonly material?: string }) =>
    send<{ name: string }>('PATCH', `/api/projects/${id}`, changes),
  copyDocument: (id: string, body: z.infer<typeof copyDocumentSchema>) => post<CopyReply>(`/api/documents/${id}/copy`, body),
  askOutside: (id: string) => post<AskedReply>(`/api/documents/${id}/ask`, {}),
  readServices: () => request<ServicesReply>('/api/services'),
  readShelf: () => request<ShelfReply>('/api/shelf'),
  takeFromShelf: (project: string, body: { items: string[]; author: string }) =>
    post<{ documents: readonly TakenFromShelf[] }>(`/api/projects/${project}/shelf`, body),
  createDocument: (project: string, body: { name: string; kind: DocumentKind; author: string }) =>
    post<{ id: string }>(`/api/projects/${project}/documents`, body),
  listUses: (id: string) => request<UsesReply>(`/api/documents/${id}/uses`),
  readProject: (id: string) => request<ProjectReply>(`/api/projects/${id}`),
  readDocument: (id: string) => request<DocumentReply>(`/api/documents/${id}`),
  readSizeChecks: (id: string) => request<SizeChecksReply>(`/api/documents/${id}/size-checks`),
  keepSizeChecks: (id: string, checked: Readonly<Record<string, CheckedSize>>) => post<SizeChecksReply>(`/api/documents/${id}/size-checks`, { checked }),
  readRuns: (id: string) => request<RunsReply>(`/api/documents/${id}/runs`),
  readRunSamples: (id: string, run: string) => request<RunSamplesReply>(`/api/documents/${id}/runs/${run}`),
  changeRuns: (id: string, change: z.infer<typeof changeRunsSchema>) => post<RunsReply>(`/api/documents/${id}/runs`, change),
  readWhatIfs: (id: string) => request<WhatIfsReply>(`/api/documents/${id}/what-ifs`),
  changeWhatIf: (id: string, change: z.infer<typeof changeWhatIfSchema>) => post<WhatIfsReply>(`/api/documents/${id}/what-ifs`, change),
  previewWhatIf: (id: string, body: z.infer<typeof previewWhatIfSchema>) => post<CatchUpPreviewReply>(`/api/documents/${id}/what-ifs/preview`, body),
  readBuilt: (kind: string, key: string, program: string) =>
    request<BuiltAnswerReply>(`/api/built/${kind}/${encodeURIComponent(key)}?${new URLSearchParams({ program }).toString()}`, soon()),
  readPicture: (id: string) => request<PictureReply>(`/api/documents/${id}/picture`, soon()),
  readEdits: (id: string, after: number) => request<EditsReply>(`/api/documents/${id}/edits?after=${after}`),
  postEdits: (id: string, body: PostEdits) => post<EditsReply>(`/api/documents/${id}/edits`, body),
  listRevisions: (id: string, before?: number) => request<HistoryReply>(`/api/documents/${id}/revisions${before === undefined ? '' : `?before=${before}`}`),
  readRevision: (id: string, number: number) => request<RevisionReply>(`/api/documents/${id}/revisions/${number}`),
  listValueHistory: (id: string, value: string) => request<ValueHistoryReply>(`/api/documents/${id}/values/${encodeURIComponent(value)}`),
  nameRevision: (id: string, number: number, message: string) => send<{ message: string }>('PATCH', `/api/documents/${id}/revisions/${number}`, { message }),
  listOffers: (id: string) => request<OffersReply>(`/api/documents/${id}/offers`),
  offerValues: (id: string, body: { ids: string[]; author: string }) => post<{ seq: number }>(`/api/documents/${id}/offers`, body),
  saveRevision: (id: string, body: { seq: number; message: string; author: string; key: string }) =>
    post<SaveRevisionReply>(`/api/documents/${id}/revisions`, body),
  listLinkable: (id: string) => request<LinkableReply>(`/api/documents/${id}/linkable`),
  readStanding: (id: string) => request<StandingReply>(`/api/documents/${id}/standing`),
  handOver: (id: string, body: z.infer<typeof handOverSchema>) => post<HandOverReply>(`/api/documents/${id}/hand-over`, body),
  previewCatchUp: (project: string, { document, isBranch, isMeasured }: PreviewWish) => {
    const wish = new URLSearchParams({
      ...(document === undefined ? {} : { document }),
      ...(isBranch === true ? { branch: '1' } : {}),
      ...(isMeasured === true ? { measured: '1' } : {}),
    });
    return request<CatchUpPreviewReply>(`/api/projects/${project}/catch-up?${wish.toString()}`);
  },
  commitCatchUp: (project: string, body: z.infer<typeof catchUpSchema>) => post<CatchUpReply>(`/api/projects/${project}/catch-up`, body),
  listChangeSets: (project: string, before?: { readonly at: string; readonly id: string }) =>
    request<ChangeSetsReply>(`/api/projects/${project}/change-sets${before ? `?${new URLSearchParams({ before: before.at, id: before.id }).toString()}` : ''}`),
  readChangeSet: (id: string) => request<ChangeSetReply>(`/api/change-sets/${id}`),
  undoChangeSet: (id: string, author: string) => send<UndoChangeSetReply>('DELETE', `/api/change-sets/${id}`, { author }),
  readReach: (project: string, document: string, value: string) =>
    request<ReachReply>(`/api/projects/${project}/reach?${new URLSearchParams({ document, value }).toString()}`),
};

export type Api = typeof api;
