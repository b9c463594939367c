'use client';
import { useEffect, useMemo, useRef } from 'react';
import { describeGeometry } from '@/core/document';
import { sortOf } from '@/core/kernel-port';
import { isFound, likelyGeometry } from '@/core/steps';
import { Button } from '../design/button';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';
import type { PickWish } from '../state/workspace';

interface Picked {
  readonly body: string;
  readonly name: string;
}

/** Faces or edges of a solid: clicked on the canvas, or chosen from a list by their words. A second click takes one out again. */
export function GeometryPicks({
  label,
  wants,
  names,
  onChange,
}: {
  label: string;
  wants: PickWish['wants'];
  names: readonly string[];
  onChange: (names: readonly string[], body: string | undefined) => void;
}) {
  const { document } = useSession();
  const there = useGeometryThere();
  const toggle = ({ body, name }: Picked): void => {
    onChange(names.includes(name) ? names.filter((other) => other !== name) : [...names, name], body);
  };
  const takeAll = (picked: readonly Picked[]): void => {
    const [first] = picked;
    if (!first) return;
    // A step works on one body.
    const own = picked.filter(({ body }) => body === first.body).map(({ name }) => name);
    onChange([...new Set([...names, ...own])], first.body);
  };
  // Of two that are measured a box says nothing.
  useStandingWish({ wants, label, take: toggle, ...(wants === 'any' ? {} : { takeAll }) });
  return (
    <fieldset className="mb-2 min-w-0">
      <legend className="text-walnut-soft" title={wants === 'any' ? undefined : 'Shift and drag takes all in a box; to the left, all that it touches.'}>
        {label}: click them on the solid
      </legend>
      <ul>
        {names.map((name) => (
          <li key={name} className="flex flex-wrap items-center gap-1">
            <span className="min-w-0 flex-1 truncate" title={describeGeometry(document, name)}>
              {describeGeometry(document, name)}
            </span>
            <Button
              tone="quiet"
              className="h-5 px-1"
              aria-label={`Take out ${describeGeometry(document, name)}`}
              onClick={() =>
                onChange(
                  names.filter((other) => other !== name),
                  undefined,
                )
              }
            >
              ×
            </Button>
            <Replacements name={name} there={there} onPick={({ body, name: other }) => onChange([...names.filter((one) => one !== name), other], body)} />
          </li>
        ))}
      </ul>
      <FromList label={`${label} from a list`} wants={wants} except={names} onPick={toggle} />
    </fieldset>
  );
}

/** One face or edge. */
export function GeometryPick({
  label,
  wants,
  name,
  onChange,
}: {
  label: string;
  wants: PickWish['wants'];
  name: string | undefined;
  onChange: (picked: Picked) => void;
}) {
  const workspace = useWorkspaceStore();
  const { document } = useSession();
  const isPicking = useWorkspace((state) => state.picking?.label === label);
  const there = useGeometryThere();
  const pick = (): void => {
    workspace.setState({
      picking: isPicking
        ? undefined
        : {
            wants,
            label,
            take: (picked) => {
              workspace.setState({ picking: undefined });
              onChange(picked);
            },
          },
    });
  };
  return (
    <div className="mb-2">
      <span className="flex items-center gap-2">
        <span className="text-walnut-soft">{label}</span>
        <Button className="h-6" aria-pressed={isPicking} onClick={pick}>
          {isPicking ? 'Click it on the solid…' : name === undefined ? 'Pick' : 'Pick another'}
        </Button>
      </span>
      {name !== undefined && <span className="block truncate">{describeGeometry(document, name)}</span>}
      {name !== undefined && <Replacements name={name} there={there} onPick={onChange} />}
      {isPicking && <FromList label={`${label} from a list`} wants={wants} except={[]} onPick={onChange} />}
    </div>
  );
}

/** Everything that can be picked: of what the step at hand is made on, or of the solid as it is. */
function useGeometryThere(): readonly Picked[] {
  const standing = useSessionState((state) => state.before ?? state.pictures);
  const meshes = useSessionState((state) => state.meshes);
  return useMemo(
    () =>
      standing.flatMap(({ body, key }) => {
        const mesh = meshes.get(key);
        return [...(mesh?.faces ?? []), ...(mesh?.edges ?? []), ...(mesh?.corners ?? [])].map(({ name }) => ({ body, name }));
      }),
    [standing, meshes],
  );
}

