'use client';
/** A ledger with the picture of its document beside it. */
import dynamic from 'next/dynamic';
import { Group, Panel, Separator } from 'react-resizable-panels';
import type { DocumentKind } from '@/core/document';
import { useWorkspace } from '../state/context';
import { DocumentLedger } from './document-ledger';
import { loadPicture } from './load-picture';

const PartCanvas = dynamic(() => loadPicture.part().then((module) => module.PartCanvas), { ssr: false });
const AssemblyCanvas = dynamic(() => loadPicture.assembly().then((module) => module.AssemblyCanvas), { ssr: false });
const CalcPage = dynamic(() => loadPicture.calc().then((module) => module.CalcPage), { ssr: false });

export function SplitWorkspace({ kind }: { kind: Exclude<DocumentKind, 'master'> }) {
  const sketch = useWorkspace((state) => state.sketch);
  return (
    <Group orientation="horizontal" id="workspace">
      <Panel id="ledger" defaultSize="42%" minSize="25%">
        <DocumentLedger />
      </Panel>
      <Separator className="w-1 bg-flax-deep hover:bg-indigo" aria-label="Width of the ledger" />
      <Panel id="canvas" minSize="25%">
        {kind === 'part' ? <PartCanvas key={sketch ?? 'solid'} /> : kind === 'assembly' ? <AssemblyCanvas /> : <CalcPage />}
      </Panel>
    </Group>
  );
}
