/**
 * Dimension check: syntax tree to typed tree, once, when a formula is compiled.
 *
 * Vocabulary: a node is *bare* if it is built of literals without unit only. Where a bare node meets a
 * dimensioned one in a sum, a comparison, min/max/clamp/if, or fills a slot that expects a dimension, it
 * *adopts* the document's unit for that dimension; what was adopted is reported with its place, so that
 * the box can show the reading and the document can keep it. Where two dimensions differ by angle alone
 * and are not plain, the radian drops out (arc length = radius * angle).
 *
 * All independent mistakes of a formula are collected; a node with a mistake has no typed form, and what
 * reads it is not judged.
 */
import { findNearest, type Diagnostic, type Repair } from '../kit';
import {
  DEGREE,
  MOST_EXPONENT,
  PLAIN,
  addRational,
  angleExponent,
  divideDimensions,
  findUnit,
  internDimension,
  isNamable,
  multiplyDimensions,
  multiplyRational,
  powerDimension,
  rootDimension,
  roundToDouble,
  spellUnit,
  systemUnit,
  withoutAngle,
  type Dimension,
  type Unit,
} from '../units';
import { checkCall } from './check-call';
import type { Adoption, Checked, Checking, Unified } from './checking';
import { CONSTANTS, describeReserved } from './functions';
import { describeDimension, listOr, nameDimension, type FormulaCode } from './messages';
import type { Scope } from './scope';
import type { BinaryNode, FormulaNode, LiteralNode, NameNode, Span, UnitedNode } from './syntax';
import { numberOfText } from './texts';
import { constant, operation, type TypedNode } from './typed-tree';
import { PLAIN_NUMBER, TEMPERATURE_POINT, TEXT, YES_NO, quantityType, type ValueType } from './value-type';

export class Checker implements Checking {
  readonly diagnostics: Diagnostic<FormulaCode>[] = [];
  readonly adopted: Adoption[] = [];
  /** Places of values without a type that were met. */
  private readonly waitingSlots: number[] = [];
  /** Numbers whose unit is also called like a value of another kind, as products with that value. */
  private readonly products: Repair[] = [];

  constructor(
    readonly text: string,
    readonly scope: Scope,
    private readonly bareUnit?: Unit,
  ) {}

  check(node: FormulaNode): Checked | undefined {
    switch (node.type) {
      case 'literal':
        return this.checkLiteral(node);
      case 'text':
        return this.give(constant(numberOfText(node.value)), TEXT, node);
      case 'name':
        return this.checkName(node);
      case 'call':
        return checkCall(this, node);
      case 'unary':
        return node.operator === 'not' ? this.checkNot(node.operand, node) : this.checkNegative(node.operand, node);
      case 'binary':
        return this.checkBinary(node);
      case 'group': {
        const inner = this.check(node.inner);
        return inner && { ...inner, span: node };
      }
      case 'united': {
        const inner = this.check(node.inner);
        if (!inner) return undefined;
        if (inner.type !== PLAIN_NUMBER || node.unit.offset) {
          return this.report(
            'unit-on-quantity',
            `${this.textOf(inner.span)} ${node.unit.offset ? 'cannot take a temperature scale' : `is ${this.describe(inner)} already`}.`,
            node.unitSpan,
            [{ label: 'Drop the unit', from: node.unitSpan.from, to: node.unitSpan.to, text: '' }],
          );
        }
        if (this.refuseNamedUnit(node, node.unit)) return undefined;
        const typed = inner.amount
          ? constant(roundToDouble(multiplyRational(inner.amount, node.unit.factor)))
          : operation('multiply', [inner.typed, constant(node.unit.size)], node, [inner.span, node.unitSpan]);
        return this.give(typed, quantityType(node.unit.dimension), node);
      }
    }
  }

  // ---- used by the rules of functions as well

  give(typed: TypedNode, type: ValueType, span: Span, isBare = false): Checked {
    return { typed, type, isBare, span };
  }

  report(code: FormulaCode, message: string, span: Span, repairs?: Diagnostic['repairs'], hint?: string): undefined {
    const base = { code, message, from: span.from, to: span.to };
    const products = code === 'mixed-dimensions' || code === 'wrong-kind' ? this.products : [];
    const offered = [...products, ...(repairs ?? [])];
    this.diagnostics.push({ ...base, ...(offered.length > 0 ? { repairs: offered } : {}), ...(hint === undefined ? {} : { hint }) });
    return undefined;
  }

  textOf(span: Span): string {
    return this.text.slice(span.from, span.to);
  }

