/**
 * Formula text to syntax tree: a scanner on demand and a Pratt parser (V. Pratt, "Top down operator
 * precedence", 1973) with binding powers, from loose to tight:
 *
 *     or 1 · and 2 · not 3 · comparison 4 (no chains) · + - 5 · * / 6 · unary - 7 · ^ 8 (right)
 *
 * The first syntax error ends the parse; it is returned as a diagnostic, never thrown, for any text.
 */
import type { Diagnostic, Repair } from '../kit';
import { scanUnit } from '../units';
import { powerTooHigh, scanLiteral, wordOf } from './literal';
import type { FormulaCode } from './messages';
import type { BinaryOperator, FormulaNode, Span } from './syntax';

export interface ParseContext {
  /** Whether the document has a value of that name; decides where a unit is ambiguous. */
  readonly isName: (name: string) => boolean;
}

export type ParseResult = { readonly ok: true; readonly node: FormulaNode } | { readonly ok: false; readonly diagnostic: Diagnostic<FormulaCode> };

/** Longest text that is read, in UTF-16 units; and deepest nesting of brackets and operators. */
export const MAX_FORMULA_LENGTH = 2000;
const MAX_DEPTH = 100;

/** Parses a formula. A leading `=` is accepted and dropped. */
export function parseFormula(text: string, context: ParseContext = { isName: () => false }): ParseResult {
  if (text.length > MAX_FORMULA_LENGTH) {
    return {
      ok: false,
      diagnostic: {
        code: 'too-long',
        message: `A formula has at most ${MAX_FORMULA_LENGTH} characters; this one has ${text.length}.`,
        from: MAX_FORMULA_LENGTH,
        to: text.length,
      },
    };
  }
  try {
    return { ok: true, node: new Parser(text, context).parse() };
  } catch (problem) {
    if (problem instanceof SyntaxProblem) return { ok: false, diagnostic: problem.diagnostic };
    throw problem;
  }
}

/** Unwinds the recursive descent; never leaves this file. */
class SyntaxProblem extends Error {
  constructor(readonly diagnostic: Diagnostic<FormulaCode>) {
    super(diagnostic.message);
  }
}

type Token =
  | { readonly kind: 'literal'; readonly node: FormulaNode; readonly from: number; readonly to: number }
  | { readonly kind: 'text' | 'name' | 'operator' | 'end'; readonly text: string; readonly from: number; readonly to: number };

const BINDING: Readonly<Record<string, number>> = {
  or: 1,
  and: 2,
  '==': 4,
  '!=': 4,
  '<': 4,
  '<=': 4,
  '>': 4,
  '>=': 4,
  '+': 5,
  '-': 5,
  '*': 6,
  '/': 6,
  '^': 8,
};
const NOT_BINDING = 3;
const COMPARISON_BINDING = 4;
const UNARY_BINDING = 7;

const NAME = /[\p{L}_][\p{L}\p{Nd}\p{M}_]*/uy;
const OPERATOR = /==|!=|<=|>=|[-+*/^()<>,.=≤≥≠]/y;
const SPELLED: Readonly<Record<string, string>> = { '≤': '<=', '≥': '>=', '≠': '!=' };
/** Characters that word processors and other keyboards give, and what is typed for them here. */
const LOOKALIKES: Readonly<Record<string, string>> = {
  '×': '*',
  '·': '*',
  '÷': '/',
  '−': '-',
  '–': '-',
  '“': '"',
  '”': '"',
  '’': "'",
  '[': '(',
  ']': ')',
  '{': '(',
  '}': ')',
  '&': ' and ',
  '|': ' or ',
  '!': 'not ',
  ';': ',',
};

class Parser {
  private token: Token;
  private depth = 0;

  constructor(
    private readonly text: string,
    private readonly context: ParseContext,
  ) {
    const start = /^\s*=(?!=)/.exec(text)?.[0].length ?? 0;
    this.token = this.scan(start, '');
  }

