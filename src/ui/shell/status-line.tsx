'use client';
import { useMemo } from 'react';
import { findAny, findRecord, hasShape, isNamed, listRecords, readGoals, type Document, type DocumentValues } from '@/core/document';
import type { SolvedSketch } from '@/core/steps';
import { dismissalOf } from '@/core/assembly';
import { useSession, useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';

/** Regeneration, degrees of freedom, errors, guards, units. */
export function StatusLine() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const regeneration = useSessionState((state) => state.regeneration);
  const regenerated = useSessionState((state) => state.regenerated);
  const looseEnds = useWorkspace((state) => state.looseEnds.filter(({ kind }) => kind !== 'perhaps').length);
  const showsLooseEnds = useWorkspace((state) => state.showsLooseEnds);
  const isPaused = useSessionState((state) => state.isPaused);
  const version = useSessionState((state) => state.version);
  const sketch = useWorkspace((state) => state.sketch);
  const failing = regenerated?.steps.filter((step) => step.status === 'failed' || step.status === 'waiting').length ?? 0;
  const warned = regenerated?.steps.filter((step) => (step.warnings?.length ?? 0) > 0).length ?? 0;
  // A body that nobody has given a material is unfinished, not wrong.
  const weightless = regenerated?.bodies.filter(({ id, massProblem }) => massProblem !== undefined && hasMaterial(document, id)).length ?? 0;
  const wrongValues = Object.values(document.records).filter(
    (record) =>
      (record.type === 'parameter' || record.type === 'take' || record.type === 'drive') && (session.values.sheet.read(record.id)?.diagnostics.length ?? 0) > 0,
  ).length;
  const errors = wrongValues + weightless;
  const held = countHeld(document, session.values);
  const showsInterference = useWorkspace((state) => state.showsInterference);
  const placed = useSessionState((state) => state.placed.length);
  // It goes over every component: with the values, not with every change of the page.
  // oxlint-disable-next-line react/exhaustive-deps
  const mass = useMemo(() => (placed > 0 ? (session.values.components?.showWhole('mass') ?? '') : ''), [session, version, placed]);
  const interference = useSessionState((state) => {
    const dismissals = listRecords(state.document, 'dismissals', 'dismissal');
    return state.interference?.filter((one) => !dismissalOf(dismissals, one)).length;
  });
  const freedom = useSessionState((state) => state.placement?.degreesOfFreedom ?? 0);
  const broken = listRecords(document, 'guards', 'guard').filter((guard) => session.values.sheet.readNumber(guard.id) !== 1).length;
  const missed = readGoals(session.values).filter(({ isMet }) => !isMet).length;
  const open = regenerated?.steps.find((step) => step.id === sketch)?.sketch;
  return (
    <footer className="flex h-7 shrink-0 items-center gap-4 border-t border-rule bg-flax px-3 text-[13px] text-walnut-soft" data-version={version}>
      {hasShape(document) && (
        <>
          <span aria-live="polite" className={isPaused ? 'text-weld' : ''}>
            {isPaused ? 'geometry paused' : describeRegeneration(regeneration, failing, warned)}
          </span>
          <button type="button" className="rounded-box px-1.5 hover:bg-flax-deep" onClick={() => session.geometry.setPaused(!isPaused)}>
            {isPaused ? 'Resume' : regeneration === 'running' ? 'Stop' : 'Pause'}
          </button>
        </>
      )}
      {placed > 0 && freedom > 0 && (
        <button
          type="button"
          className="text-weld underline decoration-dotted underline-offset-2"
          title="Show what can still move"
          onClick={() => workspace.setState((state) => ({ wiggle: state.wiggle + 1 }))}
        >
          {freedom === 1 ? '1 degree of freedom' : `${freedom} degrees of freedom`}
        </button>
      )}
      {open && open.degreesOfFreedom > 0 && open.status === 'solved' && (
        <button
          type="button"
          className="text-weld underline decoration-dotted underline-offset-2"
          title="Show what can still move"
          onClick={() => workspace.setState((state) => ({ wiggle: state.wiggle + 1 }))}
        >
          {describeFreedom(open)}
        </button>
      )}
      {open && (open.degreesOfFreedom === 0 || open.status !== 'solved') && (
        <span className={open.status === 'solved' ? 'text-moss' : 'text-madder'}>{describeFreedom(open)}</span>
      )}
      {regenerated?.bodies.map((body) => (
        <span key={body.id} className="font-mono tabular-nums">
          {body.name}{' '}
          {body.properties ? `${(body.properties.volume / 1000).toFixed(1)} cm³` : body.usedBy === undefined ? 'not built' : `used by ${body.usedBy}`}
          {body.mass !== undefined && ` · ${body.mass.toFixed(3)} kg`}
          {body.massProblem !== undefined && (
            <span className={hasMaterial(document, body.id) ? 'text-madder' : ''} title={body.massProblem}>
              {' '}
              · {hasMaterial(document, body.id) ? 'no mass' : 'no material'}
            </span>
          )}
        </span>
      ))}
      {interference !== undefined && placed > 1 && (
        <button
          type="button"
          className={`rounded-box px-1.5 hover:underline ${interference > 0 ? 'text-madder' : ''}`}
          aria-expanded={showsInterference}
          onClick={() => workspace.setState({ showsInterference: !showsInterference, showsLooseEnds: false })}
        >
          interference {interference}
        </button>
      )}
      {mass !== '' && <span className="font-mono tabular-nums">{mass}</span>}
      <span className="flex-1" />
      <button
        type="button"
        className={`rounded-box px-1.5 hover:underline ${looseEnds > 0 ? 'text-weld' : ''}`}
        aria-expanded={showsLooseEnds}
        onClick={() => workspace.setState({ showsLooseEnds: !showsLooseEnds })}
      >
        loose ends {looseEnds}
      </button>
      {held > 0 && (
        <span className="text-weld" title="Rest on results of outside calculations that were not computed for their present inputs">
          {held} held
        </span>
      )}
      <span className={errors > 0 ? 'text-madder' : ''}>{errors} in error</span>
      <span className={broken > 0 ? 'text-madder' : ''}>guards {broken} broken</span>
      {missed > 0 && <span className="text-weld">{missed === 1 ? '1 goal not met' : `${missed} goals not met`}</span>}
      <span>
        {document.units.length}, {document.units.angle}, {document.units.mass}
      </span>
    </footer>
  );
}