  describe(checked: Checked): string {
    switch (checked.type.kind) {
      case 'quantity':
        return describeDimension(checked.type.dimension);
      case 'temperature':
        return 'a temperature';
      case 'yes-no':
        return 'yes or no';
      case 'text':
        return 'a text';
    }
  }

  /** The node as a quantity of `wanted`, with bare numbers and angles converted; undefined if it is not one. */
  convert(checked: Checked, wanted: Dimension): Checked | undefined {
    if (checked.type.kind !== 'quantity') return undefined;
    const { dimension } = checked.type;
    if (dimension === wanted) return checked.isBare ? { ...checked, isBare: false } : checked;
    if (checked.isBare) return this.adopt(checked, wanted);
    if (withoutAngle(dimension) !== withoutAngle(wanted) || withoutAngle(dimension) === PLAIN) return undefined;
    const power = angleExponent(dimension) - angleExponent(wanted);
    const typed = operation('multiply', [checked.typed, constant(DEGREE ** power)], checked.span, [checked.span, checked.span]);
    return this.give(typed, quantityType(wanted), checked.span);
  }

  /**
   * Brings nodes that meet in a sum, a comparison or a choice to one type. `verb` ends the message:
   * `cannot be added`.
   */
  unify(nodes: readonly Checked[], verb: string, span: Span): Unified | undefined {
    const leading = nodes.find((node) => !node.isBare) ?? nodes[0];
    if (!leading) return undefined;
    if (leading.type.kind !== 'quantity') {
      const odd = nodes.find((node) => node.type !== leading.type);
      return odd ? this.reportMix(leading, odd, verb, span) : { nodes, type: leading.type, isBare: false };
    }
    if (nodes.every((node) => node.isBare)) return { nodes, type: PLAIN_NUMBER, isBare: true };
    const dimensions = nodes.flatMap((node) => (node.isBare || node.type.kind !== 'quantity' ? [] : [node.type.dimension]));
    // Where dimensions differ by angle alone, the one with the least of it is meant.
    const wanted = dimensions.reduce((a, b) => (Math.abs(angleExponent(b)) < Math.abs(angleExponent(a)) && withoutAngle(a) === withoutAngle(b) ? b : a));
    const converted: Checked[] = [];
    for (const node of nodes) {
      const fitted = this.convert(node, wanted);
      if (!fitted) return this.reportMix(leading, node, verb, span);
      converted.push(fitted);
    }
    return { nodes: converted, type: quantityType(wanted), isBare: false };
  }

  adopt(checked: Checked, wanted: Dimension): Checked {
    const unit = this.bareUnit?.dimension === wanted ? this.bareUnit : systemUnit(this.scope.units, wanted);
    // Not the node itself: what is adopted is kept as long as the formula, the tree is not.
    const { from, to } = checked.span;
    this.adopted.push({ span: { from, to }, unit: unit.symbol, dimension: wanted });
    const typed = checked.amount
      ? constant(roundToDouble(multiplyRational(checked.amount, unit.factor)))
      : operation('multiply', [checked.typed, constant(unit.size)], checked.span, [checked.span, checked.span]);
    return this.give(typed, quantityType(wanted), checked.span);
  }

  // ---- one rule for each kind of node

  private checkLiteral(node: LiteralNode): Checked | undefined {
    const { amount, unit } = node;
    const scaled = unit ? multiplyRational(amount, unit.factor) : amount;
    const value = roundToDouble(unit?.offset ? addRational(scaled, unit.offset) : scaled);
    if (value - value !== 0) return this.report('overflow', 'This number is too large.', node);
    if (!unit) return { typed: constant(value), type: PLAIN_NUMBER, isBare: true, amount, span: node };
    if (unit.offset) return this.give(constant(value), TEMPERATURE_POINT, node);
    return this.refuseNamedUnit(node, unit) ? undefined : this.give(constant(value), quantityType(unit.dimension), node);
  }

