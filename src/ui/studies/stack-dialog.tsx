'use client';
/** How far a value may be off by the tolerances of what it is made of: by how much each counts, and which to tighten first. */
import { useMemo } from 'react';
import { useStore } from 'zustand';
import { findRecord, toleranceText, type Parameter, type Tolerance } from '@/core/document';
import { stackOf, type Contributor, type Spread } from '@/core/studies';
import { GENERAL_CLASSES } from '@/core/tolerance';
import { prettyUnit } from '@/core/units';
import { Button } from '../design/button';
import { TaskDialog } from '../design/task-dialog';
import { useSession, useSessionState } from '../state/context';
import { remembered } from '../state/remembered';
import { Select } from '../steps/fields';

/** What is chosen for one stack holds for the next. */
const stackSettings = remembered('warpbeam-stack', { general: '' });
const GENERAL = { '': 'are exact', f: 'ISO 2768-1 f, fine', m: 'ISO 2768-1 m, medium', c: 'ISO 2768-1 c, coarse', v: 'ISO 2768-1 v, very coarse' };

export function StackDialog({ value, onClose }: { value: string; onClose: () => void }) {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const general = useStore(stackSettings, (settings) => settings.general);
  const stack = useMemo(
    () => stackOf(document, value, session.snapshots, { random: Math.random, general: GENERAL_CLASSES.find((one) => one === general) }),
    [document, value, session, general],
  );
  const record = findRecord(document, value, 'parameter') ?? findRecord(document, value, 'take');
  const reading = session.values.show(value);
  if (!record || !reading) return null;
  const write = (amount: number): string => prettyUnit(session.values.words({ ...reading, value: amount }, reading.unit, 4).shown);
  const spread = ({ lower, upper }: Spread): string => `${write(lower)} to ${write(upper)}`;
  return (
    <TaskDialog
      isWide
      title={`Tolerance stack of ${record.name}`}
      description="How far it may be off when everything that it is made of is off by its own tolerance. A value with a tolerance stands for itself, whatever it was computed from."
      onClose={onClose}
    >
      <span className="mb-2 block w-80">
        <Select label="Lengths without a tolerance" value={general} options={GENERAL} onChange={(next) => stackSettings.setState({ general: next })} />
      </span>
      {!stack && <p>{record.name} is not a number with a unit.</p>}
      {stack?.contributors.length === 0 && (
        <p>Nothing that {record.name} depends on has a tolerance. Give the values that it is made of their tolerances, or choose a general one.</p>
      )}
      {stack && stack.contributors.length > 0 && (
        <>
          <table className="w-full border-collapse">
            <caption className="sr-only">What {record.name} is made of</caption>
            <thead>
              <tr className="border-b border-rule text-left text-walnut-soft">
                {['Value', 'Nominal', 'Tolerance', 'Sensitivity', 'Share', ''].map((head) => (
                  <th key={head} className="px-1 py-1 font-normal">
                    {head === '' ? <span className="sr-only">Tighten</span> : head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {stack.contributors.map((one) => (
                <ContributorRow key={one.id} one={one} />
              ))}
            </tbody>
          </table>
          <dl className="mt-3 grid grid-cols-[12rem_1fr] gap-y-1">
            <dt>Nominal</dt>
            <dd className="font-mono">{write(stack.nominal)}</dd>
            <dt>Worst case</dt>
            <dd className="font-mono">{spread(stack.worstCase)}</dd>
            <dt>Root sum square</dt>
            <dd className="font-mono">{spread(stack.rootSumSquare)}</dd>
            <dt>Monte Carlo, 4,000 draws</dt>
            <dd className="font-mono">{spread(stack.drawn)}</dd>
          </dl>
          <p className="mt-2 text-walnut-soft">
            Drawn evenly between the limits of each; 0.135 % lie below, and as many above.
            {stack.exact.length > 0 && ` Without a tolerance, and counted as exact: ${stack.exact.join(', ')}.`}
          </p>
        </>
      )}
    </TaskDialog>
  );
}

function ContributorRow({ one }: { one: Contributor }) {
  const session = useSession();
  const record = findRecord(session.document, one.id, 'parameter');
  const shown = session.values.show(one.id);
  const halved = record?.tolerance && halve(record.tolerance);
  const tighten = (parameter: Parameter, tolerance: Tolerance): void => {
    session.edit({ type: 'parameter.update', id: parameter.id, changes: { tolerance } });
  };
  const text = record?.tolerance
    ? toleranceText(record.tolerance)
    : shown && one.isGeneral === true
      ? `±${session.values.words({ ...shown, value: one.upper - one.nominal }, shown.unit, 4).shown}, general`
      : shown
        ? `${session.values.words({ ...shown, value: one.lower }, shown.unit, 4).shown} to ${session.values.words({ ...shown, value: one.upper }, shown.unit, 4).shown}`
        : '';
  return (
    <tr className="border-b border-rule/50">
      <th scope="row" className="px-1 py-1 text-left font-semibold">
        {one.name}
      </th>
      <td className="px-1 font-mono">{prettyUnit(shown?.shown ?? '')}</td>
      <td className="px-1 font-mono">{prettyUnit(text)}</td>
      <td className="px-1 font-mono">× {Number(one.sensitivity.toPrecision(4))}</td>
      <td className="px-1">
        <span className="flex items-center gap-2">
          <span className="h-2 w-24 bg-flax-deep">
            <span className="block h-2 bg-indigo" style={{ width: `${Math.round(one.share * 100)}%` }} />
          </span>
          {Math.round(one.share * 100)} %
        </span>
      </td>
      <td className="px-1 text-right">
        {record && halved && (
          <Button tone="quiet" className="h-6" aria-label={`Halve the tolerance of ${one.name}`} onClick={() => tighten(record, halved)}>
            Halve
          </Button>
        )}
      </td>
    </tr>
  );
}

/** Half as wide; undefined for limits and fits, which are chosen rather than computed. */
function halve(tolerance: Tolerance): Tolerance | undefined {
  const half = (text: string): string =>
    /^[+-]?[\d.]+\s*[^\d+\-*/^(),.=<>]*$/u.test(text.trim()) ? text.trim().replace(/[\d.]+/, (digits) => String(Number(digits) / 2)) : `(${text}) / 2`;
  switch (tolerance.kind) {
    case 'symmetric':
      return { ...tolerance, by: { ...tolerance.by, text: half(tolerance.by.text) } };
    case 'deviations':
      return { ...tolerance, upper: { ...tolerance.upper, text: half(tolerance.upper.text) }, lower: { ...tolerance.lower, text: half(tolerance.lower.text) } };
    default:
      return undefined;
  }
}
