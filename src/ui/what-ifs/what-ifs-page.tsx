'use client';
/** What-ifs of the document: other values side by side with those that it has; one is taken over as a single edit, or deleted. */
import { useCallback, useEffect, useMemo, useState } from 'react';
import { hasShape, MOST_WHAT_IFS, planRestore, type WhatIf } from '@/core/document';
import { BUILT_AT, problemsOfValues } from '@/core/studies';
import { Button } from '../design/button';
import { ModalPage } from '../design/modal-page';
import { FailedToLoad, Skeleton } from '../design/states';
import { VerbMenu } from '../design/verb-menu';
import { hasTolerances } from '../studies/show-at';
import { CompareStates } from '../sizes/compare-states';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { newId } from '../state/identity';
import { freeName, readColumns, rowsFollowing, rowsSet, settable, type Column } from './columns';
import { keepEdits, takeOver } from './take-over';
import { keyOfState } from '../state/document-key';
import { useBuiltStates } from './use-built-states';
import { useWhatIfs } from './use-what-ifs';
import { WhatIfProject } from './what-if-project';
import { WhatIfTable } from './what-if-table';

interface WhatIfsPageProps {
  /** A value that the first what-if is about, where there is none yet. */
  readonly value?: string | undefined;
  readonly onClose: () => void;
}

