'use client';
import { evaluateConstant } from '@/core/formula';
import { listRecords, tableSlot, type Table } from '@/core/document';
import { Button } from '../design/button';
import { useSession, useSessionState } from '../state/context';

/** The lookup tables of a document; every cell is a fixed value of its column's kind. */
export function LookupTables() {
  const document = useSessionState((state) => state.document);
  const tables = listRecords(document, 'tables', 'table');
  if (tables.length === 0) return null;
  return (
    <div className="py-2 pr-2 pl-7">
      <h2 className="mb-1 font-semibold text-walnut-soft">Lookup tables</h2>
      {tables.map((table) => (
        <LookupTable key={table.id} table={table} />
      ))}
    </div>
  );
}

function LookupTable({ table }: { table: Table }) {
  const session = useSession();
  const put = (rows: string[][]): void => {
    session.edit({ type: 'table.put', table: { ...table, rows } });
  };
  return (
    <table className="mb-2 border-collapse rounded-box border border-rule bg-sheet">
      <caption className="text-left font-semibold">{table.name}</caption>
      <thead>
        <tr className="bg-flax text-left text-walnut-soft">
          {table.columns.map((column) => (
            <th key={column.name} className="px-2 font-semibold">
              {column.name} <span className="font-normal">{column.kind}</span>
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {table.rows.map((row, r) => (
          <tr key={r} className="border-t border-rule">
            {table.columns.map((column, c) => (
              <td key={column.name} className="px-1">
                <Cell
                  key={row[c]}
                  label={`${table.name}, row ${r + 1}, ${column.name}`}
                  text={row[c] ?? ''}
                  problemOf={(text) => {
                    const result = evaluateConstant(text, session.values.scope(), tableSlot(column));
                    return result.ok ? undefined : result.diagnostics[0]?.message;
                  }}
                  onAccept={(text) => put(table.rows.map((other, i) => (i === r ? other.map((cell, k) => (k === c ? text : cell)) : [...other])))}
                />
              </td>
            ))}
          </tr>
        ))}
        <tr className="border-t border-rule">
          <td colSpan={table.columns.length} className="px-1">
            <Button
              tone="quiet"
              className="h-6"
              onClick={() => put([...table.rows.map((row) => [...row]), [...(table.rows.at(-1) ?? table.columns.map(() => '0'))]])}
            >
              Add a row
            </Button>
          </td>
        </tr>
      </tbody>
    </table>
  );
}

function Cell({
  label,
  text,
  problemOf,
  onAccept,
}: {
  label: string;
  text: string;
  problemOf: (text: string) => string | undefined;
  onAccept: (text: string) => void;
}) {
  const accept = (input: HTMLInputElement): void => {
    const next = input.value.trim();
    const problem = next === text ? undefined : problemOf(next);
    input.setCustomValidity(problem ?? '');
    if (problem !== undefined) input.reportValidity();
    else if (next !== text) onAccept(next);
  };
  return (
    <input
      aria-label={label}
      defaultValue={text}
      className="h-6 w-28 rounded-box bg-transparent px-1 font-mono hover:bg-flax"
      onBlur={(event) => accept(event.target)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') accept(event.currentTarget);
      }}
    />
  );
}
