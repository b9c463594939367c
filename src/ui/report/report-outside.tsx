'use client';
/** Outside calculations on paper: what was asked, what went in, what came back and when; and what rests on results that are held. */
import { findRecord, listOutputs, listOutside, type DocumentValues, type OutsideCalculation } from '@/core/document';
import { prettyUnit } from '@/core/units';
import { askedWords, heldWords, momentOf } from '../outside/outside-words';

export function OutsideCalculations({ values }: { values: DocumentValues }) {
  return (
    <>
      {listOutside(values.document).map((outside) => (
        <Outside key={outside.id} outside={outside} values={values} />
      ))}
    </>
  );
}

function Outside({ outside, values }: { outside: OutsideCalculation; values: DocumentValues }) {
  const state = values.outside.stateOf(outside.id);
  const answer = state && state.is !== 'waiting' ? state.answer : undefined;
  const held = heldWords(state);
  return (
    <section className="break-inside-avoid">
      <h2 className="mt-4 mb-1 font-semibold">
        Outside calculation {outside.name}: {askedWords(values.document, outside.asked)}
        {answer && `, answered ${momentOf(answer.at)} by ${answer.version}`}
      </h2>
      <ul>
        {outside.inputs.map(({ key, formula }) => (
          <li key={key} className="font-mono text-[15px]">
            <span className="font-semibold">{key}</span> = <span className="text-walnut-soft">{formula.text}</span> ={' '}
            <span className="font-semibold">{prettyUnit(values.showNode(`${outside.id}/in ${key}`) || 'error')}</span>
          </li>
        ))}
        {listOutputs(values.document).flatMap(({ id, name, measure }) =>
          measure?.of === 'outside' && measure.outside === outside.id ? (
            <li key={id} className="font-mono text-[15px]">
              <span className="font-semibold">{name}</span> = {prettyUnit(values.show(id)?.shown || 'error')}
              {values.isHeld(id) && <span className="ml-2 font-sans text-weld">held</span>}
            </li>
          ) : (
            []
          ),
        )}
      </ul>
      {held !== undefined && <p className="text-weld">{held}</p>}
    </section>
  );
}

/** Says at the head that something is older than what it was computed from. */
export function HeldNote({ values }: { values: DocumentValues }) {
  const held = [...values.sheet.listHeld()].flatMap((id) => {
    const record = findRecord(values.document, id, 'parameter') ?? findRecord(values.document, id, 'take');
    return record ? [record.name] : [];
  });
  if (held.length === 0) return null;
  return (
    <p role="note" className="mb-3 text-weld">
      Held: {held.join(', ')}. {held.length === 1 ? 'It rests' : 'They rest'} on results of outside calculations that were not computed for their present
      inputs.
    </p>
  );
}
