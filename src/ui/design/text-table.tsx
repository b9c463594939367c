interface TextTableProps {
  readonly columns: readonly { readonly name: string }[];
  readonly rows: readonly (readonly string[])[];
  readonly className?: string;
}

/** A table of texts, to be read. */
export function TextTable({ columns, rows, className = '' }: TextTableProps) {
  return (
    <table className={`border-collapse font-mono text-[13px] ${className}`}>
      <thead>
        <tr className="text-left text-walnut-soft">
          {columns.map(({ name }) => (
            <th key={name} className="pr-4 font-normal">
              {name}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {rows.map((row, i) => (
          <tr key={i}>
            {row.map((cell, k) => (
              <td key={k} className="pr-4">
                {cell}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
    </table>
  );
}
