'use client';
import { useState } from 'react';
import type { HandOverReply } from '@/contract';
import { findAny, isNamed, type Link } from '@/core/document';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { useSession, useSessionState } from '../state/context';
import { thisAuthor } from '../state/identity';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { PolicySelect } from '../design/policy-select';

/** Links values of this document in others, from here: chosen documents, chosen names, all or none. */
export function HandOverDialog({ values: ids, onClose }: { values: readonly string[]; onClose: () => void }) {
  const session = useSession();
  const project = useSessionState((state) => state.project.id);
  const unsaved = useSessionState((state) => state.unsavedEdits);
  const { loaded, reload } = useLoaded(QUERIES.project(project));
  const documents = loaded.state === 'ready' ? loaded.value.documents.filter(({ id }) => id !== session.id) : undefined;
  const [chosen, setChosen] = useState<ReadonlySet<string>>(new Set());
  const [policy, setPolicy] = useState<Link['policy']>('ask');
  /** Names by `<document>/<value>`, where they are not those of this document. */
  const [names, setNames] = useState<ReadonlyMap<string, string>>(new Map());
  const [failure, setFailure] = useState<ApiFailure>();
  const [search, setSearch] = useState('');
  const [problems, setProblems] = useState<HandOverReply['problems']>([]);
  const [isWorking, setWorking] = useState(false);

  const values = ids.flatMap((id) => {
    const record = findAny(session.document, id);
    return record && isNamed(record) ? [{ id, name: record.name }] : [];
  });
  const accept = async (): Promise<void> => {
    setWorking(true);
    const to = [...chosen].map((document) => ({
      document,
      takes: values.map(({ id, name }) => ({ parameter: id, name: names.get(`${document}/${id}`) ?? name })),
    }));
    const reply = await api.handOver(session.id, { policy, author: thisAuthor(), to });
    setWorking(false);
    if (!reply.ok) {
      setFailure(reply.failure);
      return;
    }
    setProblems(reply.value.problems);
    if (reply.value.problems.length > 0) return;
    session.notify(`Handed over to ${reply.value.documents.map(({ name }) => name).join(', ')}; it is part of their next revision.`);
    onClose();
  };
  const shown = documents?.filter(({ name }) => name.toLowerCase().includes(search.toLowerCase())) ?? [];
  return (
    <ModalPage
      title={`Hand over ${values.map(({ name }) => name).join(', ')}`}
      onClose={onClose}
      actions={
        <Button tone="strong" disabled={chosen.size === 0 || isWorking} onClick={() => void accept()}>
          Link in {chosen.size} document{chosen.size === 1 ? '' : 's'}
        </Button>
      }
    >
      {loaded.state === 'failed' && <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {failure && (
        <Notice title="Nothing was handed over" tone="error">
          {failure.message}
        </Notice>
      )}
      {problems.length > 0 && (
        <Notice title="Nothing was handed over" tone="error">
          {problems.map(({ message }) => message).join(' ')}
        </Notice>
      )}
      {unsaved > 0 && (
        <p className="border-b border-weld bg-weld-wash px-3 py-1">
          {unsaved} edit{unsaved === 1 ? '' : 's'} here {unsaved === 1 ? 'is' : 'are'} in no revision yet; others see the values as of the last one.
        </p>
      )}
      <div className="flex items-center gap-3 border-b border-rule px-3 py-2">
        <input
          type="search"
          aria-label="Search documents"
          placeholder="Search documents"
          className="h-7 w-56 rounded-box border border-rule bg-sheet px-1.5"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <Button disabled={shown.length === 0} onClick={() => setChosen(new Set([...chosen, ...shown.map(({ id }) => id)]))}>
          Tick these {shown.length}
        </Button>
        <span className="flex-1" />
        <PolicySelect label="When they change" policy={policy} onChange={setPolicy} />
      </div>
      {!documents && !failure && <Skeleton />}
      {documents?.length === 0 && <Notice title="There is no other document in this project" />}
      <ul className="p-3">
        {shown.map(({ id, name, kind, links }) => (
          <li key={id} className="flex flex-wrap items-center gap-3 border-b border-rule/50 py-1">
            <label className="flex w-72 items-center gap-2">
              <input
                type="checkbox"
                checked={chosen.has(id)}
                onChange={() => {
                  const next = new Set(chosen);
                  if (!next.delete(id)) next.add(id);
                  setChosen(next);
                }}
              />
              <span className="font-semibold">{name}</span> <span className="text-walnut-soft">{kind}</span>
              {links.some(({ source }) => source === session.id) && <span className="text-woad">linked already</span>}
            </label>
            {chosen.has(id) &&
              values.map((value) => {
                const key = `${id}/${value.id}`;
                const problem = problems.find((one) => one.document === id && one.parameter === value.id);
                const put = (text: string): void => setNames(new Map(names).set(key, text));
                return (
                  <label key={value.id} className="flex items-center gap-1.5">
                    <span className="text-walnut-soft">{value.name} as</span>
                    <input
                      aria-label={`Name of ${value.name} in ${name}`}
                      aria-invalid={problem !== undefined}
                      className={`h-6 w-36 rounded-box border bg-sheet px-1 ${problem ? 'border-madder' : 'border-rule'}`}
                      value={names.get(key) ?? value.name}
                      onChange={(event) => put(event.target.value)}
                    />
                    {problem?.offer !== undefined && (
                      <button type="button" className="text-madder underline" onClick={() => put(problem.offer ?? value.name)}>
                        Use {problem.offer}
                      </button>
                    )}
                  </label>
                );
              })}
          </li>
        ))}
      </ul>
    </ModalPage>
  );
}
