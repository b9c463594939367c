/**
 * Literals of quantities as the trade writes them: decimals, tight fractions `3/8`, mixed numbers
 * `1 5/8 in`, feet and inches `6' 4 1/2"`, degrees, minutes and seconds `30° 15' 20"`. Spellings that
 * people read in two ways are refused with both of them offered.
 */
import { findNearest, type Diagnostic, type Repair } from '../kit';
import {
  MOST_DECIMAL_EXPONENT,
  addRational,
  divideRational,
  findUnit,
  listUnitSymbols,
  multiplyRational,
  rational,
  readDecimal,
  scanUnit,
  spellUnit,
  type Rational,
  type ScannedUnit,
  type Unit,
} from '../units';
import type { FormulaCode } from './messages';
import { CONSTANTS, findFunction } from './functions';
import type { LiteralNode, UnitWord } from './syntax';

export type LiteralScan = { readonly ok: true; readonly literal: LiteralNode } | { readonly ok: false; readonly diagnostic: Diagnostic<FormulaCode> };

export interface LiteralContext {
  /** Whether the document has a value of that name. */
  readonly isName: (name: string) => boolean;
  /** The operator just before the literal, if any: a fraction never forms in an exponent or a divisor. */
  readonly after: string;
}

const DECIMAL = /\d+(?:\.\d+)?(?:[eE][+-]?\d+)?|\.\d+(?:[eE][+-]?\d+)?/y;
const INTEGER = /\d+(?![.\d])/y;
const FRACTION = /(\d+)\/(\d+)(?![.\d])/y;
const SPACES = /[ \t\u00a0]*/y;
/** `5/8` or `4 1/2` or `4.5`, as the smaller part after feet or degrees. */
const SMALL_PART = /(?:(\d+)[ \t]+)?(\d+)\/(\d+)|(\d+(?:\.\d+)?)/y;

/** Reads the literal that starts at `from`; the character there is a digit, or a point before a digit. */
export function scanLiteral(text: string, from: number, context: LiteralContext): LiteralScan {
  const hyphenated = findHyphenated(text, from);
  if (hyphenated) return refuse(hyphenated);
  const number = scanNumber(text, from, context);
  if ('code' in number) return refuse(number);

  const unitFrom = skip(text, number.to);
  const scanned = scanUnit(text, unitFrom);
  if (number.isDoubtfulFraction && scanned) return refuse(ambiguousFraction(text, from, number.to, scanned.to));
  const amount = number.isDoubtfulFraction ? number.numerator : number;
  if (!scanned || (unitFrom > number.to && scanned.factors[0]?.operator === '/')) {
    const unknown = findUnknownUnit(text, amount.to, context);
    return unknown ? refuse(unknown) : accept(from, amount.to, amount.value, undefined);
  }
  const ambiguous = findAmbiguousUnit(text, from, scanned, context);
  if (ambiguous) return refuse(ambiguous);
  if (!scanned.unit) return refuse(powerTooHigh(text.slice(unitFrom, scanned.to), unitFrom, scanned.to));
  return scanCompound(text, from, amount.value, scanned, scanned.unit);
}

interface ScannedNumber {
  readonly value: Rational;
  readonly to: number;
  /** Set when the fraction stands in a divisor, `a/3/8`, where it reads as two divisions. */
  readonly isDoubtfulFraction?: false;
}
type NumberScan = ScannedNumber | { readonly isDoubtfulFraction: true; readonly numerator: ScannedNumber; readonly to: number };