  parse(): FormulaNode {
    if (this.token.kind === 'end') {
      throw problem('empty', 'There is no formula yet.', { from: 0, to: this.text.length });
    }
    const node = this.parseBinary(0);
    if (!this.isAtEnd()) this.refuseLeftover(node);
    return node;
  }

  private parseBinary(minimum: number): FormulaNode {
    if (++this.depth > MAX_DEPTH) throw problem('too-long', 'This formula is nested too deeply.', this.token);
    let left = this.parsePrefix();
    for (;;) {
      const operator = this.token;
      const symbol = operator.kind === 'operator' || operator.kind === 'name' ? operator.text : '';
      const binding = Object.hasOwn(BINDING, symbol) ? (BINDING[symbol] ?? 0) : 0;
      if (binding === 0 || binding <= minimum) break;
      if (symbol === '^') this.refuseSpacedPower(left, operator);
      this.advance();
      const right = this.parseBinary(symbol === '^' ? binding - 1 : binding);
      left = {
        type: 'binary',
        operator: symbol as BinaryOperator,
        left,
        right,
        operatorSpan: { from: operator.from, to: operator.to },
        from: left.from,
        to: right.to,
      };
      if (binding === COMPARISON_BINDING && this.isComparison()) this.refuseChain(left);
    }
    this.depth--;
    return left;
  }

  private parsePrefix(): FormulaNode {
    const token = this.token;
    if (token.kind === 'operator' && token.text === '-') {
      this.advance();
      const operand = this.parseBinary(UNARY_BINDING);
      // A signed temperature is one literal: -40 °C is a temperature, not the negative of one.
      if (operand.type === 'literal' && operand.unit?.offset) {
        return { ...operand, amount: { num: -operand.amount.num, den: operand.amount.den }, from: token.from };
      }
      return { type: 'unary', operator: '-', operand, from: token.from, to: operand.to };
    }
    if (token.kind === 'name' && token.text === 'not') {
      this.advance();
      const operand = this.parseBinary(NOT_BINDING);
      return { type: 'unary', operator: 'not', operand, from: token.from, to: operand.to };
    }
    if (token.kind === 'operator' && token.text === '+') {
      throw problem('unexpected-token', 'A plus sign needs something on its left.', token, [
        { label: 'Drop the sign', from: token.from, to: token.to, text: '' },
      ]);
    }
    return this.parsePrimary();
  }

  private parsePrimary(): FormulaNode {
    const token = this.token;
    if (token.kind === 'literal') {
      this.advance();
      return token.node;
    }
    if (token.kind === 'text') {
      this.advance();
      return { type: 'text', value: token.text, from: token.from, to: token.to };
    }
    if (token.kind === 'name' && token.text !== 'and' && token.text !== 'or') return this.parseNameOrCall(token);
    if (token.kind === 'operator' && token.text === '(') return this.parseBracket(token);
    throw this.missingOperand(token);
  }

  private parseNameOrCall(token: Token & { readonly text: string }): FormulaNode {
    this.advance();
    if (this.isOperator('(')) return this.parseCall(token);
    const path: string[] = [];
    let { to } = token;
    while (this.isOperator('.') && this.token.from === to) {
      const dot = this.token;
      this.advance();
      const member = this.token;
      if (member.kind !== 'name' || member.from !== dot.to) {
        throw problem('missing-operand', `After ${[token.text, ...path].join('.')}. comes the name of a value.`, dot);
      }
      this.advance();
      path.push(member.text);
      ({ to } = member);
    }
    return { type: 'name', name: token.text, member: path.length === 0 ? undefined : path.join('.'), from: token.from, to };
  }

