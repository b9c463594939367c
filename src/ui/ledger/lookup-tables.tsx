'use client';
import { listRecords, tableSlot, takenNames, type Table } from '@/core/document';
import { checkName, evaluateConstant } from '@/core/formula';
import { QUANTITY_KINDS } from '@/core/units';
import { Button } from '../design/button';
import { useSession, useSessionState } from '../state/context';
import { newTable } from '../state/value-edits';
import { Cell } from '../design/cell';

/** The lookup tables of a document; every cell is a fixed value of its column's kind. */
export function LookupTables() {
  const session = useSession();
  const document = useSessionState((state) => state.document);
  const tables = listRecords(document, 'tables', 'table');
  return (
    <section aria-label="Lookup tables" className="py-2 pr-2 pl-7">
      {tables.length > 0 && <h2 className="mb-1 font-semibold text-walnut-soft">Lookup tables</h2>}
      {tables.map((table) => (
        <LookupTable key={table.id} table={table} />
      ))}
      <Button className="h-6" onClick={() => session.edit({ type: 'table.put', table: newTable(document) })}>
        Add a lookup table
      </Button>
    </section>
  );
}

function LookupTable({ table }: { table: Table }) {
  const session = useSession();
  const put = (changes: Partial<Table>): void => {
    session.edit({ type: 'table.put', table: { ...table, ...changes } });
  };
  const setColumn = (c: number, column: Table['columns'][number]): void => {
    put({ columns: table.columns.map((other, i) => (i === c ? column : other)) });
  };
  return (
    <div className="mb-2 overflow-x-auto">
      <table className="border-collapse rounded-box border border-rule bg-sheet">
        <caption className="text-left font-semibold">
          <Cell
            key={table.name}
            label={`Name of the table ${table.name}`}
            text={table.name}
            problemOf={(text) => checkName(text, takenNames(session.document, table.id))?.message}
            onAccept={(name) => session.edit({ type: 'value.rename', id: table.id, name })}
          />
        </caption>
        <thead>
          <tr className="bg-flax text-left text-walnut-soft">
            {table.columns.map((column, c) => (
              <th key={column.name} className="px-1 font-normal">
                <Cell
                  key={column.name}
                  label={`Name of column ${column.name}`}
                  text={column.name}
                  problemOf={(text) =>
                    text === '' || table.columns.some((other, i) => i !== c && other.name === text) ? 'A column needs a name of its own.' : undefined
                  }
                  onAccept={(name) => setColumn(c, { ...column, name })}
                />
                <select
                  aria-label={`What column ${column.name} holds`}
                  className="h-6 rounded-box bg-transparent"
                  value={column.kind}
                  onChange={(event) => setColumn(c, { ...column, kind: event.target.value })}
                >
                  {['text', ...QUANTITY_KINDS].map((kind) => (
                    <option key={kind}>{kind}</option>
                  ))}
                </select>
              </th>
            ))}
            <th className="px-1">
              <span className="sr-only">Row</span>
            </th>
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
                    onAccept={(text) => put({ rows: table.rows.map((other, i) => (i === r ? other.map((cell, k) => (k === c ? text : cell)) : other)) })}
                  />
                </td>
              ))}
              <td className="px-1">
                <Button
                  tone="quiet"
                  className="h-6"
                  aria-label={`Delete row ${r + 1} of ${table.name}`}
                  onClick={() => put({ rows: table.rows.filter((_, i) => i !== r) })}
                >
                  ×
                </Button>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <Button
        tone="quiet"
        className="h-6"
        onClick={() => put({ rows: [...table.rows, [...(table.rows.at(-1) ?? table.columns.map(({ kind }) => firstCell(kind)))]] })}
      >
        Add a row
      </Button>
      <Button
        tone="quiet"
        className="h-6"
        onClick={() => put({ columns: [...table.columns, { name: freeColumn(table), kind: 'length' }], rows: table.rows.map((row) => [...row, '0 mm']) })}
      >
        Add a column
      </Button>
      {table.columns.length > 1 && (
        <Button tone="quiet" className="h-6" onClick={() => put({ columns: table.columns.slice(0, -1), rows: table.rows.map((row) => row.slice(0, -1)) })}>
          Delete the last column
        </Button>
      )}
      <Button tone="quiet" className="h-6" onClick={() => session.edit({ type: 'table.remove', id: table.id })}>
        Delete the table
      </Button>
    </div>
  );
}

function firstCell(kind: string): string {
  return kind === 'text' ? '"name"' : '0';
}

function freeColumn(table: Table): string {
  let n = table.columns.length + 1;
  while (table.columns.some((column) => column.name === `column_${n}`)) n++;
  return `column_${n}`;
}
