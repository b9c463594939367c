/**
 * What components ask the server, each question under a key of its own: the same question, asked by several, is asked once. What watches a document and
 * shows nothing (its links, its loose ends) asks when the page rests, and by itself.
 */
import type { ChangeSetsReply, HistoryReply, RunsReply } from '@/contract';
import type { Result } from '@/core/kit';
import { api, type ApiFailure } from './api';

export interface ServerQuery<T> {
  readonly key: readonly (string | number)[];
  readonly ask: () => Promise<Result<T, ApiFailure>>;
  /** Whether the answer may be another one when something is saved anywhere: it is asked for again then. */
  readonly follows: boolean;
  /** In how many milliseconds it is asked for again by itself, after such an answer. */
  readonly again?: (answer: T) => number | undefined;
}

/** How often runs that are under way are looked at, in milliseconds. */
const LOOK_EVERY = 1_500;

const following = <T>(key: ServerQuery<T>['key'], ask: ServerQuery<T>['ask']): ServerQuery<T> => ({ key, ask, follows: true });
/** Asked once each time that it is shown: what is chosen from it does not change under the hand. */
const asOpened = <T>(key: ServerQuery<T>['key'], ask: ServerQuery<T>['ask']): ServerQuery<T> => ({ key, ask, follows: false });

/** A list that comes in pages, the newest first. */
export interface PagedQuery<T> extends Omit<ServerQuery<T>, 'ask'> {
  /** A page, from the start or behind another one. */
  readonly ask: (behind: T | undefined) => Promise<Result<T, ApiFailure>>;
  readonly hasMore: (page: T) => boolean;
}

export const PAGED = {
  revisions: (document: string): PagedQuery<HistoryReply> => ({
    key: ['revisions', document],
    ask: (behind) => api.listRevisions(document, behind?.revisions.at(-1)?.number),
    hasMore: ({ hasMore }) => hasMore,
    follows: true,
  }),
  changeSets: (project: string): PagedQuery<ChangeSetsReply> => ({
    key: ['change-sets', project],
    ask: (behind) => api.listChangeSets(project, behind?.changeSets.at(-1)),
    hasMore: ({ hasMore }) => hasMore,
    follows: true,
  }),
};

export const QUERIES = {
  projects: following(['projects'], api.listProjects),
  project: (id: string) => following(['project', id], () => api.readProject(id)),
  document: (id: string) => following(['document', id], () => api.readDocument(id)),
  shelf: following(['shelf'], api.readShelf),
  services: following(['services'], api.readServices),
  changeSet: (id: string) => following(['change-set', id], () => api.readChangeSet(id)),
  offers: (document: string) => asOpened(['offers', document], () => api.listOffers(document)),
  whatIfs: (document: string) => asOpened(['what-ifs', document], () => api.readWhatIfs(document)),
  sizeChecks: (document: string) => asOpened(['size-checks', document], () => api.readSizeChecks(document)),
  runs: (document: string): ServerQuery<RunsReply> => ({
    ...asOpened(['runs', document], () => api.readRuns(document)),
    again: ({ runs }) => (runs.some(({ status }) => status === 'under-way') ? LOOK_EVERY : undefined),
  }),
  valueHistory: (document: string, value: string) => following(['value-history', document, value], () => api.listValueHistory(document, value)),
  reach: (project: string, document: string, value: string) => following(['reach', project, document, value], () => api.readReach(project, document, value)),
};
