'use client';
import { KIND_WORDS } from '@/core/document';
import Link from 'next/link';
import { Fragment, useMemo, useState } from 'react';
import type { DocumentCard, ReachReply } from '@/contract';
import { reachOf } from '@/core/links';
import { Button } from '../design/button';
import { QUERIES } from '../state/queries';
import { useLoaded } from '../state/use-loaded';
import { BOX, layOutMap, type Placed } from './map-layout';
import { ReachedList } from '../links/reached-list';
import { brokenGuardWords, interferences, interferenceWords } from './found-problems';
import { DocumentIcon } from '../design/kind-icons';
import { SmallPicture } from '../design/small-picture';
import { ReachFilter, type ReachWish } from './reach-filter';

interface ProjectMapProps {
  readonly project: string;
  readonly documents: readonly DocumentCard[];
  readonly onCatchUp: (document: string, isBranch: boolean) => void;
}

/** More threads than these are drawn thin, without figures: they would take seconds to draw, and nobody could read them. */
const MANY_THREADS = 150;

const SCALES = [0.4, 0.55, 0.75, 1] as const;

/** The documents of a project from masters to what takes from them, links as threads with the number of values. */
export function ProjectMap({ project, documents, onCatchUp }: ProjectMapProps) {
  const [wish, setWish] = useState<ReachWish>({});
  const [scale, setScale] = useState(documents.length > 60 ? 0.55 : 1);
  const [isOnly, setOnly] = useState(documents.length > 60);
  const { document, value } = wish;

  // Which values depend on one is the server's to tell: it has all documents.
  const { loaded } = useLoaded(document === undefined || value === undefined ? undefined : QUERIES.reach(project, document, value));
  const byValue = loaded.state === 'ready' ? loaded.value : undefined;
  const lit = useMemo(() => {
    if (document === undefined) return undefined;
    if (value !== undefined) return new Set([document, ...(byValue?.drives.map(({ id }) => id) ?? [])]);
    return reachOf(
      documents.map(({ id, links }) => ({ id, sources: links.map(({ source }) => source) })),
      document,
    );
  }, [documents, document, value, byValue]);
  const { placed, width, height } = useMemo(() => layOutMap(isOnly && lit ? documents.filter(({ id }) => lit.has(id)) : documents), [documents, isOnly, lit]);
  const threads = placed.reduce((sum, one) => sum + one.document.links.length, 0);
  const at = useMemo(() => new Map(placed.map((one) => [one.document.id, one])), [placed]);
  const chosen = documents.find(({ id }) => id === document);
  return (
    <div>
      <div className="mb-2 flex flex-wrap items-center gap-2">
        <ReachFilter documents={documents} wish={wish} onWish={setWish} />
        <label className="flex items-center gap-1.5">
          <input type="checkbox" checked={isOnly} onChange={(event) => setOnly(event.target.checked)} /> only those
        </label>
        <span className="flex-1" />
        {(['−', '+'] as const).map((sign) => (
          <Button
            key={sign}
            tone="quiet"
            aria-label={sign === '+' ? 'Larger' : 'Smaller'}
            disabled={scale === (sign === '+' ? SCALES.at(-1) : SCALES[0])}
            onClick={() => setScale(SCALES[SCALES.findIndex((one) => one === scale) + (sign === '+' ? 1 : -1)] ?? 1)}
          >
            {sign}
          </Button>
        ))}
      </div>
      {chosen && (
        <ChosenDocument chosen={chosen} hasTakers={documents.some(({ links }) => links.some(({ source }) => source === chosen.id))} onCatchUp={onCatchUp} />
      )}
      {byValue && <ReachedValues reach={byValue} />}
      {/* Scrolled by keys too. */}
      {/* oxlint-disable-next-line jsx-a11y/no-noninteractive-tabindex */}
      <div className="max-h-[70vh] overflow-auto rounded-box border border-rule bg-sheet" tabIndex={0} role="region" aria-label="Map of the project">
        <div style={{ width: width * scale, height: height * scale }}>
          <div className="relative origin-top-left" style={{ width, height, transform: `scale(${scale})` }}>
            <svg className="absolute inset-0" width={width} height={height} aria-hidden="true">
              {placed.flatMap((to) =>
                to.document.links.map(({ source, values, policy }) => {
                  const from = at.get(source);
                  const isLit = !lit || (lit.has(source) && lit.has(to.document.id));
                  return (
                    from && (
                      <Thread
                        key={`${source} ${to.document.id}`}
                        from={from}
                        to={to}
                        values={values}
                        policy={policy}
                        opacity={isLit ? 1 : 0.15}
                        isPlain={threads > MANY_THREADS}
                      />
                    )
                  );
                }),
              )}
            </svg>
            <ul>
              {placed.map((one) => (
                <li key={one.document.id} className="absolute" style={{ left: one.x, top: one.y }}>
                  <MapBox
                    placed={one}
                    isLit={!lit || lit.has(one.document.id)}
                    isChosen={one.document.id === document}
                    reached={byValue?.drives.find(({ id }) => id === one.document.id)?.values.length}
                    onChoose={() => setWish(one.document.id === document ? {} : { document: one.document.id })}
                  />
                </li>
              ))}
            </ul>
          </div>
        </div>
      </div>
      <p className="mt-1 text-[13px] text-walnut-soft">
        Dotted threads ask before they take something new, solid ones follow at once, faint ones are on hold. A number is how many values are taken, or how
        often a part stands in an assembly.
      </p>
    </div>
  );
}

interface ChosenDocumentProps {
  readonly chosen: DocumentCard;
  readonly hasTakers: boolean;
  readonly onCatchUp: (document: string, isBranch: boolean) => void;
}

