'use client';
import { useMemo, useState } from 'react';
import type { OfferedValue, OffersReply } from '@/contract';
import { KIND_WORDS, listRecords } from '@/core/document';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId, thisAuthor } from '../state/identity';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { editOrAsk } from '../state/removal';
import { findAliasProblems, linkEdit, listNotOffered, setAlias, startLinkDraft, toggleChosen, type AliasProblem, type LinkDraft } from '../state/link-draft';
import { PolicySelect } from '../design/policy-select';

/** Picks values of another document of the project, under local names. */
export function LinkDialog({ source: initial, onClose }: { source: string | undefined; onClose: () => void }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const project = useSessionState((state) => state.project.id);
  const document = useSessionState((state) => state.document);
  const { loaded, reload } = useLoaded(QUERIES.project(project));
  const documents = useMemo(() => (loaded.state === 'ready' ? loaded.value.documents.filter(({ id }) => id !== session.id) : undefined), [loaded, session]);
  const [chosen, setChosen] = useState(initial);
  const source = chosen ?? (documents?.find(({ kind }) => kind === 'master') ?? documents?.[0])?.id;
  const offers = useLoaded(source === undefined ? undefined : QUERIES.offers(source));
  const offered = offers.loaded.state === 'ready' ? offers.loaded.value : undefined;
  /** As it was changed by hand. */
  const [changed, setDraft] = useState<LinkDraft>();
  const begun = useMemo(() => offered && startLinkDraft(session.document, offered), [session, offered]);
  const draft = changed ?? begun;
  const [failure, setFailure] = useState<ApiFailure>();
  const [isWorking, setWorking] = useState(false);

  const problems = useMemo(() => (draft ? findAliasProblems(draft, document) : new Map<string, AliasProblem>()), [draft, document]);
  const hidden = draft ? listNotOffered(draft) : [];
  const accept = async (): Promise<void> => {
    if (!draft) return;
    setWorking(true);
    const offered = hidden.length === 0 ? undefined : await api.offerValues(draft.source.id, { ids: hidden, author: thisAuthor() });
    setWorking(false);
    if (offered && !offered.ok) {
      setFailure(offered.failure);
      return;
    }
    const edit = linkEdit(draft, session.document, newId);
    onClose();
    editOrAsk(session, workspace, `Take fewer values from ${draft.source.name}`, (readers) => ({ ...edit, readers }));
  };
  const count = draft?.chosen.size ?? 0;
  return (
    <ModalPage
      title="Link values"
      onClose={onClose}
      actions={
        <Button tone="strong" disabled={!draft || isWorking || problems.size > 0 || (count === 0 && draft.link === undefined)} onClick={() => void accept()}>
          {hidden.length > 0 ? `Offer ${hidden.length} and link ${count}` : `Link ${count} value${count === 1 ? '' : 's'}`}
        </Button>
      }
    >
      {loaded.state === 'failed' && <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {offers.loaded.state === 'failed' && <FailedToLoad title="The document cannot be read" message={offers.loaded.failure.message} onRetry={offers.reload} />}
      {failure && (
        <Notice title="Nothing was linked" tone="error">
          {failure.message}
        </Notice>
      )}
      {documents?.length === 0 && (
        <Notice title="There is no other document in this project">
          <p>Make a master that holds the values, or a part, and link its values here.</p>
        </Notice>
      )}
      <div className="flex h-full min-h-0">
        <nav aria-label="Documents" className="w-56 shrink-0 overflow-y-auto border-r border-rule p-2">
          {documents?.map((card) => (
            <button
              key={card.id}
              type="button"
              aria-pressed={card.id === source}
              className={`block w-full rounded-box px-2 py-1 text-left ${card.id === source ? 'bg-indigo-wash font-semibold' : 'hover:bg-flax'}`}
              onClick={() => {
                // What is ticked of the one at hand stays.
                if (card.id === source && !failure) return;
                setFailure(undefined);
                setDraft(undefined);
                setChosen(card.id);
              }}
            >
              {card.name} <span className="font-normal text-walnut-soft">{KIND_WORDS[card.kind]}</span>
              {listRecords(document, 'links', 'link').some((link) => link.source === card.id) && <span className="block text-woad">linked already</span>}
            </button>
          ))}
        </nav>
        <div className="flex min-w-0 flex-1 flex-col">
          {source !== undefined && !draft && !failure && <Skeleton />}
          {draft && <ValueChoice draft={draft} problems={problems} onChange={setDraft} />}
        </div>
      </div>
    </ModalPage>
  );
}

function ValueChoice({ draft, problems, onChange }: { draft: LinkDraft; problems: ReadonlyMap<string, AliasProblem>; onChange: (draft: LinkDraft) => void }) {
  const [search, setSearch] = useState('');
  const values = useMemo(() => order(draft.source), [draft.source]);
  const shown = values.filter(({ name }) => name.toLowerCase().includes(search.toLowerCase()));
  const selectAll = (): void => {
    onChange(shown.reduce((current, { id }) => (current.chosen.has(id) ? current : toggleChosen(current, id)), draft));
  };
  return (
    <>
      <div className="flex items-center gap-3 border-b border-rule px-3 py-2">
        <input
          type="search"
          aria-label="Search values"
          placeholder="Search values"
          className="h-7 w-56 rounded-box border border-rule bg-sheet px-1.5"
          value={search}
          onChange={(event) => setSearch(event.target.value)}
        />
        <Button onClick={selectAll} disabled={shown.length === 0}>
          Tick these {shown.length}
        </Button>
        <span className="flex-1" />
        <PolicySelect label="When they change" policy={draft.policy} onChange={(policy) => onChange({ ...draft, policy })} />
      </div>
      {draft.source.unsavedEdits > 0 && (
        <p className="border-b border-weld bg-weld-wash px-3 py-1">
          {draft.source.name} has {draft.source.unsavedEdits} edits that are in no revision yet; others see it as of revision {draft.source.revision}.
          {draft.source.notSaved.length > 0 && ` Not saved yet, so not offered: ${draft.source.notSaved.join(', ')}.`}
        </p>
      )}
      <div className="min-h-0 flex-1 overflow-y-auto">
        <table className="w-full">
          <thead>
            <tr className="text-left text-walnut-soft">
              <th className="w-8 px-3 py-1">
                <span className="sr-only">Link</span>
              </th>
              <th className="px-2 py-1 font-semibold">Value</th>
              <th className="px-2 py-1 text-right font-semibold">Now</th>
              <th className="px-2 py-1 font-semibold">Name here</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((value) => (
              <ValueLine key={value.id} value={value} alias={draft.chosen.get(value.id)} problem={problems.get(value.id)} draft={draft} onChange={onChange} />
            ))}
          </tbody>
        </table>
        {shown.length === 0 && <p className="p-4 text-walnut-soft">{values.length === 0 ? 'This document has no values yet.' : 'No value matches.'}</p>}
      </div>
    </>
  );
}