function scanNumber(text: string, from: number, context: LiteralContext): NumberScan | Diagnostic<FormulaCode> {
  const decimal = matchAt(DECIMAL, text, from)?.[0] ?? '';
  const end = from + decimal.length;
  const [, exponent = '0'] = decimal.split(/[eE]/);
  if (Math.abs(Number(exponent)) > MOST_DECIMAL_EXPONENT) {
    return { code: 'exponent-too-large', message: `The exponent of ${decimal} lies beyond ±${MOST_DECIMAL_EXPONENT}.`, from, to: end };
  }
  const plain: ScannedNumber = { value: readDecimal(decimal), to: end };
  if (!/^\d+$/.test(decimal) || context.after === '^') return plain;

  const tight = matchAt(FRACTION, text, from);
  if (tight) {
    if (Number(tight[2]) === 0) return zeroDenominator(from, from + tight[0].length);
    const to = from + tight[0].length;
    if (context.after === '/') return { isDoubtfulFraction: true, numerator: plain, to };
    return { value: divideRational(readDecimal(tight[1] ?? ''), readDecimal(tight[2] ?? '')), to };
  }
  const next = skip(text, end);
  const mixed = next > end ? matchAt(FRACTION, text, next) : undefined;
  if (!mixed) return plain;
  const [top, bottom] = [BigInt(mixed[1] ?? 0), BigInt(mixed[2] ?? 1)];
  const to = next + mixed[0].length;
  if (bottom === 0n) return zeroDenominator(next, to);
  if (top >= bottom) {
    return {
      code: 'improper-mixed-number',
      message: `In the mixed number ${text.slice(from, to)} the fraction must be smaller than 1.`,
      from,
      to,
      repairs: [{ label: `${decimal} + ${mixed[0]}`, from, to, text: `(${decimal} + ${mixed[0]})` }],
    };
  }
  return { value: addRational(readDecimal(decimal), rational(top, bottom)), to };
}

/** After feet come inches, after degrees minutes and seconds; everything else is amount and unit. */
function scanCompound(text: string, from: number, amount: Rational, scanned: ScannedUnit, unit: Unit): LiteralScan {
  const symbol = scanned.factors.length === 1 ? scanned.factors[0]?.symbol : '';
  if (symbol === "'") {
    const inches = scanSmallPart(text, scanned.to, '"');
    if (inches && inches.isHyphenated) return refuse(hyphenatedFeet(text, from, scanned.to, inches.from, inches.to));
    if (inches) return accept(from, inches.to, addRational(multiplyRational(amount, rational(12)), inches.amount), findUnit('in'));
  }
  if (symbol === '°') {
    const minutes = scanSmallPart(text, scanned.to, "'");
    const seconds = scanSmallPart(text, minutes?.to ?? scanned.to, '"');
    if (minutes ?? seconds) {
      const zero = rational(0);
      const total = addRational(
        amount,
        addRational(divideRational(minutes?.amount ?? zero, rational(60)), divideRational(seconds?.amount ?? zero, rational(3600))),
      );
      return accept(from, seconds?.to ?? minutes?.to ?? scanned.to, total, unit);
    }
  }
  return accept(from, scanned.to, amount, unit, wordOf(scanned));
}

/** The symbol of a unit of one factor that could be read as a name. */
export function wordOf({ factors }: ScannedUnit): UnitWord | undefined {
  const [only] = factors;
  return factors.length === 1 && only?.operator === '' && /^\p{L}/u.test(only.symbol)
    ? { symbol: only.symbol, from: only.from, to: only.from + only.symbol.length }
    : undefined;
}

export function powerTooHigh(shown: string, from: number, to: number): Diagnostic<FormulaCode> {
  return { code: 'power-too-high', message: `${shown} has a power beyond ±12: no quantity has.`, from, to };
}

function scanSmallPart(text: string, from: number, mark: string) {
  const isHyphenated = text[from] === '-';
  const start = isHyphenated ? from + 1 : skip(text, from);
  const found = matchAt(SMALL_PART, text, start);
  if (!found || text[start + found[0].length] !== mark) return undefined;
  const [, whole, top, bottom, decimal] = found;
  if (bottom !== undefined && Number(bottom) === 0) return undefined;
  const fraction = bottom === undefined ? readDecimal(decimal ?? '0') : divideRational(readDecimal(top ?? '0'), readDecimal(bottom));
  const amount = whole === undefined ? fraction : addRational(readDecimal(whole), fraction);
  return { amount, from: start, to: start + found[0].length + 1, isHyphenated };
}