  private parseCall(name: Token & { readonly text: string }): FormulaNode {
    const open = this.token;
    this.advance();
    const args: FormulaNode[] = [];
    if (!this.isOperator(')')) {
      for (;;) {
        args.push(this.parseBinary(0));
        if (!this.isOperator(',')) break;
        this.advance();
      }
    }
    const close = this.expectClose(open);
    this.advance();
    return {
      type: 'call',
      callee: name.text,
      calleeSpan: { from: name.from, to: name.to },
      args,
      from: name.from,
      to: close.to,
    };
  }

  private parseBracket(open: Token): FormulaNode {
    this.advance();
    const inner = this.parseBinary(0);
    const close = this.expectClose(open);
    const unit = this.scanUnitAfterBracket(close.to);
    if (unit) {
      if (!unit.unit) throw new SyntaxProblem(powerTooHigh(this.text.slice(close.to, unit.to).trim(), close.to, unit.to));
      this.token = this.scan(unit.to, 'unit');
      return {
        type: 'united',
        inner,
        unit: unit.unit,
        word: wordOf(unit),
        unitSpan: { from: unit.factors[0]?.from ?? close.to, to: unit.to },
        from: open.from,
        to: unit.to,
      };
    }
    this.advance();
    return { type: 'group', inner, from: open.from, to: close.to };
  }

  /** A unit after `)` starts with a symbol; a tight `/` there is a division. A following name wins. */
  private scanUnitAfterBracket(from: number) {
    const at = from + (/^[ \t]*/.exec(this.text.slice(from))?.[0].length ?? 0);
    const unit = scanUnit(this.text, at);
    if (!unit || unit.factors[0]?.operator === '/') return undefined;
    const clash = unit.factors.find((f) => (f.operator === '*' || f.operator === '/') && this.context.isName(f.symbol));
    if (clash) {
      throw problem(
        'ambiguous-unit',
        `${clash.symbol} is a unit and also a value of this document; ${this.text.slice(at, unit.to)} can be read both ways.`,
        { from: clash.from - 1, to: clash.to },
        [
          { label: `The value ${clash.symbol}`, from: clash.from - 1, to: clash.from, text: ` ${clash.operator} ` },
          {
            label: `The unit ${clash.symbol}`,
            from: clash.from - 1,
            to: clash.to,
            text: `·${clash.symbol}^${clash.operator === '/' ? -clash.exponent : clash.exponent}`,
          },
        ],
      );
    }
    return unit;
  }

  /** `25 mm ^2` is meant as `25 mm^2` as often as it is meant as it stands. */
  private refuseSpacedPower(left: FormulaNode, operator: Token): void {
    if (left.type !== 'literal' || !left.unit) return;
    const exponent = /^\s*([+-]?\d+)(?![.\d])/.exec(this.text.slice(operator.to));
    // Without a space the unit has taken its power already.
    if (left.to === operator.from && !exponent) return;
    const literal = this.text.slice(left.from, left.to);
    const to = operator.to + (exponent?.[0].length ?? 0);
    const power = exponent?.[1] ?? '';
    throw problem(
      'ambiguous-power',
      `${this.text.slice(left.from, to)} can be read as a power of the unit or of the whole quantity.`,
      { from: left.from, to },
      [
        ...(exponent && left.word ? [{ label: `${literal}^${power}`, from: left.from, to, text: `${literal}^${power}` }] : []),
        { label: `(${literal})^${power}`, from: left.from, to, text: `(${literal})^${power}` },
      ],
    );
  }

  private expectClose(open: Token): Token {
    if (this.isOperator(')')) return this.token;
    if (this.token.kind === 'end') {
      throw problem('missing-bracket', 'A closing bracket is missing.', { from: open.from, to: open.to }, [
        { label: 'Add )', from: this.text.trimEnd().length, to: this.text.trimEnd().length, text: ')' },
      ]);
    }
    if (this.startsPrimary(this.token)) throw this.missingOperator();
    if (this.isOperator(',')) throw this.commaProblem();
    if (this.isOperator('=')) throw this.singleEquals();
    throw problem('unexpected-token', `${this.describe(this.token)} cannot stand here; a closing bracket was expected.`, this.token);
  }