export function WhatIfsPage({ value, onClose }: WhatIfsPageProps) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const version = useSessionState((state) => state.version);
  const whatIfs = useWhatIfs(session.id);
  const { all, put } = whatIfs;
  const [asked, setAsked] = useState(value);
  const [through, setThrough] = useState<string>();
  const [picked, setPicked] = useState<readonly string[]>([]);
  const [compared, setCompared] = useState<readonly [Column, Column]>();
  const [said, setSaid] = useState<string>();
  const [showsLimits, setShowsLimits] = useState(false);
  // As the document is: it is shown as nothing else while this page is open.
  const measured = useSessionState(({ regenerated }) => regenerated?.measured);
  useEffect(() => {
    // What is compared is the document as it is.
    session.endTrial(false);
  }, [session]);

  const columns = useMemo(
    () => readColumns(session.values, { whatIfs: all ?? [], limits: showsLimits ? BUILT_AT : [], measured }, session.snapshots),
    // Values are one object that is kept up to date in place: the version tells when.
    // oxlint-disable-next-line react/exhaustive-deps -- see above
    [session, all, showsLimits, measured, document, version],
  );
  const states = useMemo(() => columns.map((column) => column.document), [columns]);
  const built = useBuiltStates(states);
  const builtOf = useCallback((column: Column) => built.get(keyOfState(column.document)), [built]);
  const set = useMemo(() => rowsSet(document, all ?? [], asked), [document, all, asked]);
  const following = useMemo(() => rowsFollowing(columns, set, (column) => builtOf(column)?.values ?? column.values), [columns, set, builtOf]);
  const shownThrough = all?.find(({ id }) => id === through);

  const add = (values: WhatIf['values'] = {}, name = freeName(all ?? [])): void => put({ id: newId(), name, values });
  const fromEdits = (): void => void keepEdits(session, workspace, add).then(setSaid);
  const verbsOf = ({ whatIf, document: there }: Column) =>
    whatIf
      ? [
          [
            { label: 'Apply…', run: () => setSaid(takeOver(session, workspace, whatIf)) },
            {
              label: 'Show in the workspace',
              run: () => {
                session.tryOut(planRestore(session.document, there), {
                  title: `as ${whatIf.name}`,
                  isWhatIf: true,
                  words: [],
                  measured: session.store.getState().regenerated?.measured,
                });
                onClose();
              },
            },
            { label: 'Through the project…', run: () => setThrough(whatIf.id) },
          ],
          [
            { label: 'Duplicate', isOff: (all?.length ?? 0) >= MOST_WHAT_IFS, run: () => add(whatIf.values, `${whatIf.name} copy`.slice(0, 120)) },
            { label: 'Delete', run: () => whatIfs.remove(whatIf.id) },
          ],
        ]
      : [];

  if (shownThrough) {
    return (
      <ModalPage
        title={`${shownThrough.name}, through the project`}
        leave="Close"
        onClose={onClose}
        actions={<Button onClick={() => setThrough(undefined)}>Back to the what-ifs</Button>}
      >
        <WhatIfProject whatIf={shownThrough} />
      </ModalPage>
    );
  }
  const isFull = (all?.length ?? 0) >= MOST_WHAT_IFS;
  return (
    <ModalPage title={`What-ifs of ${document.name}`} leave="Close" onClose={onClose}>
      <div className="flex h-full min-h-0 flex-col">
        <div role="toolbar" aria-label="What-ifs" className="flex flex-wrap items-center gap-1 border-b border-rule px-3 py-1.5">
          <Button disabled={!all || isFull} title={isFull ? `At most ${MOST_WHAT_IFS} stand side by side` : undefined} onClick={() => add()}>
            Add a what-if
          </Button>
          <VerbMenu
            label="Add a value…"
            isOff={!all}
            groups={[settable(document).map(({ id, name }) => ({ label: name, isOff: set.some((row) => row.id === id), run: () => setAsked(id) }))]}
          />
          <Button disabled={!all || isFull} onClick={fromEdits}>
            From unsaved edits…
          </Button>
          <Button disabled={!all || !hasTolerances(document)} aria-pressed={showsLimits} onClick={() => setShowsLimits(!showsLimits)}>
            {showsLimits ? 'Hide limits' : 'Show limits'}
          </Button>
          <Button
            disabled={picked.length !== 2}
            title="Tick two of them to see them over one another"
            onClick={() => {
              const [one, other] = picked.map((key) => columns.find((column) => column.key === key));
              if (one && other) setCompared([one, other]);
            }}
          >
            Compare
          </Button>
        </div>
        {[said, whatIfs.notKept].map(
          (words) =>
            words !== undefined && (
              <p key={words} role="status" className="border-b border-rule bg-weld-wash px-3 py-1">
                {words}
              </p>
            ),
        )}
        <div className="min-h-0 flex-1 overflow-auto">
          {whatIfs.notRead && <FailedToLoad title="The what-ifs cannot be shown" message={whatIfs.notRead.message} onRetry={whatIfs.read} />}
          {!all && !whatIfs.notRead && <Skeleton />}
          {all?.length === 0 && !showsLimits && (
            <p className="max-w-2xl p-4 text-walnut-soft">
              A what-if is a set of other values, side by side with those that the document has. The document does not change until you apply it. Add one, and
              type what its values would be.
            </p>
          )}
          {all && columns.length > 1 && (
            <WhatIfTable
              columns={columns}
              set={set}
              following={following}
              hasShape={hasShape(document)}
              builtOf={builtOf}
              problemsOf={(column) => builtOf(column)?.problems ?? problemsOfValues(column.values)}
              onPut={put}
              verbsOf={verbsOf}
              picked={picked}
              onPick={setPicked}
            />
          )}
          {all && all.length > 0 && set.length === 0 && <p className="px-4 py-2 text-walnut-soft">Add a value, and type what it would be.</p>}
        </div>
        {compared && (
          <div className="max-h-[60%] shrink-0 overflow-y-auto">
            <p className="flex items-center border-t border-rule bg-flax px-3 py-1">
              <span className="flex-1">
                {compared[0].name} and {compared[1].name}
              </span>
              <Button tone="quiet" className="h-6" onClick={() => setCompared(undefined)}>
                Close the comparison
              </Button>
            </p>
            <CompareStates first={compared[0]} second={compared[1]} />
          </div>
        )}
      </div>
    </ModalPage>
  );
}
