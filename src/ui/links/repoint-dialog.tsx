'use client';
import { useMemo, useState } from 'react';
import type { OffersReply } from '@/contract';
import { KIND_WORDS, findRecord, listRecords, showTaken, type Take } from '@/core/document';
import { isAlike } from '@/core/links';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { useSession, useSessionState } from '../state/context';
import { newId, thisAuthor } from '../state/identity';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { chooseSource, repointEdit, startRepoint, type RepointDraft } from './repoint';

/** Takes the values of a link from another document from now on. */
export function RepointDialog({ link: id, onClose }: { link: string; onClose: () => void }) {
  const session = useSession();
  const project = useSessionState((state) => state.project.id);
  const document = useSessionState((state) => state.document);
  const link = findRecord(document, id, 'link');
  const { loaded, reload } = useLoaded(QUERIES.project(project));
  const documents = loaded.state === 'ready' ? loaded.value.documents.filter((other) => other.id !== session.id && other.id !== link?.source) : undefined;
  const [source, setSource] = useState<string>();
  const offers = useLoaded(source === undefined ? undefined : QUERIES.offers(source));
  const offered = offers.loaded.state === 'ready' ? offers.loaded.value : undefined;
  /** As it was changed by hand. */
  const [changed, setChanged] = useState<RepointDraft>();
  const begun = useMemo(() => (link && offered ? startRepoint(session.document, link, offered) : undefined), [session, link, offered]);
  const draft = changed ?? begun;
  const [failure, setFailure] = useState<ApiFailure | { readonly message: string }>();

  if (!link) return null;

  const choose = (other: string): void => {
    setFailure(undefined);
    setChanged(undefined);
    setSource(other);
  };
  const accept = (): void => {
    if (!draft) return;
    const wanted = new Set(draft.chosen.values());
    const hidden = draft.source.values.filter((value) => wanted.has(value.id) && !value.isOffered).map((value) => value.id);
    if (hidden.length > 0) void api.offerValues(draft.source.id, { ids: hidden, author: thisAuthor() });
    const refused = session.edit(repointEdit(draft, session.document, newId));
    if (refused) setFailure(refused);
    else onClose();
  };
  const takes = listRecords(document, `${id}/takes`, 'take');
  const staying = draft ? takes.length - draft.chosen.size : 0;
  return (
    <ModalPage
      title={`Take the values of ${link.sourceName} from another document`}
      onClose={onClose}
      actions={
        <Button tone="strong" disabled={!draft || draft.chosen.size === 0} onClick={accept}>
          Take {draft?.chosen.size ?? 0} of {takes.length} from there
        </Button>
      }
    >
      {loaded.state === 'failed' && <FailedToLoad title="The project cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {offers.loaded.state === 'failed' && <FailedToLoad title="The document cannot be read" message={offers.loaded.failure.message} onRetry={offers.reload} />}
      {failure && (
        <Notice title="Nothing was changed" tone="error">
          {failure.message}
        </Notice>
      )}
      <div className="flex h-full min-h-0">
        <nav aria-label="Documents" className="w-56 shrink-0 overflow-y-auto border-r border-rule p-2">
          {loaded.state === 'loading' && <Skeleton />}
          {documents?.length === 0 && <p className="text-walnut-soft">There is no other document in this project.</p>}
          {documents?.map((card) => (
            <button
              key={card.id}
              type="button"
              aria-pressed={card.id === draft?.source.id}
              className={`block w-full rounded-box px-2 py-1 text-left ${card.id === draft?.source.id ? 'bg-indigo-wash font-semibold' : 'hover:bg-flax'}`}
              onClick={() => choose(card.id)}
            >
              {card.name} <span className="font-normal text-walnut-soft">{KIND_WORDS[card.kind]}</span>
            </button>
          ))}
        </nav>
        <div className="min-w-0 flex-1 overflow-y-auto">
          {!draft && <p className="p-4 text-walnut-soft">Choose the document that the values are to come from. Values of the same names are matched.</p>}
          {draft && (
            <>
              {staying > 0 && (
                <p className="border-b border-weld bg-weld-wash px-3 py-1">
                  {staying} of {takes.length} have no value of the same name there: choose one, or they stay with {link.sourceName}.
                </p>
              )}
              <Matches takes={takes} draft={draft} onChange={setChanged} />
            </>
          )}
        </div>
      </div>
    </ModalPage>
  );
}

function Matches({ takes, draft, onChange }: { takes: readonly Take[]; draft: RepointDraft; onChange: (draft: RepointDraft) => void }) {
  const { source, chosen } = draft;
  return (
    <table className="w-full">
      <thead>
        <tr className="text-left text-walnut-soft">
          <th className="px-3 py-1 font-semibold">Value here</th>
          <th className="px-3 py-1 text-right font-semibold">Now</th>
          <th className="px-3 py-1 font-semibold">From {source.name}</th>
          <th className="px-3 py-1 text-right font-semibold">Then</th>
        </tr>
      </thead>
      <tbody>
        {takes.map((take) => (
          <tr key={take.id} className="border-t border-rule/50">
            <td className="px-3 py-1 font-semibold">{take.name}</td>
            <td className="px-3 py-1 text-right font-mono tabular-nums text-madder">{showTaken(take.value)}</td>
            <td className="px-3 py-1">
              <select
                aria-label={`Value for ${take.name}`}
                className="h-7 w-full rounded-box border border-rule bg-sheet"
                value={chosen.get(take.id) ?? ''}
                onChange={(event) => onChange(chooseSource(draft, take.id, event.target.value === '' ? undefined : event.target.value))}
              >
                <option value="">stays where it is</option>
                {alikeFirst(take, source).map((value) => (
                  <option key={value.id} value={value.id}>
                    {value.name}
                    {isAlike(take, value) ? '' : ' (of another kind)'}
                  </option>
                ))}
              </select>
            </td>
            <td className="px-3 py-1 text-right font-mono tabular-nums text-indigo">{source.values.find(({ id }) => id === chosen.get(take.id))?.shown}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function alikeFirst(take: Take, { values }: OffersReply) {
  return [...values].sort((a, b) => Number(isAlike(take, b)) - Number(isAlike(take, a)));
}
