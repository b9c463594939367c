'use client';
import { useEffect, useState } from 'react';
import type { HistoryReply, RevisionReply } from '@/contract';
import { compareSnapshots, planRestore, type Comparison, type Snapshot, type ValueDifference } from '@/core/document';
import type { CompleteDocument } from '@/core/instances';
import { publishValues } from '@/core/links';
import { SolidPreview } from '../catch-up/solid-preview';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { SmallPicture } from '../design/small-picture';
import { FailedToLoad, Notice, Skeleton } from '../design/states';
import { api, type ApiFailure } from '../state/api';
import { useSession } from '../state/context';
import { describeAuthor } from '../state/identity';
import { PAGED } from '../state/queries';
import { useLoadedPages } from '../state/use-loaded';

type Card = HistoryReply['revisions'][number];
/** A side of the comparison: a revision, or what is on screen now. */
type Side = number | 'now';

/** The revisions of the document: what each changed, any two side by side, and going back to one. */
export function HistoryDialog({ onClose }: { onClose: () => void }) {
  const session = useSession();
  const { loaded, hasMore, more, reload } = useLoadedPages(PAGED.revisions(session.id));
  const cards = loaded.state === 'ready' ? loaded.value.flatMap(({ revisions }) => revisions) : undefined;
  const [failure, setFailure] = useState<ApiFailure>();
  const [sides, setSides] = useState<readonly [Side, Side]>();
  const [word, setWord] = useState<string>();

  // What one comes for first: the newest revision.
  const newest = cards?.[0]?.number ?? 0;
  const shown = sides ?? (newest > 1 ? ([newest - 1, newest] as const) : undefined);

  const restore = async (number: number): Promise<void> => {
    const reply = await api.readRevision(session.id, number);
    if (!reply.ok) {
      setFailure(reply.failure);
      return;
    }
    const refused = session.edit(planRestore(session.document, reply.value.document));
    const saved = refused ? refused : await session.save(`Revision ${number} restored`);
    if ('code' in saved) setWord(saved.message);
    else setWord(`Revision ${number} is restored, as a new revision. Undo takes it back.`);
  };

  return (
    <ModalPage title={`History of ${session.document.name}`} leave="Close" onClose={onClose}>
      {failure && (
        <Notice title="Nothing was restored" tone="error">
          {failure.message}
        </Notice>
      )}
      {loaded.state === 'loading' && <Skeleton />}
      {loaded.state === 'failed' && <FailedToLoad title="The history cannot be shown" message={loaded.failure.message} onRetry={reload} />}
      <div className="flex h-full min-h-0">
        <section aria-label="Revisions" className="w-[26rem] shrink-0 overflow-y-auto border-r border-rule">
          {word !== undefined && (
            <p role="status" className="border-b border-rule bg-indigo-wash px-3 py-1">
              {word}
            </p>
          )}
          <ol>
            {cards?.map((card) => (
              <RevisionLine key={card.number} card={card} sides={shown} onCompare={setSides} onRestore={() => void restore(card.number)} onNamed={reload} />
            ))}
          </ol>
          {hasMore && (
            <Button tone="quiet" className="m-2" onClick={more}>
              Earlier revisions
            </Button>
          )}
        </section>
        <div className="min-w-0 flex-1 overflow-y-auto">
          {shown ? (
            <ComparisonView key={shown.join()} sides={shown} />
          ) : (
            <p className="p-4 text-walnut-soft">Choose a revision to see what it changed, or compare it with how things are now.</p>
          )}
        </div>
      </div>
    </ModalPage>
  );
}

interface RevisionLineProps {
  readonly card: Card;
  readonly sides: readonly [Side, Side] | undefined;
  readonly onCompare: (sides: readonly [Side, Side]) => void;
  readonly onRestore: () => void;
  readonly onNamed: () => void;
}

function RevisionLine({ card, sides, onCompare, onRestore, onNamed }: RevisionLineProps) {
  const session = useSession();
  const [isNaming, setNaming] = useState(false);
  const isShown = sides?.includes(card.number) === true;
  const from = sides?.[0];
  return (
    <li className={`flex gap-2 border-b border-rule/60 px-3 py-2 ${isShown ? 'bg-indigo-wash' : ''}`}>
      {card.hasThumbnail && <SmallPicture document={session.id} revision={card.number} isExact />}
      <div className="min-w-0 flex-1">
        <p className="flex gap-2">
          <span className="font-semibold">Revision {card.number}</span>
          {isNaming ? (
            <input
              autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- opened by the user to type into
              aria-label={`Name of revision ${card.number}`}
              defaultValue={card.message}
              maxLength={500}
              className="h-6 min-w-0 flex-1 rounded-box border border-indigo bg-sheet px-1"
              onBlur={() => setNaming(false)}
              onKeyDown={(event) => {
                event.stopPropagation();
                if (event.key === 'Escape') setNaming(false);
                if (event.key !== 'Enter') return;
                void api.nameRevision(session.id, card.number, event.currentTarget.value).then(() => {
                  setNaming(false);
                  onNamed();
                });
              }}
            />
          ) : (
            <span className="min-w-0 flex-1 truncate">{card.message}</span>
          )}
        </p>
        <p className="text-[13px] text-walnut-soft">
          {describeAuthor(card.author)}, {new Date(card.at).toLocaleString()}
          {card.changeSet !== null && ', in one change set with other documents'}
        </p>
        <Differs card={card} />
        <p className="mt-1 flex flex-wrap gap-1">
          {card.number > 1 && (
            <Button tone="quiet" className="h-6" onClick={() => onCompare([card.number - 1, card.number])}>
              What it changed
            </Button>
          )}
          <Button tone="quiet" className="h-6" onClick={() => onCompare([card.number, 'now'])}>
            Compare with now
          </Button>
          {typeof from === 'number' && from !== card.number && (
            <Button tone="quiet" className="h-6" onClick={() => onCompare([Math.min(from, card.number), Math.max(from, card.number)])}>
              Compare with revision {from}
            </Button>
          )}
          <Button tone="quiet" className="h-6" onClick={() => setNaming(true)}>
            Name it
          </Button>
          <Button tone="quiet" className="h-6" onClick={onRestore}>
            Restore
          </Button>
        </p>
      </div>
    </li>
  );
}

