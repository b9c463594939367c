'use client';
/** What-ifs side by side: a column for each, a row for each value that one of them sets or that follows. */
import { textNow } from '@/core/studies';
import { prettyUnit } from '@/core/units';
import { VerbMenu } from '../design/verb-menu';
import type { MenuItem } from '../design/menu-items';
import { Cell } from '../design/cell';
import { problemOfSetting, withSetting, type Column, type Row } from './columns';
import type { BuiltState } from './use-built-states';
import type { WhatIfs } from './use-what-ifs';

interface WhatIfTableProps {
  readonly columns: readonly Column[];
  readonly set: readonly Row[];
  readonly following: readonly Row[];
  readonly hasShape: boolean;
  readonly builtOf: (column: Column) => BuiltState | undefined;
  readonly problemsOf: (column: Column) => readonly string[];
  readonly onPut: WhatIfs['put'];
  readonly verbsOf: (column: Column) => readonly (readonly MenuItem[])[];
  readonly picked: readonly string[];
  readonly onPick: (names: readonly string[]) => void;
}

/** More would be no comparison. */
const MOST_FOLLOWING = 60;
const STICKY = 'sticky left-0 z-10 bg-sheet';

export function WhatIfTable(props: WhatIfTableProps) {
  const { columns, set, following, hasShape, builtOf, problemsOf } = props;
  const [own] = columns;
  if (!own) return null;
  return (
    <table className="border-collapse bg-sheet">
      <caption className="sr-only">What-ifs of {own.document.name}</caption>
      <thead>
        <tr className="border-b border-rule bg-flax text-left">
          <th className="sticky left-0 z-10 bg-flax px-3 py-1 font-normal text-walnut-soft">Value</th>
          {columns.map((column) => (
            <ColumnHead key={column.key} column={column} {...props} />
          ))}
        </tr>
      </thead>
      <tbody>
        {set.map((row) => (
          <tr key={row.id} className="border-b border-rule/50">
            <th scope="row" className={`${STICKY} px-3 text-left font-semibold`}>
              {row.name}
            </th>
            {columns.map((column) => (
              <SetCell key={column.key} column={column} own={own} row={row} onPut={props.onPut} />
            ))}
          </tr>
        ))}
        {following.length > 0 && <GroupRow words={set.length > 0 ? 'What follows' : 'What differs'} span={columns.length + 1} />}
        {following.slice(0, MOST_FOLLOWING).map((row) => (
          <tr key={row.id} className="border-b border-rule/50">
            <th scope="row" className={`${STICKY} px-3 text-left font-normal`}>
              {row.name}
            </th>
            {columns.map((column) => (
              <ReadCell key={column.key} column={column} own={own} row={row} builtOf={builtOf} />
            ))}
          </tr>
        ))}
        {following.length > MOST_FOLLOWING && <GroupRow words={`And ${following.length - MOST_FOLLOWING} more values`} span={columns.length + 1} />}
        {hasShape && <ShapeRows columns={columns} builtOf={builtOf} />}
        <tr className="align-top">
          <th scope="row" className={`${STICKY} px-3 py-0.5 text-left font-normal text-walnut-soft`}>
            problems
          </th>
          {columns.map((column) => (
            <td key={column.key} className="max-w-64 px-2 py-0.5">
              {problemsOf(column).length === 0 ? (
                <span className="text-walnut-soft">none</span>
              ) : (
                problemsOf(column).map((problem) => (
                  <p key={problem} className="text-madder">
                    {problem}
                  </p>
                ))
              )}
            </td>
          ))}
        </tr>
      </tbody>
    </table>
  );
}

function GroupRow({ words, span }: { words: string; span: number }) {
  return (
    <tr className="border-b border-rule/50 bg-linen">
      <td colSpan={span} className="px-3 pt-2 pb-0.5 text-walnut-soft">
        {words}
      </td>
    </tr>
  );
}