function findHyphenated(text: string, from: number): Diagnostic<FormulaCode> | undefined {
  const whole = matchAt(INTEGER, text, from)?.[0];
  if (whole === undefined || text[from + whole.length] !== '-') return undefined;
  const fraction = matchAt(FRACTION, text, from + whole.length + 1);
  if (!fraction) return undefined;
  const to = from + whole.length + 1 + fraction[0].length;
  return {
    code: 'hyphenated-fraction',
    message: `${text.slice(from, to)} can be read as a mixed number or as a subtraction.`,
    from,
    to,
    repairs: [
      { label: `${whole} ${fraction[0]}, the mixed number`, from, to, text: `${whole} ${fraction[0]}` },
      { label: `${whole} - ${fraction[0]}, the difference`, from, to, text: `${whole} - ${fraction[0]}` },
    ],
  };
}

function hyphenatedFeet(text: string, from: number, feetTo: number, inchesFrom: number, to: number): Diagnostic<FormulaCode> {
  const feet = text.slice(from, feetTo);
  const inches = text.slice(inchesFrom, to);
  return {
    code: 'hyphenated-fraction',
    message: `${text.slice(from, to)} can be read as feet and inches or as a subtraction.`,
    from,
    to,
    repairs: [
      { label: `${feet} ${inches}, feet and inches`, from, to, text: `${feet} ${inches}` },
      { label: `${feet} - ${inches}, the difference`, from, to, text: `${feet} - ${inches}` },
    ],
  };
}

function ambiguousFraction(text: string, from: number, fractionTo: number, to: number): Diagnostic<FormulaCode> {
  const [top = '', bottom = ''] = text.slice(from, fractionTo).split('/');
  const unit = text.slice(fractionTo, to);
  return {
    code: 'ambiguous-fraction',
    message: `After a division, ${text.slice(from, to)} can be read as one fraction or as two divisions.`,
    from,
    to,
    repairs: [
      { label: 'Divide by the fraction', from, to, text: `(${top}/${bottom}${unit})` },
      { label: 'Divide twice', from, to, text: `${top} / (${bottom}${unit})` },
    ],
  };
}

function findAmbiguousUnit(text: string, from: number, scanned: ScannedUnit, context: LiteralContext): Diagnostic<FormulaCode> | undefined {
  const [first] = scanned.factors;
  // `w/2h`, like `4/h`: the division is read as one by whoever knows an h.
  if (context.after === '/' && first?.operator === '' && scanned.factors.length === 1 && context.isName(first.symbol)) {
    const number = text.slice(from, first.from).trimEnd();
    return {
      code: 'ambiguous-unit',
      message: `${first.symbol} is a unit and also a value of this document; after a division, ${text.slice(from, scanned.to)} can be read both ways.`,
      from,
      to: scanned.to,
      repairs: [
        { label: `The value ${first.symbol}`, from, to: scanned.to, text: `(${number}*${text.slice(first.from, first.to)})` },
        {
          label: `The unit ${first.symbol}`,
          from,
          to: scanned.to,
          text: `(${number} ${spellUnit(first.symbol) ?? first.symbol}${text.slice(first.from + first.symbol.length, first.to)})`,
        },
      ],
    };
  }
  const clash = scanned.factors.find((f) => (f.operator === '*' || f.operator === '/') && context.isName(f.symbol));
  if (!clash) return undefined;
  const operatorAt = clash.from - 1;
  const rest = text.slice(clash.from, clash.to);
  const joint = clash === scanned.factors[0] ? ' ' : '·';
  const unitSpelling = clash.operator === '*' ? `·${rest}` : `${joint}${clash.symbol}^${-clash.exponent}`;
  const repairs: Repair[] = [
    {
      label: `The value ${clash.symbol}`,
      from: operatorAt,
      to: clash.to,
      text: ` ${clash.operator} ${rest}`,
    },
    { label: `The unit ${clash.symbol}`, from: operatorAt, to: clash.to, text: unitSpelling },
  ];
  return {
    code: 'ambiguous-unit',
    message: `${clash.symbol} is a unit and also a value of this document; ${text.slice(from, scanned.to)} can be read both ways.`,
    from: operatorAt,
    to: clash.to,
    repairs,
  };
}