function ChosenDocument({ chosen, hasTakers, onCatchUp }: ChosenDocumentProps) {
  return (
    <p className="mb-2 flex flex-wrap items-center gap-2 rounded-box border border-rule bg-sheet px-3 py-1.5">
      <Link href={`/documents/${chosen.id}`} className="font-semibold underline decoration-rule underline-offset-4">
        {chosen.name}
      </Link>
      <span className="text-walnut-soft">
        {KIND_WORDS[chosen.kind]}, revision {chosen.revision}
        {chosen.unsavedEdits > 0 && `, ${chosen.unsavedEdits} unsaved edit${chosen.unsavedEdits === 1 ? '' : 's'}`}
      </span>
      {chosen.failing > 0 && <span className="text-madder">{chosen.failing} values have an error</span>}
      {chosen.brokenGuards > 0 && <span className="text-madder">{brokenGuardWords(chosen.brokenGuards)}</span>}
      {interferences(chosen) > 0 && <span className="text-madder">{interferenceWords(interferences(chosen))}</span>}
      <span className="flex-1" />
      {chosen.behind > 0 && <Button onClick={() => onCatchUp(chosen.id, false)}>Catch up this one</Button>}
      {hasTakers && <Button onClick={() => onCatchUp(chosen.id, true)}>Catch up this and all that take from it</Button>}
    </p>
  );
}

/** The values that one value drives, by document. */
function ReachedValues({ reach }: { reach: ReachReply }) {
  if (reach.drives.length === 0) return <p className="mb-2 text-walnut-soft">Nothing depends on it.</p>;
  return (
    <div className="mb-2 max-h-40 overflow-y-auto rounded-box border border-rule bg-sheet px-3 py-1">
      <ReachedList label="What it reaches" documents={reach.drives} />
    </div>
  );
}

interface MapBoxProps {
  readonly placed: Placed;
  readonly isLit: boolean;
  readonly isChosen: boolean;
  /** How many of its values depend on the one that is asked about. */
  readonly reached: number | undefined;
  readonly onChoose: () => void;
}

function MapBox({ placed: { document }, isLit, isChosen, reached, onChoose }: MapBoxProps) {
  const { id, name, kind, revision, behind, links, hasThumbnail } = document;
  const failing = document.failing + document.brokenGuards;
  const interfering = interferences(document);
  const taken = links.reduce((sum, { values }) => sum + values, 0);
  const troubles = [
    { count: failing, words: `${failing} failing`, tone: 'text-madder' },
    { count: interfering, words: interferenceWords(interfering), tone: 'text-madder' },
    { count: behind, words: `${behind} behind`, tone: 'text-weld' },
  ].filter(({ count }) => count > 0);
  const border = failing + interfering > 0 ? 'border-madder' : behind > 0 ? 'border-weld' : 'border-rule';
  return (
    <button
      type="button"
      aria-pressed={isChosen}
      className={`flex items-center gap-1.5 rounded-box border px-2 text-left hover:border-indigo ${border} ${isChosen ? 'bg-indigo-wash' : 'bg-linen'} ${isLit ? 'shadow-box' : 'border-dashed'}`}
      style={BOX}
      onClick={onChoose}
    >
      {hasThumbnail && <SmallPicture document={id} revision={revision} className="h-9 w-11" />}
      <span className="min-w-0 flex-1">
        <span className="block truncate font-semibold">
          {!hasThumbnail && <DocumentIcon kind={kind} />}
          {name}
        </span>
        <span className="block truncate text-[13px] text-walnut-soft">
          {troubles.map(({ words, tone }, i) => (
            <Fragment key={words}>
              {i > 0 && ', '}
              <span className={tone}>{words}</span>
            </Fragment>
          ))}
          {troubles.length === 0 && KIND_WORDS[kind]}
          {reached !== undefined ? `, ${reached} reached` : taken > 0 && `, takes ${taken}`}
        </span>
      </span>
    </button>
  );
}

interface ThreadProps {
  readonly from: Placed;
  readonly to: Placed;
  readonly values: number;
  readonly policy: DocumentCard['links'][number]['policy'];
  readonly opacity: number;
  readonly isPlain: boolean;
}

function Thread({ from, to, values, policy, opacity, isPlain }: ThreadProps) {
  const [x1, y1] = [from.x + BOX.width, from.y + BOX.height / 2];
  const [x2, y2] = [to.x, to.y + BOX.height / 2];
  const middle = (x1 + x2) / 2;
  const isBehind = to.document.behind > 0;
  const [d, stroke] = [`M ${x1} ${y1} C ${middle} ${y1} ${middle} ${y2} ${x2} ${y2}`, isBehind ? 'var(--weld)' : 'var(--woad)'];
  if (isPlain) return <path d={d} fill="none" stroke={stroke} strokeOpacity={opacity * 0.35} />;
  return (
    <g opacity={opacity}>
      <path
        d={d}
        fill="none"
        stroke={stroke}
        strokeWidth={1.6}
        strokeOpacity={policy === 'hold' ? 0.4 : 1}
        {...(policy === 'follow' ? {} : { strokeDasharray: '4 3' })}
      />
      <circle cx={x1} cy={y1} r={2.6} fill="var(--woad)" />
      <text
        x={x2 - 8}
        y={y2 - 5}
        textAnchor="end"
        stroke="var(--sheet)"
        strokeWidth={4}
        paintOrder="stroke"
        fontSize={12}
        fill="var(--walnut-soft)"
        fontFamily="var(--font-mono)"
      >
        {values}
      </text>
    </g>
  );
}
