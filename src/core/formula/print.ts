/** Syntax tree to text, for formulas that the program writes. Parsing what is printed gives the tree again. */
import { assertNever } from '../kit';
import type { FormulaNode, LiteralNode } from './syntax';

export function printFormula(node: FormulaNode): string {
  switch (node.type) {
    case 'literal':
      return printLiteral(node);
    case 'text':
      return `"${node.value}"`;
    case 'name':
      return node.member === undefined ? node.name : `${node.name}.${node.member}`;
    case 'call':
      return `${node.callee}(${node.args.map(printFormula).join(', ')})`;
    case 'group':
      return `(${printFormula(node.inner)})`;
    case 'united':
      return `(${printFormula(node.inner)}) ${node.unit.symbol}`;
    case 'unary':
      return node.operator === 'not' ? `not ${printFormula(node.operand)}` : `-${printFormula(node.operand)}`;
    case 'binary':
      return `${printFormula(node.left)} ${node.operator} ${printFormula(node.right)}`;
    default:
      return assertNever(node);
  }
}

function printLiteral({ amount, unit }: LiteralNode): string {
  const negative = amount.num < 0n;
  const number = printRational(negative ? -amount.num : amount.num, amount.den);
  const symbol = unit === undefined ? '' : /^["'°%/]/.test(unit.symbol) ? unit.symbol : ` ${unit.symbol}`;
  return (negative ? '-' : '') + number + symbol;
}

/** A decimal if it ends, else a tight fraction or a mixed number; either way exactly the amount. */
function printRational(num: bigint, den: bigint): string {
  let places = 0;
  let scale = 1n;
  while (scale % den !== 0n && places < 400) {
    scale *= 10n;
    places++;
    if (places > 40 && den % 2n !== 0n && den % 5n !== 0n) break;
  }
  if (scale % den === 0n) {
    const digits = (num * (scale / den)).toString().padStart(places + 1, '0');
    return places === 0 ? digits : `${digits.slice(0, -places)}.${digits.slice(-places)}`;
  }
  const whole = num / den;
  return whole === 0n ? `${num}/${den}` : `${whole} ${num % den}/${den}`;
}