function Differs({ card }: { card: Card }) {
  if (card.differing === 0 && card.steps.length === 0) return null;
  return (
    <ul className="mt-0.5 text-[13px]">
      {card.differs.slice(0, 3).map((difference) => (
        <li key={difference.id} className="truncate font-mono">
          {difference.after?.name ?? difference.before?.name} <span className="text-madder">{difference.before?.shown ?? 'was not there'}</span> →{' '}
          <span className="text-indigo">{difference.after?.shown ?? 'gone'}</span>
        </li>
      ))}
      {card.differing > 3 && <li className="text-walnut-soft">and {card.differing - 3} more</li>}
      {card.steps.slice(0, 3).map((step) => (
        <li key={step.id} className="truncate">
          {step.name} {step.change}
        </li>
      ))}
    </ul>
  );
}

interface LoadedSides {
  readonly states: readonly [Snapshot, Snapshot];
  readonly solids: readonly [CompleteDocument, CompleteDocument];
}

function ComparisonView({ sides }: { sides: readonly [Side, Side] }) {
  const session = useSession();
  const [loaded, setLoaded] = useState<LoadedSides>();
  const [failure, setFailure] = useState<ApiFailure>();

  useEffect(() => {
    // Revisions are the server's; what is now is in this page.
    const read = async (side: Side): Promise<Snapshot | undefined> => {
      if (side === 'now') return { document: session.document, values: publishValues(session.values) };
      const reply = await api.readRevision(session.id, side);
      if (reply.ok) return toSnapshot(reply.value);
      setFailure(reply.failure);
      return undefined;
    };
    void Promise.all([read(sides[0]), read(sides[1])]).then(async ([before, after]) => {
      if (!before || !after) return;
      setLoaded({ states: [before, after], solids: [await session.complete(before.document), await session.complete(after.document)] });
    });
  }, [session, sides]);

  if (failure) {
    return (
      <Notice title="These revisions cannot be compared" tone="error">
        {failure.message}
      </Notice>
    );
  }
  if (!loaded) return <Skeleton />;
  const [before, after] = loaded.states;
  const comparison = compareSnapshots(before, after);
  const isPart = after.document.kind === 'part';
  return (
    <section aria-label="Comparison" className="p-4">
      <h2 className="mb-2 text-base font-semibold">
        From {titleOf(sides[0])} to {titleOf(sides[1])}
      </h2>
      <ComparisonTable comparison={comparison} />
      {isPart && (
        <div className="mt-3 max-w-3xl rounded-box border border-rule bg-sheet">
          <SolidPreview name={after.document.name} before={loaded.solids[0]} after={loaded.solids[1]} />
        </div>
      )}
    </section>
  );
}

function ComparisonTable({ comparison }: { comparison: Comparison }) {
  const { values, steps, others } = comparison;
  if (values.length + steps.length + others.length === 0) return <p>Nothing differs.</p>;
  return (
    <>
      {values.length > 0 && (
        <table className="w-full rounded-box border border-rule bg-sheet">
          <thead>
            <tr className="text-left text-walnut-soft">
              <th className="px-3 py-1 font-semibold">Value</th>
              <th className="px-3 py-1 font-semibold">Before</th>
              <th className="px-3 py-1 font-semibold">After</th>
            </tr>
          </thead>
          <tbody>
            {values.map((difference) => (
              <tr key={difference.id} className="border-t border-rule/50 align-top">
                <td className="px-3 py-0.5 font-semibold">{difference.after?.name ?? difference.before?.name}</td>
                <SideCell side={difference.before} other={difference.after} tone="text-madder" absent="was not there" />
                <SideCell side={difference.after} other={difference.before} tone="text-indigo" absent="gone" />
              </tr>
            ))}
          </tbody>
        </table>
      )}
      <ul className="mt-2">
        {steps.map((step) => (
          <li key={step.id}>
            <span className="font-semibold">{step.name}</span> {step.change}
          </li>
        ))}
        {others.map((other) => (
          <li key={other}>{other} changed</li>
        ))}
      </ul>
    </>
  );
}

type SideOfValue = ValueDifference['before'];

function SideCell({ side, other, tone, absent }: { side: SideOfValue; other: SideOfValue; tone: string; absent: string }) {
  if (!side) return <td className="px-3 py-0.5 text-walnut-soft italic">{absent}</td>;
  return (
    <td className="px-3 py-0.5 font-mono tabular-nums">
      {side.name !== other?.name && other && <span className="font-sans">{side.name} </span>}
      <span className={side.shown === other?.shown ? '' : tone}>{side.shown}</span>
      {side.formula !== undefined && side.formula !== other?.formula && side.formula !== side.shown && (
        <span className="ml-2 text-walnut-soft">{side.formula === side.shown ? 'plain number' : side.formula}</span>
      )}
    </td>
  );
}

function titleOf(side: Side): string {
  return side === 'now' ? 'what is here now' : `revision ${side}`;
}

function toSnapshot({ document, values }: RevisionReply): Snapshot {
  return { document, values };
}