  /**
   * A unit whose symbol is also the name of a value: where the value is what the symbol measures (a length called `m`), both
   * readings are good and the formula is refused; where it is not, it is the unit, and the product is kept for a repair.
   */
  private refuseNamedUnit(node: LiteralNode | UnitedNode, unit: Unit): boolean {
    const { word } = node;
    const meaning = word && word.symbol !== this.scope.ownName ? this.scope.resolve(word.symbol, undefined) : undefined;
    const symbol = word ? findUnit(word.symbol) : undefined;
    if (!word || !symbol || meaning?.kind !== 'value' || meaning.type.kind !== 'quantity') return false;
    const number = this.text.slice(node.from, word.from).trimEnd();
    const product = { label: `${number}*${word.symbol}`, from: node.from, to: word.to, text: `${number}*${word.symbol}` };
    if (meaning.type.dimension !== symbol.dimension) {
      this.products.push(product);
      return false;
    }
    // The other way to write it: spelled out, or by its symbol where it is spelled out already.
    const spelled = [spellUnit(unit.symbol), spellUnit(symbol.symbol)].find((one) => one !== undefined && one !== word.symbol) ?? symbol.symbol;
    const readings = [
      { ...product, label: `The value ${word.symbol}` },
      { label: `The unit ${word.symbol}`, from: node.from, to: word.to, text: `${number} ${spelled}` },
    ];
    this.report('ambiguous-unit', `${word.symbol} is a unit and also a value of this document; ${this.textOf(node)} can be read both ways.`, node, readings);
    return true;
  }

  checkBranches(yes: FormulaNode, no: FormulaNode): readonly [Checked | undefined, Checked | undefined] {
    const [a, waitsA] = this.checkBranch(yes);
    const [b, waitsB] = this.checkBranch(no);
    const never = (node: FormulaNode, other: Checked, waits: NonNullable<typeof waitsA>): Checked => ({
      ...this.give({ kind: 'slot', slot: waits.slot, name: this.textOf(node) }, other.type, node),
    });
    if (a && !b && waitsB) return [a, never(no, a, waitsB)];
    if (b && !a && waitsA) return [never(yes, b, waitsA), b];
    // Neither can be judged: both are told.
    for (const waits of [waitsA, waitsB]) if (waits && !(a ?? b)) this.diagnostics.push(...waits.diagnostics);
    return [a, b];
  }

  /** A node, or what it waits for and nothing else is wrong with. */
  private checkBranch(node: FormulaNode): [Checked | undefined, { readonly slot: number; readonly diagnostics: Diagnostic<FormulaCode>[] } | undefined] {
    const before = this.diagnostics.length;
    const waitedBefore = this.waitingSlots.length;
    const checked = this.check(node);
    const found = this.diagnostics.slice(before);
    const slot = this.waitingSlots[waitedBefore];
    if (checked || slot === undefined || found.some(({ code }) => code !== 'waiting')) return [checked, undefined];
    this.diagnostics.length = before;
    return [undefined, { slot, diagnostics: found }];
  }

  private checkName(node: NameNode): Checked | undefined {
    const meaning = this.scope.resolve(node.name, node.member);
    if (meaning?.kind === 'value') {
      return this.give({ kind: 'slot', slot: meaning.slot, name: this.textOf(node) }, meaning.type, node);
    }
    if (meaning?.kind === 'waiting') {
      this.waitingSlots.push(meaning.slot);
      return this.report('waiting', meaning.problem, node);
    }
    if (meaning?.kind === 'table') {
      return this.report('table-as-value', `${node.name} is a table; read a cell of it with lookup(${node.name}, key, "column").`, node);
    }
    const fixed = node.member === undefined ? CONSTANTS.get(node.name) : undefined;
    if (fixed) return this.give(constant(fixed.value), fixed.isYesNo ? YES_NO : PLAIN_NUMBER, node);
    return this.reportUnknown(node);
  }

  private reportUnknown(node: NameNode): undefined {
    const shown = this.textOf(node);
    const reserved = node.member === undefined ? describeReserved(node.name) : undefined;
    if (reserved === 'a function') {
      return this.report('unknown-name', `${shown} is a function; it needs its arguments in brackets.`, node, [
        { label: `${shown}(…)`, from: node.to, to: node.to, text: '()' },
      ]);
    }
    const yesNo = YES_NO_WORDS.get(shown.toLowerCase());
    if (yesNo !== undefined) {
      return this.report('unknown-name', `There is no value named ${shown} here; a condition is ${yesNo}.`, node, [
        { label: yesNo, from: node.from, to: node.to, text: yesNo },
      ]);
    }
    const near = findNearest(shown, [...this.scope.listNames(), ...CONSTANTS.keys()]);
    const sameLetters = near[0]?.toLowerCase() === shown.toLowerCase();
    const suggestion = near.length === 0 ? '' : sameLetters ? ` Upper and lower case count: there is ${near[0] ?? ''}.` : ` Did you mean ${listOr(near)}?`;
    return this.report(
      node.member === undefined ? 'unknown-name' : 'unknown-member',
      `There is no value named ${shown} here.${suggestion}`,
      node,
      near.map((name) => ({ label: name, from: node.from, to: node.to, text: name })),
    );
  }