interface ValueLineProps {
  readonly value: OfferedValue;
  readonly alias: string | undefined;
  readonly problem: AliasProblem | undefined;
  readonly draft: LinkDraft;
  readonly onChange: (draft: LinkDraft) => void;
}

function ValueLine({ value, alias, problem, draft, onChange }: ValueLineProps) {
  return (
    <tr className={`border-t border-rule/50 ${alias === undefined ? '' : 'bg-indigo-wash/60'}`}>
      <td className="px-3 py-1">
        <input type="checkbox" aria-label={`Take ${value.name}`} checked={alias !== undefined} onChange={() => onChange(toggleChosen(draft, value.id))} />
      </td>
      <td className="px-2 py-1">
        <span className="font-semibold">{value.name}</span>
        {value.step !== undefined && <span className="ml-2 text-walnut-soft">{value.step}</span>}
        {!value.isOffered && <span className="ml-2 text-walnut-soft italic">not offered yet</span>}
        {value.note !== undefined && <span className="ml-2 text-walnut-soft">{value.note}</span>}
      </td>
      <td className={`px-2 py-1 text-right font-mono whitespace-nowrap tabular-nums ${value.value.kind === 'refused' ? 'value-error' : ''}`}>{value.shown}</td>
      <td className="w-[27rem] px-2 py-0.5">
        {alias !== undefined && (
          <span className="flex items-center gap-2">
            <input
              aria-label={`Name of ${value.name} here`}
              aria-invalid={problem !== undefined}
              className={`h-6 w-36 rounded-box border bg-sheet px-1 ${problem ? 'border-madder' : 'border-rule'}`}
              value={alias}
              onChange={(event) => onChange(setAlias(draft, value.id, event.target.value))}
            />
            {problem && (
              <span className="text-[13px] text-madder" role="alert">
                {problem.message}{' '}
                {problem.offer !== undefined && (
                  <button type="button" className="underline" onClick={() => onChange(setAlias(draft, value.id, problem.offer ?? alias))}>
                    Use {problem.offer}
                  </button>
                )}
              </span>
            )}
          </span>
        )}
      </td>
    </tr>
  );
}

/** Pinned first, then offered, then the rest; each in the order of the source. */
function order(source: OffersReply): readonly OfferedValue[] {
  const rank = ({ isPinned, isOffered }: OfferedValue): number => (isPinned ? 2 : 0) + (isOffered ? 1 : 0);
  return [...source.values].sort((a, b) => rank(b) - rank(a));
}
