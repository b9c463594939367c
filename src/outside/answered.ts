/** What comes back for a question, and what can be wrong with it. */
import { unitWords, type AnsweredAmount, type Question } from '@/core/document';
import { fail, succeed, type Result } from '@/core/kit';
import { parseUnit, QUANTITY_KINDS, kindDimension } from '@/core/units';

export interface Answered {
  readonly outputs: Readonly<Record<string, AnsweredAmount>>;
  readonly version: string;
}

/** `no-answer` may be another at the next attempt; `refused` is what it has to say to these inputs; `nonsense` is no answer at all. */
export interface AskFailure {
  readonly kind: 'no-answer' | 'refused' | 'nonsense';
  readonly problem: string;
}

/** Every wanted output, as a number in a unit of its kind; others are left out. */
export function checkOutputs(
  name: string,
  wanted: Question['outputs'],
  given: Readonly<Record<string, AnsweredAmount>>,
  version: string,
): Result<Answered, AskFailure> {
  const outputs: Record<string, AnsweredAmount> = {};
  for (const { key, kind } of wanted) {
    const amount = Object.hasOwn(given, key) ? given[key] : undefined;
    const refuse = (problem: string): Result<never, AskFailure> => fail({ kind: 'nonsense', problem: `${name}: ${problem}` });
    if (!amount) return refuse(`there is no ${key} in the answer.`);
    if (!Number.isFinite(amount.value)) return refuse(`${key} has no finite value.`);
    const unit = amount.unit === '' ? undefined : parseUnit(amount.unit);
    if (amount.unit !== '' && !unit) return refuse(`${key} came in "${amount.unit.slice(0, 40)}", which is unknown here.`);
    const known = QUANTITY_KINDS.find((one) => one === kind) ?? 'number';
    const dimension = unit?.dimension ?? kindDimension('number');
    if (unit?.offset !== undefined || dimension !== kindDimension(known))
      return refuse(`${key} came in ${amount.unit || 'no unit'}: it should be ${unitWords(kind)}.`);
    outputs[key] = { ...amount, unit: unit?.symbol ?? '' };
  }
  return succeed({ outputs, version });
}