/** Values that rest on results which were not computed for their present inputs. */
function countHeld(document: Document, { sheet }: DocumentValues): number {
  return [...sheet.listHeld()].filter((id) => {
    const record = findAny(document, id);
    return record !== undefined && isNamed(record);
  }).length;
}

function hasMaterial(document: Document, body: string): boolean {
  const record = findRecord(document, body, 'body');
  return record !== undefined && (record.material !== '' || record.density !== undefined);
}

function describeFreedom({ status, degreesOfFreedom, redundant, points }: SolvedSketch): string {
  if (Object.keys(points).length === 0) return 'nothing drawn yet';
  if (status === 'conflicting') return 'dimensions in conflict';
  const extra = redundant.length > 0 ? `, ${redundant.length} redundant` : '';
  return degreesOfFreedom === 0 ? `fully constrained${extra}` : `${degreesOfFreedom} degree${degreesOfFreedom === 1 ? '' : 's'} of freedom left${extra}`;
}

function describeRegeneration(regeneration: 'idle' | 'running' | { readonly kind: string }, failing: number, warned: number): string {
  if (regeneration === 'running') return 'regenerating…';
  if (regeneration === 'idle') {
    const warnings = warned === 0 ? '' : `, ${warned} warning${warned === 1 ? '' : 's'}`;
    return `${failing === 0 ? 'regenerated' : `${failing} step${failing === 1 ? '' : 's'} not built`}${warnings}`;
  }
  if (regeneration.kind === 'timed-out') return 'regeneration took too long and was stopped; the last picture is kept';
  return 'the geometry worker failed and was restarted; the last picture is kept';
}
