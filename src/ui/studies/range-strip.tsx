'use client';
/** The solids along a range, drawn to one scale; a press on one sets the value there. */
import { useMemo, useState } from 'react';
import { hasShape, type Document } from '@/core/document';
import { Sampler } from '@/core/studies';
import { drawPicture, type DrawnBody } from '@/workers/small-picture';
import { Button } from '../design/button';
import { checkState } from '../sizes/check-sizes';
import { writePicture } from '../sizes/write-picture';
import { useSession } from '../state/context';
import { useStudyWorker } from './use-study-worker';

const MOST_PICTURES = 7;

interface Frame {
  readonly at: number;
  readonly problems: readonly string[];
  readonly drawn: readonly DrawnBody[];
}

interface RangeStripProps {
  readonly document: Document;
  readonly value: string;
  /** Amounts of the value that were run, in internal units. */
  readonly amounts: readonly number[];
  readonly write: (amount: number) => string;
  /** Undefined where the value cannot be set here. */
  readonly onUse: ((amount: number) => void) | undefined;
}

/** Nothing for documents without a shape. */
export function RangeStrip({ document, value, amounts, write, onUse }: RangeStripProps) {
  const session = useSession();
  const { isRunning, work, stop } = useStudyWorker();
  const [frames, setFrames] = useState<readonly Frame[]>();
  const ats = spread(amounts, MOST_PICTURES);
  const isWhole = frames !== undefined && frames.length === ats.length;
  const pictures = useMemo(() => (isWhole ? drawAll(frames) : []), [isWhole, frames]);
  if (!hasShape(document)) return null;
  const build = (): Promise<void> =>
    work(async (worker) => {
      setFrames([]);
      const sampler = new Sampler(document, [value], session.snapshots);
      for (const at of ats) {
        sampler.at([at]);
        const found = await checkState(worker, sampler.document, session.snapshots);
        if (!found) return setFrames(undefined);
        const { problems, drawn } = found;
        setFrames((before) => [...(before ?? []), { at, problems, drawn }]);
      }
    });
  if (isRunning) {
    return (
      <p role="status" className="flex items-center gap-2">
        <Button onClick={stop}>Stop</Button>
        {frames?.length ?? 0} of {ats.length} solids built
      </p>
    );
  }
  if (!isWhole)
    return (
      <Button className="mt-2 self-start" onClick={() => void build()}>
        Show the solids
      </Button>
    );
  return (
    <ul aria-label="Solids along the range" className="mt-2 flex gap-1">
      {frames.map(({ at, problems }, i) => (
        <li key={at} className="min-w-0 flex-1 text-center">
          <FrameButton words={write(at)} problem={problems[0]} picture={pictures[i]} onPress={onUse && (() => onUse(at))} />
        </li>
      ))}
    </ul>
  );
}

interface FrameButtonProps {
  readonly words: string;
  readonly problem: string | undefined;
  readonly picture: string | undefined;
  readonly onPress: (() => void) | undefined;
}

function FrameButton({ words, problem, picture, onPress }: FrameButtonProps) {
  return (
    <button
      type="button"
      aria-label={onPress ? `Use ${words}` : words}
      title={problem}
      disabled={!onPress}
      className={`flex w-full flex-col items-center rounded-box border p-1 enabled:hover:bg-flax ${problem === undefined ? 'border-rule' : 'border-madder'}`}
      onClick={onPress}
    >
      <span className="flex h-16 items-center">
        {picture === undefined ? (
          <span className="text-walnut-soft">no solid</span>
        ) : (
          // oxlint-disable-next-line nextjs/no-img-element -- a picture that the page drew itself
          <img src={picture} alt="" className="max-h-16" />
        )}
      </span>
      <span className="font-mono">{words}</span>
      {problem !== undefined && <span className="text-xs text-madder">problems</span>}
    </button>
  );
}

/** So many of them at most, the first and the last among them. */
function spread(amounts: readonly number[], most: number): number[] {
  if (amounts.length <= most) return [...amounts];
  return Array.from({ length: most }, (_, i) => amounts[Math.round((i * (amounts.length - 1)) / (most - 1))] as number);
}

function drawAll(frames: readonly Frame[]): (string | undefined)[] {
  const among = frames.flatMap(({ drawn }) => drawn);
  return frames.map(({ drawn }) => {
    const picture = drawPicture(drawn, among);
    return picture && writePicture(picture);
  });
}
