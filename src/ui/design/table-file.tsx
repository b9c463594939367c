'use client';
import { useRef } from 'react';
import { readTable } from '@/workers/file-reader';
import { Button } from './button';

export type Cells = readonly (readonly string[])[];

/** A button that reads a table from a CSV or XLSX file, beside the page; of one that cannot be read, why. */
export function TableFile({ onRead }: { onRead: (cells: Cells, refusal: string | undefined) => void }) {
  const picker = useRef<HTMLInputElement>(null);
  const read = async (file: File | undefined): Promise<void> => {
    if (!file) return;
    const isBook = /\.xlsx$/i.test(file.name);
    const result = await readTable(isBook ? { kind: 'xlsx', bytes: new Uint8Array(await file.arrayBuffer()) } : { kind: 'csv', text: await file.text() });
    onRead(result.ok ? result.value : [], result.ok ? undefined : `${file.name}: ${result.failure}`);
  };
  return (
    <>
      <input
        ref={picker}
        type="file"
        accept=".csv,.tsv,.txt,.xlsx"
        aria-label="CSV or XLSX file"
        className="hidden"
        onChange={(event) => void read(event.target.files?.[0])}
      />
      <Button onClick={() => picker.current?.click()}>Choose a CSV or XLSX file</Button>
    </>
  );
}