  private checkNot(operand: FormulaNode, span: Span): Checked | undefined {
    const inner = this.checkYesNo(operand);
    return inner && this.give(operation('not', [inner.typed], span, [inner.span]), YES_NO, span);
  }

  private checkNegative(operand: FormulaNode, span: Span): Checked | undefined {
    const inner = this.check(operand);
    if (!inner) return undefined;
    if (inner.type.kind !== 'quantity') {
      return this.report('wrong-argument', `${this.textOf(inner.span)} is ${this.describe(inner)}: it has no negative.`, span);
    }
    const typed = operation('negate', [inner.typed], span, [inner.span]);
    const negative = { ...this.give(typed, inner.type, span, inner.isBare) };
    return inner.amount ? { ...negative, amount: { num: -inner.amount.num, den: inner.amount.den } } : negative;
  }

  /** The node as yes or no, or a diagnostic. */
  checkYesNo(node: FormulaNode): Checked | undefined {
    const checked = this.check(node);
    if (!checked || checked.type === YES_NO) return checked;
    return this.report('needs-yes-no', `${this.textOf(checked.span)} is ${this.describe(checked)}; a condition was expected here.`, checked.span);
  }

  private checkBinary(node: BinaryNode): Checked | undefined {
    switch (node.operator) {
      case 'and':
      case 'or': {
        const [left, right] = [this.checkYesNo(node.left), this.checkYesNo(node.right)];
        return left && right && this.give(operation(node.operator, [left.typed, right.typed], node, [left.span, right.span]), YES_NO, node);
      }
      case '+':
      case '-':
        return this.checkSum(node);
      case '*':
      case '/':
        return this.checkProduct(node);
      case '^':
        return this.checkPower(node);
      default:
        return this.checkComparison(node);
    }
  }

  private checkSum(node: BinaryNode): Checked | undefined {
    const [left, right] = [this.check(node.left), this.check(node.right)];
    if (!left || !right) return undefined;
    const name = node.operator === '+' ? 'add' : 'subtract';
    if (left.type === TEMPERATURE_POINT || right.type === TEMPERATURE_POINT) return this.checkTemperatureSum(node, left, right);
    if (left.type.kind !== 'quantity' || right.type.kind !== 'quantity') {
      return this.reportMix(left, right, node.operator === '+' ? 'cannot be added' : 'cannot be subtracted', node);
    }
    const both = this.unify([left, right], node.operator === '+' ? 'cannot be added' : 'cannot be subtracted', node);
    if (!both) return undefined;
    const typed = operation(
      name,
      both.nodes.map((n) => n.typed),
      node,
      [left.span, right.span],
    );
    return this.give(typed, both.type, node, both.isBare);
  }

  /** A temperature plus or minus a difference is a temperature; the difference of two is a quantity in K. */
  private checkTemperatureSum(node: BinaryNode, left: Checked, right: Checked): Checked | undefined {
    const difference = internDimension([0, 0, 0, 0, 1, 0, 0, 0]);
    const spans = [left.span, right.span];
    if (left.type === TEMPERATURE_POINT && right.type === TEMPERATURE_POINT && node.operator === '-') {
      return this.give(operation('subtract', [left.typed, right.typed], node, spans), quantityType(difference), node);
    }
    const [point, other] = left.type === TEMPERATURE_POINT ? [left, right] : [right, left];
    const shift = other.type === TEMPERATURE_POINT || other.isBare ? undefined : this.convert(other, difference);
    if (!shift || (node.operator === '-' && point === right)) {
      return this.report(
        'temperature-arithmetic',
        `To ${this.textOf(point.span)} only a difference in K can be added.`,
        node,
        undefined,
        'Write differences of temperature in K.',
      );
    }
    const name = node.operator === '+' ? 'add' : 'subtract';
    return this.give(operation(name, [point.typed, shift.typed], node, spans), TEMPERATURE_POINT, node);
  }

  private checkProduct(node: BinaryNode): Checked | undefined {
    const [left, right] = [this.check(node.left), this.check(node.right)];
    if (!left || !right) return undefined;
    for (const side of [left, right]) {
      if (side.type.kind !== 'quantity') {
        return this.report(
          'wrong-argument',
          `${this.textOf(side.span)} is ${this.describe(side)}: it cannot be ${node.operator === '*' ? 'multiplied' : 'divided'}.`,
          side.span,
        );
      }
    }
    if (left.type.kind !== 'quantity' || right.type.kind !== 'quantity') return undefined;
    const combine = node.operator === '*' ? multiplyDimensions : divideDimensions;
    const typed = operation(node.operator === '*' ? 'multiply' : 'divide', [left.typed, right.typed], node, [left.span, right.span]);
    const dimension = combine(left.type.dimension, right.type.dimension);
    return isNamable(dimension) ? this.give(typed, quantityType(dimension), node, left.isBare && right.isBare) : this.reportPower(node);
  }

