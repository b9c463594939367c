/**
 * Exact fractions of big integers: unit factors and literals are computed here and rounded to a double
 * once, so that 12 in and 1 ft are the same double.
 */
export interface Rational {
  readonly num: bigint;
  /** Always positive; num/den is in lowest terms. */
  readonly den: bigint;
}

export function rational(num: bigint | number, den: bigint | number = 1n): Rational {
  let n = BigInt(num);
  let d = BigInt(den);
  if (d === 0n) throw new Error('Bug: rational with denominator 0');
  if (d < 0n) {
    n = -n;
    d = -d;
  }
  const g = gcd(n < 0n ? -n : n, d);
  return { num: n / g, den: d / g };
}

/** The exact value of a finite double. */
export function toRational(value: number): Rational {
  let scale = 0;
  let whole = value;
  while (!Number.isInteger(whole)) {
    whole *= 2;
    scale++;
  }
  return rational(BigInt(whole), 1n << BigInt(scale));
}

/** Largest exponent of ten, up or down, of a literal of the formula language. */
export const MOST_DECIMAL_EXPONENT = 300;

/** Reads `25`, `25.4`, `.5`, `1e-3`. The text must be such a number; its exponent is the caller's to limit. */
export function readDecimal(text: string): Rational {
  const match = /^(\d*)(?:\.(\d*))?(?:[eE]([+-]?\d+))?$/.exec(text);
  if (!match) throw new Error(`Bug: not a decimal: ${text}`);
  const fraction = match[2] ?? '';
  const exponent = Number(match[3] ?? '0') - fraction.length;
  const digits = BigInt((match[1] ?? '') + fraction || '0');
  return exponent >= 0 ? rational(digits * 10n ** BigInt(exponent)) : rational(digits, 10n ** BigInt(-exponent));
}

export function multiplyRational(a: Rational, b: Rational): Rational {
  return rational(a.num * b.num, a.den * b.den);
}

export function divideRational(a: Rational, b: Rational): Rational {
  return rational(a.num * b.den, a.den * b.num);
}

export function addRational(a: Rational, b: Rational): Rational {
  return rational(a.num * b.den + b.num * a.den, a.den * b.den);
}

export function powerRational(a: Rational, n: number): Rational {
  return n >= 0 ? rational(a.num ** BigInt(n), a.den ** BigInt(n)) : rational(a.den ** BigInt(-n), a.num ** BigInt(-n));
}

/** The nearest double (ties to even); ±Infinity when out of range. */
export function roundToDouble({ num, den }: Rational): number {
  const negative = num < 0n;
  const n = negative ? -num : num;
  if (n === 0n) return 0;
  if (n <= MAX_SAFE && den <= MAX_SAFE) return (negative ? -1 : 1) * (Number(n) / Number(den));
  // Scale so that the integer quotient has at least 55 bits; the lost remainder becomes a sticky bit,
  // and Number(bigint) then rounds to nearest-even by itself.
  const shift = BigInt(Math.max(0, 66 - bitLength(n) + bitLength(den)));
  const scaled = n << shift;
  let quotient = scaled / den;
  if (scaled % den !== 0n) quotient = (quotient << 1n) | 1n;
  else quotient <<= 1n;
  const value = scaleByPowerOfTwo(Number(quotient), -Number(shift) - 1);
  return negative ? -value : value;
}

const MAX_SAFE = BigInt(Number.MAX_SAFE_INTEGER);

function scaleByPowerOfTwo(value: number, exponent: number): number {
  // In two factors: 2 ** -1100 alone would underflow.
  const half = Math.trunc(exponent / 2);
  return value * 2 ** half * 2 ** (exponent - half);
}

function bitLength(n: bigint): number {
  return n.toString(2).length;
}

function gcd(a: bigint, b: bigint): bigint {
  let x = a;
  let y = b;
  while (y !== 0n) [x, y] = [y, x % y];
  return x === 0n ? 1n : x;
}