/** Words that people type for a unit, and its symbol here. */
const UNIT_WORDS: ReadonlyMap<string, string> = new Map([
  ['sec', 's'],
  ['secs', 's'],
  ['hr', 'h'],
  ['hrs', 'h'],
  ['mins', 'min'],
  ['lbs', 'lb'],
  ['ins', 'in'],
  ['kgs', 'kg'],
  ['degs', 'deg'],
  ['tons', 't'],
  ['rps', 'rev/s'],
  ['kmh', 'km/h'],
  ['kph', 'km/h'],
]);

/** A word tight behind a number, or a near miss of a unit after a space, that is neither unit nor name. */
function findUnknownUnit(text: string, to: number, context: LiteralContext): Diagnostic<FormulaCode> | undefined {
  const wordFrom = skip(text, to);
  const word = /^[\p{L}_µΩ][\p{L}\p{Nd}_]*/u.exec(text.slice(wordFrom))?.[0];
  if (word === undefined || context.isName(word) || NO_UNITS.has(word) || CONSTANTS.has(word) || findFunction(word)) return undefined;
  const power = /^(\p{L}+)([1-9])$/u.exec(word);
  const powered = power && findUnit(power[1] ?? '') ? `${power[1] ?? ''}^${power[2] ?? ''}` : undefined;
  const near = [powered ?? UNIT_WORDS.get(word.toLowerCase()) ?? splitProduct(word)].filter((s) => s !== undefined);
  const isTight = wordFrom === to;
  if (near.length === 0) {
    const sameLetters = listUnitSymbols().filter((s) => s.toLowerCase() === word.toLowerCase());
    near.push(
      ...(sameLetters.length > 0
        ? sameLetters
        : isTight && word.length <= MOST_LETTERS
          ? findNearest(
              word,
              listUnitSymbols().filter((symbol) => symbol[0] === word[0]),
              2,
            )
          : []),
    );
  }
  const shown = word.length > MOST_LETTERS ? `${word.slice(0, MOST_LETTERS)}…` : word;
  const nothing = isTight ? '' : `, and no value has that name`;
  return {
    code: 'unknown-unit',
    message: `${shown} is not a unit${near.length > 0 ? `. Did you mean ${near.join(' or ')}?` : `${nothing}.`}`,
    from: wordFrom,
    to: wordFrom + word.length,
    repairs: near.map((symbol) => ({ label: symbol, from: wordFrom, to: wordFrom + word.length, text: symbol })),
  };
}

/** Longer words are nobody's unit: nothing is searched for them. */
const MOST_LETTERS = 20;
/** Words that may follow a number without being a unit. */
const NO_UNITS: ReadonlySet<string> = new Set(['and', 'or', 'not']);

/** `Nm` is a product of two units that is written without its sign: `N*m`. */
function splitProduct(word: string): string | undefined {
  for (let at = 1; at < Math.min(word.length, MOST_LETTERS); at++) {
    const [left, right] = [findUnit(word.slice(0, at)), findUnit(word.slice(at))];
    if (left && right && left.dimension !== right.dimension && isSplit(word, at)) return `${word.slice(0, at)}*${word.slice(at)}`;
  }
  return undefined;
}

/** Products that are written together begin with a force, a mass or a power: anything else is a slip. */
function isSplit(word: string, at: number): boolean {
  return /^(?:[kMm]?N|[kMm]?W|k?g|kgf|lb|lbf|oz|ozf|[kMm]?Pa|A)$/.test(word.slice(0, at));
}

function zeroDenominator(from: number, to: number): Diagnostic<FormulaCode> {
  return { code: 'zero-denominator', message: 'A fraction cannot have 0 below the line.', from, to };
}

function accept(from: number, to: number, amount: Rational, unit: Unit | undefined, word?: UnitWord): LiteralScan {
  return { ok: true, literal: { type: 'literal', amount, unit, from, to, ...(word ? { word } : {}) } };
}

function refuse(diagnostic: Diagnostic<FormulaCode>): LiteralScan {
  return { ok: false, diagnostic };
}

function skip(text: string, from: number): number {
  return from + (matchAt(SPACES, text, from)?.[0].length ?? 0);
}

function matchAt(pattern: RegExp, text: string, at: number): RegExpExecArray | undefined {
  const sticky = pattern;
  sticky.lastIndex = at;
  return sticky.exec(text) ?? undefined;
}