  private refuseLeftover(node: FormulaNode): never {
    if (this.startsPrimary(this.token)) throw this.missingOperator();
    if (this.isOperator(')')) {
      throw problem('missing-bracket', 'This closing bracket has no opening one.', this.token, [
        { label: 'Drop )', from: this.token.from, to: this.token.to, text: '' },
        { label: 'Add ( in front', from: node.from, to: node.from, text: '(' },
      ]);
    }
    if (this.isOperator(',')) throw this.commaProblem();
    if (this.isOperator('=')) throw this.singleEquals();
    throw problem('unexpected-token', `${this.describe(this.token)} cannot stand here.`, this.token);
  }

  private commaProblem(): SyntaxProblem {
    const comma = this.token;
    const before = /\d+$/.exec(this.text.slice(0, comma.from))?.[0];
    const after = /^\d+/.exec(this.text.slice(comma.to))?.[0];
    if (before !== undefined && after !== undefined) {
      const from = comma.from - before.length;
      const to = comma.to + after.length;
      const repairs = [{ label: `${before}.${after}`, from, to, text: `${before}.${after}` }];
      if (after.length === 3) repairs.push({ label: before + after, from, to, text: before + after });
      return problem('decimal-comma', `Decimals are written with a point: ${before}.${after}.`, { from, to }, repairs);
    }
    return problem('unexpected-token', 'A comma stands only between the arguments of a function.', comma);
  }

  private singleEquals(): SyntaxProblem {
    return problem('single-equals', 'A comparison is written with two equals signs.', this.token, [
      { label: '==', from: this.token.from, to: this.token.to, text: '==' },
    ]);
  }

  private missingOperator(): SyntaxProblem {
    const before = this.text.slice(0, this.token.from).trimEnd();
    const gap = before.length;
    const word = this.text.slice(this.token.from, this.token.to);
    const repairs: Repair[] = [{ label: 'Multiply', from: gap, to: this.token.from, text: '*' }];
    const previous = /[\p{L}_][\p{L}\p{Nd}\p{M}_]*$/u.exec(before)?.[0];
    const joined = previous === undefined ? undefined : `${previous}_${word}`;
    // A name typed with a space in it, and inches after feet without their mark.
    if (joined !== undefined && this.context.isName(joined)) {
      repairs.unshift({ label: joined, from: gap - (previous?.length ?? 0), to: this.token.to, text: joined });
    } else if (before.endsWith("'") && /^\d/.test(word)) {
      const inches = /^[\d ./]*\d/.exec(this.text.slice(this.token.from))?.[0] ?? word;
      repairs.unshift({ label: `${inches}"`, from: this.token.from, to: this.token.from + inches.length, text: `${inches}"` });
    }
    return problem('missing-operator', `An operator is missing before ${word}.`, { from: gap, to: this.token.to }, repairs);
  }

  private missingOperand(token: Token): SyntaxProblem {
    if (token.kind === 'end') {
      const end = this.text.trimEnd().length;
      return problem('missing-operand', 'The formula ends where a value was expected.', { from: Math.max(0, end - 1), to: end });
    }
    if (this.isOperator(')')) return problem('missing-operand', 'A value is missing before this bracket.', token);
    if (this.text.slice(token.from - 1, token.to) === '**') {
      return problem('missing-operand', 'A power is written with ^.', { from: token.from - 1, to: token.to }, [
        { label: '^', from: token.from - 1, to: token.to, text: '^' },
      ]);
    }
    return problem('missing-operand', `A value was expected before ${this.describe(token)}.`, token);
  }

