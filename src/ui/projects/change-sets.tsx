'use client';
import Link from 'next/link';
import { Fragment, useState } from 'react';
import type { ChangeSetCard, ChangeSetReply } from '@/contract';
import { Button } from '../design/button';
import { SmallPicture } from '../design/small-picture';
import { FailedLine, FailedToLoad, Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { describeAuthor, thisAuthor } from '../state/identity';
import { PAGED, QUERIES } from '../state/queries';
import { useLoaded, useLoadedPages } from '../state/use-loaded';

/** The change sets of a project, newest first: what each changed, and taking one back as a whole. */
export function ChangeSets({ project, onChanged }: { project: string; onChanged: () => void }) {
  const { loaded, hasMore, more, reload } = useLoadedPages(PAGED.changeSets(project));
  const cards = loaded.state === 'ready' ? loaded.value.flatMap(({ changeSets }) => changeSets) : undefined;
  const [failure, setFailure] = useState<ApiFailure>();
  const [word, setWord] = useState<string>();
  const [working, setWorking] = useState<string>();

  const undo = async ({ id }: ChangeSetCard): Promise<void> => {
    setWorking(id);
    setFailure(undefined);
    const reply = await api.undoChangeSet(id, thisAuthor());
    setWorking(undefined);
    if (!reply.ok) {
      setFailure(reply.failure);
      return;
    }
    const { documents, nowBehind } = reply.value;
    setWord(`Undone in ${documents.length} documents, as a new change set.${nowBehind.length > 0 ? ` Behind now: ${nowBehind.length}.` : ''}`);
    reload();
    onChanged();
  };

  return (
    <section aria-label="Change sets">
      {failure && (
        <Notice title="Nothing was changed" tone="error">
          {failure.message}
        </Notice>
      )}
      {word !== undefined && (
        <p role="status" className="mb-2 rounded-box bg-indigo-wash px-3 py-1">
          {word}
        </p>
      )}
      {loaded.state === 'loading' && <Skeleton />}
      {loaded.state === 'failed' && <FailedToLoad title="The change sets cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      {cards?.length === 0 && (
        <Notice title="No change set yet">
          <p>When documents catch up, or follow what is saved, their new revisions are made together and are listed here.</p>
        </Notice>
      )}
      <ol className="overflow-hidden rounded-box border border-rule bg-sheet empty:hidden">
        {cards?.map((card) => (
          <ChangeSetLine key={card.id} card={card} isWorking={working === card.id} onUndo={() => void undo(card)} />
        ))}
      </ol>
      {hasMore && (
        <Button tone="quiet" className="mt-2" onClick={more}>
          Earlier ones
        </Button>
      )}
    </section>
  );
}

function ChangeSetLine({ card, isWorking, onUndo }: { card: ChangeSetCard; isWorking: boolean; onUndo: () => void }) {
  const { id, message, author, at, isUndone, leftBehind, documents } = card;
  const [isOpen, setOpen] = useState(false);
  const { loaded, reload } = useLoaded(isOpen ? QUERIES.changeSet(id) : undefined);
  const changed = loaded.state === 'ready' ? loaded.value.documents : undefined;
  return (
    <li className="border-b border-rule/60 px-3 py-2 last:border-0">
      <div className="flex items-center gap-3">
        <span className={`font-semibold ${isUndone ? 'text-walnut-soft line-through' : ''}`}>{message}</span>
        <span className="min-w-0 flex-1 truncate text-walnut-soft">
          {describeAuthor(author)}, {new Date(at).toLocaleString()}: {documents.length} document{documents.length === 1 ? '' : 's'}
          {isUndone && ', undone'}
        </span>
        <Button tone="quiet" aria-expanded={isOpen} onClick={() => setOpen(!isOpen)}>
          What it changed
        </Button>
        <Button disabled={isUndone || isWorking} onClick={onUndo}>
          Undo it as a whole
        </Button>
      </div>
      {leftBehind.length > 0 && (
        <ul className="text-[13px] text-weld">
          {leftBehind.slice(0, 5).map((left) => (
            <li key={left.id}>
              {left.name} was skipped: {left.reason}
            </li>
          ))}
          {leftBehind.length > 5 && <li>and {leftBehind.length - 5} more were skipped</li>}
        </ul>
      )}
      {isOpen && loaded.state === 'loading' && <Skeleton rows={2} />}
      {loaded.state === 'failed' && <FailedLine message={loaded.failure.message} onRetry={reload} />}
      {isOpen && changed && (
        <ul className="mt-1 max-h-[60vh] overflow-y-auto">
          {changed.map((document) => (
            <li key={document.id} className="flex items-center gap-3 border-t border-rule/40 py-1 first:border-0">
              <BeforeAfter document={document} />
              <span className="min-w-0 flex-1">
                <Link href={`/documents/${document.id}`} className="font-semibold underline decoration-rule underline-offset-4">
                  {document.name}
                </Link>
                <span className="ml-2 font-mono text-[13px]">
                  {document.differs.slice(0, 6).map(({ id: value, before, after }) => (
                    <span key={value} className="mr-3">
                      {after?.name ?? before?.name} <span className="text-madder">{before?.shown ?? 'was not there'}</span> →{' '}
                      <span className="text-indigo">{after?.shown ?? 'gone'}</span>
                    </span>
                  ))}
                  {document.differs.length === 0 && <span className="font-sans text-walnut-soft">No value changed.</span>}
                  {document.differs.length > 6 && <span className="text-walnut-soft">and {document.differs.length - 6} more</span>}
                </span>
              </span>
            </li>
          ))}
        </ul>
      )}
    </li>
  );
}

/** How a document looked before and after, as far as there are pictures: room is kept for both, so that the names stand in one line. */
function BeforeAfter({ document: { id, pictured } }: { document: ChangeSetReply['documents'][number] }) {
  return (
    <span className="flex shrink-0 items-center gap-1 text-walnut-soft">
      {[pictured.before, pictured.after].map((revision, i) => (
        <Fragment key={i}>
          {i === 1 && (
            <span aria-hidden className={pictured.before === undefined || revision === undefined ? 'invisible' : ''}>
              →
            </span>
          )}
          {revision === undefined ? <span className="h-11 w-16" /> : <SmallPicture document={id} revision={revision} isExact className="h-11 w-16" />}
        </Fragment>
      ))}
    </span>
  );
}
