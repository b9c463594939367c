'use client';
/** Runs that go on at the server, without this page. */
import { samplesOf, type RunReply, type RunStatus } from '@/contract';
import type { Document } from '@/core/document';
import { Button } from '../design/button';
import { keyOfState } from '../state/document-key';
import type { ServerRuns as Runs } from './use-server-runs';

const STATUS: Readonly<Record<RunStatus, string>> = { 'under-way': 'under way', done: 'done', stopped: 'stopped', failed: 'failed' };

interface ServerRunsProps extends Pick<Runs, 'runs' | 'problem' | 'stop' | 'remove'> {
  readonly document: Document;
  /** What is run, in words. */
  readonly nameOf: (run: RunReply) => string;
  readonly onShow: (run: RunReply) => void;
}

/** Nothing where there are none. */
export function ServerRuns({ runs = [], problem, stop, remove, document, nameOf, onShow }: ServerRunsProps) {
  if (runs.length === 0 && problem === undefined) return null;
  return (
    <section aria-label="Runs at the server" className="mb-2 border-t border-rule pt-2">
      {problem !== undefined && <p className="text-madder">{problem}</p>}
      {runs.map((run) => {
        const name = nameOf(run);
        const count = samplesOf(run);
        const isOther = run.state !== keyOfState(document);
        return (
          <p key={run.id} className="flex flex-wrap items-center gap-2">
            <span className="min-w-0 flex-1">
              At the server: {name}, {run.done === count ? `${count} samples` : `${run.done} of ${count} samples`}, {STATUS[run.status]}
              {isOther && <span className="text-weld"> (the document has changed since)</span>}
            </span>
            {run.done > 1 && (
              <Button aria-label={`Show the run from ${name}`} onClick={() => onShow(run)}>
                Show
              </Button>
            )}
            {run.status === 'under-way' ? (
              <Button aria-label={`Stop the run from ${name}`} onClick={() => stop(run.id)}>
                Stop
              </Button>
            ) : (
              <Button tone="quiet" aria-label={`Delete the run from ${name}`} onClick={() => remove(run.id)}>
                Delete
              </Button>
            )}
          </p>
        );
      })}
    </section>
  );
}