  private refuseChain(left: FormulaNode): never {
    if (left.type !== 'binary') throw problem('comparison-chain', 'Comparisons cannot be chained.', left);
    const middle = this.text.slice(left.right.from, left.right.to);
    const at = this.token.from;
    throw problem('comparison-chain', 'Comparisons cannot be chained; write each of them and join them with and.', { from: left.from, to: this.token.to }, [
      { label: `… and ${middle} ${this.describe(this.token)} …`, from: at, to: at, text: `and ${middle} ` },
    ]);
  }

  private isComparison(): boolean {
    return this.token.kind === 'operator' && BINDING[this.token.text] === COMPARISON_BINDING;
  }

  private isAtEnd(): boolean {
    return this.token.kind === 'end';
  }

  private isOperator(symbol: string): boolean {
    return this.token.kind === 'operator' && this.token.text === symbol;
  }

  private startsPrimary(token: Token): boolean {
    if (token.kind === 'literal' || token.kind === 'text') return true;
    return token.kind === 'name' ? !Object.hasOwn(BINDING, token.text) : token.kind === 'operator' && token.text === '(';
  }

  private describe(token: Token): string {
    return token.kind === 'end' ? 'the end' : this.text.slice(token.from, token.to);
  }

  private advance(): void {
    const token = this.token;
    this.token = this.scan(token.to, token.kind === 'operator' ? token.text : token.kind);
  }

  /** `after` is the operator just read, or the kind of the token just read. */
  private scan(start: number, after: string): Token {
    const from = start + (/^\s*/.exec(this.text.slice(start))?.[0].length ?? 0);
    const next = this.text[from];
    if (next === undefined) return { kind: 'end', text: '', from, to: from };
    if (/\d/.test(next) || (next === '.' && /\d/.test(this.text[from + 1] ?? ''))) return this.scanNumber(from, after);
    if (next === '"') return this.scanText(from);
    const name = matchAt(NAME, this.text, from);
    if (name !== undefined) return { kind: 'name', text: name.normalize('NFC'), from, to: from + name.length };
    const operator = matchAt(OPERATOR, this.text, from);
    if (operator !== undefined) return { kind: 'operator', text: SPELLED[operator] ?? operator, from, to: from + operator.length };
    throw this.unexpectedCharacter(from);
  }

  private scanNumber(from: number, after: string): Token {
    const scan = scanLiteral(this.text, from, { isName: this.context.isName, after });
    if (!scan.ok) throw new SyntaxProblem(scan.diagnostic);
    return { kind: 'literal', node: scan.literal, from, to: scan.literal.to };
  }

  private scanText(from: number): Token {
    const close = this.text.indexOf('"', from + 1);
    if (close < 0) {
      throw problem('unclosed-text', 'A text must end with a quotation mark.', { from, to: this.text.length }, [
        { label: 'Close the text', from: this.text.length, to: this.text.length, text: '"' },
      ]);
    }
    return { kind: 'text', text: this.text.slice(from + 1, close), from, to: close + 1 };
  }

  private unexpectedCharacter(from: number): SyntaxProblem {
    const character = String.fromCodePoint(this.text.codePointAt(from) ?? 0);
    const to = from + character.length;
    const meant = Object.hasOwn(LOOKALIKES, character) ? LOOKALIKES[character] : undefined;
    return problem(
      'unexpected-character',
      `${character} has no meaning in a formula.${meant === undefined ? '' : ` Did you mean ${meant.trim()}?`}`,
      { from, to },
      meant === undefined ? undefined : [{ label: meant.trim(), from, to, text: meant }],
    );
  }
}

function problem(code: FormulaCode, message: string, span: Span, repairs?: Diagnostic['repairs']): SyntaxProblem {
  const diagnostic = { code, message, from: span.from, to: span.to };
  return new SyntaxProblem(repairs ? { ...diagnostic, repairs } : diagnostic);
}

function matchAt(pattern: RegExp, text: string, at: number): string | undefined {
  const sticky = pattern;
  sticky.lastIndex = at;
  return sticky.exec(text)?.[0];
}