function ColumnHead({ column, onPut, verbsOf, picked, onPick, builtOf, hasShape }: WhatIfTableProps & { column: Column }) {
  const { key, whatIf, name } = column;
  const picture = builtOf(column)?.picture;
  return (
    <th className="min-w-44 px-2 py-1 align-bottom font-semibold">
      {hasShape && (
        <span className="flex h-24 items-end">
          {picture === undefined ? (
            <span className="font-normal text-walnut-soft">being built…</span>
          ) : (
            // oxlint-disable-next-line nextjs/no-img-element -- a picture that the page drew itself
            <img src={picture} alt={`The solid of ${name}`} className="max-h-24" />
          )}
        </span>
      )}
      <span className="flex items-center gap-1">
        <input
          type="checkbox"
          aria-label={`Compare ${name}`}
          checked={picked.includes(key)}
          onChange={(event) => onPick(event.target.checked ? [...picked, key].slice(-2) : picked.filter((one) => one !== key))}
        />
        {whatIf ? (
          <Cell
            key={name}
            label={`Name of ${name}`}
            text={name}
            problemOf={(text) => (text === '' ? 'A what-if needs a name.' : text.length > 120 ? 'A name has at most 120 characters.' : undefined)}
            onAccept={(text) => onPut({ ...whatIf, name: text })}
          />
        ) : (
          <span className="px-1">{name}</span>
        )}
        {whatIf && <VerbMenu label="…" name={`More for ${name}`} groups={verbsOf(column)} />}
      </span>
    </th>
  );
}

function SetCell({ column, own, row, onPut }: { column: Column; own: Column; row: Row; onPut: WhatIfs['put'] }) {
  const { whatIf, values, refused } = column;
  const shown = values.show(row.id);
  const wrong = refused.get(row.id) ?? shown?.diagnostics[0]?.message;
  const words = wrong === undefined ? prettyUnit(shown?.shown ?? '') : 'error';
  const base = textNow(own.values, row.id);
  if (column !== own && !whatIf) return <td className="px-3 font-mono">{words}</td>;
  if (!whatIf) {
    return (
      <td className="px-3 font-mono">
        {prettyUnit(base)}
        {words !== '' && words !== prettyUnit(base) && <span className="block text-xs text-walnut-soft">{words}</span>}
      </td>
    );
  }
  const text = whatIf.values[row.id]?.formula.text ?? '';
  return (
    <td className="px-2">
      <Cell
        key={text}
        label={`${row.name} in ${whatIf.name}`}
        text={text}
        hint={words}
        problemOf={(next) => (next === '' ? undefined : problemOfSetting(own.values, row.id, next))}
        onAccept={(next) => onPut(withSetting(own.values, whatIf, row.id, next))}
      />
      {text !== '' && (wrong !== undefined || words !== prettyUnit(text)) && (
        <span className={`block px-1 font-mono text-xs ${wrong === undefined ? 'text-walnut-soft' : 'text-madder'}`} title={wrong}>
          {words}
        </span>
      )}
    </td>
  );
}

function ReadCell({ column, own, row, builtOf }: Pick<WhatIfTableProps, 'builtOf'> & { column: Column; own: Column; row: Row }) {
  const read = (one: Column) => (builtOf(one)?.values ?? one.values).show(row.id);
  const shown = read(column);
  const problem = shown?.diagnostics[0]?.message;
  const isOther = column !== own && shown?.shown !== read(own)?.shown;
  return (
    <td className={`px-3 py-0.5 font-mono tabular-nums ${problem !== undefined ? 'text-madder' : isOther ? 'font-semibold text-indigo' : ''}`} title={problem}>
      {problem === undefined ? prettyUnit(shown?.shown ?? '') : 'error'}
    </td>
  );
}

function ShapeRows({ columns, builtOf }: Pick<WhatIfTableProps, 'columns' | 'builtOf'>) {
  const [own] = columns;
  const mass = (column: Column): number | undefined => builtOf(column)?.mass;
  const before = own && mass(own);
  return (
    <>
      <GroupRow words="Built" span={columns.length + 1} />
      <tr className="border-b border-rule/50">
        <th scope="row" className={`${STICKY} px-3 text-left font-normal`}>
          mass
        </th>
        {columns.map((column) => {
          const here = mass(column);
          const change = here === undefined || !before || column === own ? undefined : (here / before - 1) * 100;
          return (
            <td key={column.key} className="px-3 py-0.5 font-mono tabular-nums">
              {here === undefined ? (builtOf(column) ? 'none' : '…') : `${Number(here.toPrecision(4))} kg`}
              {change !== undefined && Math.abs(change) >= 0.05 && (
                <span className="ml-2 text-xs text-walnut-soft">
                  {change > 0 ? '+' : '−'}
                  {Math.abs(change).toFixed(1)} %
                </span>
              )}
            </td>
          );
        })}
      </tr>
      <tr className="border-b border-rule/50">
        <th scope="row" className={`${STICKY} px-3 text-left font-normal`}>
          volume
        </th>
        {columns.map((column) => {
          const volume = builtOf(column)?.volume;
          return (
            <td key={column.key} className="px-3 py-0.5 font-mono tabular-nums">
              {volume === undefined ? (builtOf(column) ? 'none' : '…') : `${Number((volume / 1000).toPrecision(5))} cm³`}
            </td>
          );
        })}
      </tr>
    </>
  );
}
