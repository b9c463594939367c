'use client';
/** The ledger of a document with all that stands in it: each kind of row and panel is loaded with the first that is shown. */
import { lazy, Suspense } from 'react';
import { findRecord } from '@/core/document';
import { Ledger, type OtherRow } from '../ledger/ledger';
import type { RowTarget } from '../ledger/row-keys';
import { SizesSection } from '../sizes/sizes-section';
import { useSessionState, useWorkspace } from '../state/context';
import { componentOf } from '../state/selection';

const loadSteps = () => import('../steps/step-row');
const loadAddStep = () => import('../steps/add-step');
const loadComponents = () => import('../assembly/assembly-rows');

const StepRow = lazy(() => loadSteps().then((module) => ({ default: module.StepRow })));
const AddStep = lazy(() => loadAddStep().then((module) => ({ default: module.AddStep })));
const AssemblyRow = lazy(() => loadComponents().then((module) => ({ default: module.AssemblyRow })));
const OutsideRow = lazy(() => import('../outside/outside-row').then((module) => ({ default: module.OutsideRow })));
const LooseEndsPanel = lazy(() => import('../loose-ends/loose-ends-panel').then((module) => ({ default: module.LooseEndsPanel })));
const ComponentPanel = lazy(() => import('../assembly/component-panel').then((module) => ({ default: module.ComponentPanel })));
const InterferencePanel = lazy(() => import('../assembly/interference-panel').then((module) => ({ default: module.InterferencePanel })));
const OutsidePanel = lazy(() => import('../outside/outside-panel').then((module) => ({ default: module.OutsidePanel })));

/** What the ledger of such a document shows at once, fetched with the document itself. */
export async function loadRows(kind: 'part' | 'assembly' | 'master' | 'calc'): Promise<void> {
  if (kind === 'part') await Promise.all([loadSteps(), loadAddStep()]);
  if (kind === 'assembly') await loadComponents();
}

export function DocumentLedger() {
  const isPart = useSessionState((state) => state.document.kind === 'part');
  return <Ledger drawOther={drawOther} foot={<Foot isPart={isPart} />} panel={usePanel()} />;
}

function Foot({ isPart }: { isPart: boolean }) {
  return (
    <>
      {isPart && (
        <Suspense fallback={null}>
          <AddStep />
        </Suspense>
      )}
      <SizesSection />
    </>
  );
}

function drawOther(row: OtherRow, onMove: (from: string, to: RowTarget) => void): React.ReactNode {
  return (
    <Suspense key={row.id} fallback={<div role="presentation" className="h-7" />}>
      {row.kind === 'step' ? (
        <StepRow id={row.id} values={row.values} onMove={onMove} />
      ) : row.kind === 'outside' ? (
        <OutsideRow id={row.id} values={row.values} onMove={onMove} />
      ) : (
        <AssemblyRow row={row} onMove={onMove} />
      )}
    </Suspense>
  );
}

/** What is selected, or asked for, and has a panel of its own. */
function usePanel(): React.ReactNode {
  const selected = useWorkspace((state) => state.selected);
  const showsLooseEnds = useWorkspace((state) => state.showsLooseEnds);
  const showsInterference = useWorkspace((state) => state.showsInterference);
  const component = useSessionState((state) => componentOf(state.document, selected));
  const outside = useSessionState((state) => (selected !== undefined && findRecord(state.document, selected, 'outside') ? selected : undefined));
  const panel = showsLooseEnds ? (
    <LooseEndsPanel />
  ) : showsInterference ? (
    <InterferencePanel />
  ) : outside !== undefined ? (
    <OutsidePanel key={outside} id={outside} />
  ) : component !== undefined ? (
    <ComponentPanel key={component} id={component} />
  ) : undefined;
  return panel && <Suspense fallback={null}>{panel}</Suspense>;
}