  private checkPower(node: BinaryNode): Checked | undefined {
    const [base, exponent] = [this.check(node.left), this.check(node.right)];
    if (!base || !exponent) return undefined;
    if (base.type.kind !== 'quantity') {
      return this.report('wrong-argument', `${this.textOf(base.span)} is ${this.describe(base)}: it has no powers.`, base.span);
    }
    if (exponent.type !== PLAIN_NUMBER) {
      return this.report('wrong-argument', `An exponent must be a plain number; ${this.textOf(exponent.span)} is ${this.describe(exponent)}.`, exponent.span);
    }
    const typed = operation('power', [base.typed, exponent.typed], node, [base.span, exponent.span]);
    if (base.type === PLAIN_NUMBER) return this.give(typed, PLAIN_NUMBER, node, base.isBare && exponent.isBare);
    if (exponent.typed.kind !== 'constant') {
      return this.report(
        'power-not-constant',
        `${this.textOf(base.span)} is ${this.describe(base)}: its exponent must be a fixed number, or the unit of the result would change with ${this.textOf(exponent.span)}.`,
        exponent.span,
      );
    }
    if (Math.abs(exponent.typed.value) > MOST_EXPONENT) return this.reportPower(node);
    const dimension = fractionalPower(base.type.dimension, exponent.typed.value);
    if (dimension && !isNamable(dimension)) return this.reportPower(node);
    if (!dimension) {
      return this.report('no-root', `${nameDimension(base.type.dimension)} to the power ${this.textOf(exponent.span)} has no unit.`.replace(/^a/, 'A'), node);
    }
    return this.give(typed, quantityType(dimension), node);
  }

  private reportPower(span: Span): undefined {
    return this.report('power-too-high', `The unit of ${this.textOf(span)} would have a power beyond ±${MOST_EXPONENT}: no quantity has.`, span);
  }

  private checkComparison(node: BinaryNode): Checked | undefined {
    const [left, right] = [this.check(node.left), this.check(node.right)];
    if (!left || !right) return undefined;
    const both = this.unify([left, right], 'cannot be compared', node);
    if (!both) return undefined;
    const isOrdered = node.operator !== '==' && node.operator !== '!=';
    if (isOrdered && (both.type === TEXT || both.type === YES_NO)) {
      return this.report(
        'wrong-argument',
        `${this.describe(left).replace(/^a text/, 'Texts')} can only be compared with == and !=.`.replace(/^yes or no/, 'Yes and no'),
        node,
      );
    }
    const [a, b] = both.nodes.map((n) => n.typed);
    if (!a || !b) return undefined;
    const spans = [left.span, right.span];
    const compare = {
      '<': () => operation('less', [a, b], node, spans),
      '<=': () => operation('lessOrEqual', [a, b], node, spans),
      '>': () => operation('less', [b, a], node, spans),
      '>=': () => operation('lessOrEqual', [b, a], node, spans),
      '==': () => operation('equal', [a, b], node, spans),
      '!=': () => operation('unequal', [a, b], node, spans),
    };
    const operator = node.operator as keyof typeof compare;
    return this.give(compare[operator](), YES_NO, node);
  }

  private reportMix(a: Checked, b: Checked, verb: string, span: Span): undefined {
    return this.report(
      'mixed-dimensions',
      `${this.textOf(a.span)} is ${this.describe(a)} and ${this.textOf(b.span)} is ${this.describe(b)}: they ${verb}.`,
      span,
    );
  }
}

/** What other languages call yes and no. */
const YES_NO_WORDS: ReadonlyMap<string, string> = new Map([
  ['true', 'yes'],
  ['false', 'no'],
]);

/** Exponents times a whole number or a simple fraction; undefined unless all come out whole. */
function fractionalPower(dimension: Dimension, exponent: number): Dimension | undefined {
  if (Number.isInteger(exponent)) return powerDimension(dimension, exponent);
  for (const degree of [2, 3, 4, 6]) {
    const n = exponent * degree;
    if (Math.abs(n - Math.round(n)) < 1e-12) {
      const root = rootDimension(powerDimension(dimension, Math.round(n)), degree);
      if (root) return root;
    }
  }
  return undefined;
}
