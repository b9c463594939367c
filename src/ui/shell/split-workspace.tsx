'use client';
/** A ledger with the picture of its document beside it. */
import dynamic from 'next/dynamic';
import type { DocumentKind } from '@/core/document';
import { useWorkspace } from '../state/context';
import { WidthGrip } from '../ledger/width-grip';
import { LEDGER_SHARE, pageSettings, usePageSettings } from '../state/page-settings';
import { DocumentLedger } from './document-ledger';
import { loadPicture } from './load-picture';

const PartCanvas = dynamic(() => loadPicture.part().then((module) => module.PartCanvas), { ssr: false });
const AssemblyCanvas = dynamic(() => loadPicture.assembly().then((module) => module.AssemblyCanvas), { ssr: false });
const CalcPage = dynamic(() => loadPicture.calc().then((module) => module.CalcPage), { ssr: false });

export function SplitWorkspace({ kind }: { kind: Exclude<DocumentKind, 'master'> }) {
  const sketch = useWorkspace((state) => state.sketch);
  const share = usePageSettings((settings) => settings.ledgerShare);
  return (
    <div className="flex h-full">
      <div className="min-w-0 shrink-0" style={{ width: `${share}%` }}>
        <DocumentLedger />
      </div>
      <WidthGrip
        label="Width of the ledger"
        width={share}
        limits={LEDGER_SHARE}
        keyStep={2}
        perPixel={(grip) => 100 / (grip.parentElement?.clientWidth || 1000)}
        onWidth={(ledgerShare) => pageSettings.setState({ ledgerShare })}
        className="w-1 shrink-0 bg-flax-deep hover:bg-indigo"
      />
      <div className="min-w-0 flex-1">{kind === 'part' ? <PartCanvas key={sketch ?? 'solid'} /> : kind === 'assembly' ? <AssemblyCanvas /> : <CalcPage />}</div>
    </div>
  );
}