/** For a face or edge that is no longer there: that it is lost, and what is most like it. */
function Replacements({ name, there, onPick }: { name: string; there: readonly Picked[]; onPick: (picked: Picked) => void }) {
  const { document } = useSession();
  const workspace = useWorkspaceStore();
  const names = useMemo(() => there.map((one) => one.name), [there]);
  const isLost = useIsLost(name);
  // The pointer may be over one of them as they go.
  useEffect(() => () => workspace.setState({ pointed: undefined }), [workspace]);
  if (there.length === 0 || (isFound(name, names) && !isLost)) return null;
  const likely = likelyGeometry(name, names);
  const point = (pointed: string | undefined) => (): void => workspace.setState({ pointed });
  return (
    <div className="w-full rounded-box border border-madder bg-madder-wash px-1.5 py-0.5">
      <p className="text-madder">{likely.length === 0 ? 'Lost: pick another.' : 'Lost. Perhaps it is now:'}</p>
      {likely.map((other) => (
        <button
          key={other}
          type="button"
          className="block max-w-full text-left underline"
          onMouseEnter={point(other)}
          onMouseLeave={point(undefined)}
          onFocus={point(other)}
          onBlur={point(undefined)}
          onClick={() => {
            const picked = there.find((one) => one.name === other);
            if (picked) onPick(picked);
          }}
        >
          {describeGeometry(document, other)}
        </button>
      ))}
    </div>
  );
}

/** Whether the step at hand was refused for want of it: a piece may be gone while its sisters are there. */
function useIsLost(name: string): boolean {
  const step = useWorkspace((state) => state.draft?.step.id);
  return useSessionState(({ preview, regenerated }) =>
    [preview?.result, regenerated].some((result) => result?.steps.some(({ id, problem }) => id === step && problem?.lost === name)),
  );
}

/** While the field is there, what is clicked goes to it. */
function useStandingWish(wish: PickWish): void {
  const workspace = useWorkspaceStore();
  const latest = useRef(wish);
  useEffect(() => {
    latest.current = wish;
  });
  const { wants, label } = wish;
  const hasAll = wish.takeAll !== undefined;
  useEffect(() => {
    // The canvas reads the wish from the workspace.
    const standing: PickWish = {
      wants,
      label,
      take: (picked) => latest.current.take(picked),
      ...(hasAll ? { takeAll: (picked) => latest.current.takeAll?.(picked) } : {}),
    };
    workspace.setState((state) => (state.picking ? {} : { picking: standing }));
    const stop = workspace.subscribe((state) => {
      if (!state.picking) workspace.setState({ picking: standing });
    });
    return () => {
      stop();
      workspace.setState((state) => (state.picking === standing ? { picking: undefined } : {}));
    };
  }, [workspace, wants, label, hasAll]);
}

/** A longer list is of no use to anybody. */
const MOST_LISTED = 300;

/** The same without a pointer. */
function FromList({ label, wants, except, onPick }: { label: string; wants: PickWish['wants']; except: readonly string[]; onPick: (picked: Picked) => void }) {
  const { document } = useSession();
  const there = useGeometryThere();
  const offered = useMemo(() => {
    const seen = new Set(except);
    return there.filter(({ name }) => {
      const sort = sortOf(name);
      const isWanted = wants === 'any' || sort === wants || (wants === 'either' && sort !== 'corner');
      return isWanted && !seen.has(name) && seen.add(name);
    });
  }, [there, wants, except]);
  return (
    <select
      aria-label={label}
      className="h-6 w-full rounded-box border border-rule bg-sheet px-1 text-walnut-soft"
      value=""
      onChange={(event) => {
        const picked = offered[Number(event.target.value)];
        if (picked) onPick(picked);
      }}
    >
      <option value="">from a list…</option>
      {offered.slice(0, MOST_LISTED).map(({ name }, at) => (
        <option key={`${name} ${at}`} value={at}>
          {describeGeometry(document, name)}
        </option>
      ))}
      {offered.length > MOST_LISTED && <option disabled>{`and ${offered.length - MOST_LISTED} more: click them on the solid`}</option>}
    </select>
  );
}
