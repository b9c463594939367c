'use client';
/** The rows of components, of values that are set in them, and of mates: in assemblies, and where a calc sheet is used. */
import { memo } from 'react';
import type { LedgerRow } from '../state/ledger-rows';
import type { RowTarget } from '../ledger/row-keys';
import { AddComponentRow } from './add-component-row';
import { ComponentRow, DriveRow } from './component-row';
import { MateRow } from './mate-row';

interface AssemblyRowProps {
  readonly row: Extract<LedgerRow, { readonly kind: 'component' | 'drive' | 'mate' | 'add-component' }>;
  readonly onMove: (from: string, to: RowTarget) => void;
}

export const AssemblyRow = memo(function AssemblyRow({ row, onMove }: AssemblyRowProps) {
  switch (row.kind) {
    case 'component':
      return <ComponentRow id={row.id} drives={row.drives} onMove={onMove} />;
    case 'drive':
      return <DriveRow id={row.id} onMove={onMove} />;
    case 'mate':
      return <MateRow id={row.id} onMove={onMove} />;
    case 'add-component':
      return <AddComponentRow />;
  }
});
