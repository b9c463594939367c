import Link from 'next/link';
import type { ReactNode } from 'react';
import { createDocument, DocumentValues, tryFormula } from '@/core/document';
import { listFunctions } from '@/core/formula';
import { findKind, findUnit, listUnitSymbols, prettyUnit, QUANTITY_KINDS } from '@/core/units';

/** What can be typed, each with what it gives: computed here by the language itself. */
const QUANTITIES: readonly (readonly [text: string, what: string])[] = [
  ['25.4 mm', 'a number with its unit'],
  ['1 5/8 in', 'a mixed number; a fraction has tight digits'],
  [`6' 4 1/2"`, 'feet and inches'],
  [`30° 15' 20"`, 'degrees, minutes and seconds of arc'],
  ['7.85 g/cm^3', 'units are written tight'],
  ['(3*5) mm', 'a plain number made a quantity'],
  ['10%', 'a share'],
  ['-40 °F', 'a temperature; differences are in K'],
  ['3/5 * 120 mm', 'products and quotients'],
  ['240 mm / 2 + 6', 'a bare number takes the unit of what it is added to'],
  ['sqrt(16 cm^2)', 'the root of an area is a length'],
  ['if(3 mm < 1/8 in, 12 mm, 18 mm)', 'a choice by a condition'],
];

const OPERATORS: readonly (readonly [text: string, what: string])[] = [
  ['or, and, not', 'conditions'],
  ['==  !=  <  <=  >  >=', 'comparisons, one at a time'],
  ['+  -', 'sums, of one kind of quantity'],
  ['*  /', 'products; always written, never left out'],
  ['^', 'powers, from the right: 2^-1'],
];

/** The formula language on a page of its own. */
export function FormulaReferencePage() {
  return (
    <main className="mx-auto max-w-4xl p-6">
      <p>
        <Link href="/" className="text-walnut-soft underline">
          Projects
        </Link>
      </p>
      <h1 className="mb-4 text-2xl font-semibold">Formulas</h1>
      <FormulaReference />
    </main>
  );
}

/** The formula language as it is in this version. */
export function FormulaReference() {
  const values = new DocumentValues(createDocument('reference', 'master', 'Reference'));
  return (
    <div>
      <p className="mb-4">
        Plain mathematics, with units. A formula stays as you typed it; names in it follow when a value is renamed. What is wrong is said while you type, with
        its place, the reason, and a repair that Alt Enter takes.
      </p>
      <Section title="Quantities">
        {QUANTITIES.map(([text, what]) => (
          <Line key={text} text={text} what={what} result={tryFormula(values, text).shown} />
        ))}
      </Section>
      <Section title="Operators, from loose to tight">
        {OPERATORS.map(([text, what]) => (
          <Line key={text} text={text} what={what} />
        ))}
      </Section>
      <Section title="Functions">
        {listFunctions().map(({ name, signature, summary }) => (
          <Line key={name} text={signature} what={summary} />
        ))}
      </Section>
      <Section title="Constants and names">
        <Line text="pi  π  e  yes  no" what="have their meaning everywhere" />
        <Line text="beam_dia" what="a letter or _, then letters, digits and _; case counts; any alphabet" />
        <Line text="name = formula" what="in a value box names the value and sets it in one go" />
      </Section>
      <Section title="Units">
        {QUANTITY_KINDS.flatMap((kind) => {
          const symbols = listUnitSymbols().filter((symbol) => {
            const unit = findUnit(symbol);
            return unit !== undefined && findKind(unit.dimension) === kind;
          });
          return symbols.length === 0 ? [] : [<Line key={kind} text={symbols.map(prettyUnit).join('  ')} what={kind} />];
        })}
      </Section>
    </div>
  );
}

function Section({ title, children }: { title: string; children: ReactNode }) {
  return (
    <section className="mb-6">
      <h2 className="mb-1 text-lg font-semibold">{title}</h2>
      <dl className="@container rounded-box border border-rule bg-sheet">{children}</dl>
    </section>
  );
}

function Line({ text, what, result }: { text: string; what: string; result?: string }) {
  return (
    <div className="flex flex-wrap gap-x-4 border-b border-rule/50 px-3 py-1 last:border-b-0 @2xl:flex-nowrap">
      <dt className="w-full shrink-0 font-mono @2xl:w-72 text-[13px] break-words">{text}</dt>
      <dd className="flex-1">{what}</dd>
      {result !== undefined && <dd className="font-mono text-[13px] tabular-nums">{prettyUnit(result)}</dd>}
    </div>
  );
}
