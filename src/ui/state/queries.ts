/** What components ask the server, each question under a key of its own: the same question, asked by several, is asked once. */
import type { Result } from '@/core/kit';
import { api, type ApiFailure } from './api';

export interface ServerQuery<T> {
  readonly key: readonly (string | number)[];
  readonly ask: () => Promise<Result<T, ApiFailure>>;
  /** Whether the answer may be another one when something is saved anywhere: it is asked for again then. */
  readonly follows: boolean;
}

const following = <T>(key: ServerQuery<T>['key'], ask: ServerQuery<T>['ask']): ServerQuery<T> => ({ key, ask, follows: true });
/** Asked once each time that it is shown: what is chosen from it does not change under the hand. */
const asOpened = <T>(key: ServerQuery<T>['key'], ask: ServerQuery<T>['ask']): ServerQuery<T> => ({ key, ask, follows: false });

export const QUERIES = {
  projects: following(['projects'], api.listProjects),
  project: (id: string) => following(['project', id], () => api.readProject(id)),
  document: (id: string) => following(['document', id], () => api.readDocument(id)),
  shelf: following(['shelf'], api.readShelf),
  services: following(['services'], api.readServices),
  changeSet: (id: string) => following(['change-set', id], () => api.readChangeSet(id)),
  offers: (document: string) => asOpened(['offers', document], () => api.listOffers(document)),
  valueHistory: (document: string, value: string) => following(['value-history', document, value], () => api.listValueHistory(document, value)),
  reach: (project: string, document: string, value: string) => following(['reach', project, document, value], () => api.readReach(project, document, value)),
};
