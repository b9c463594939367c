/** The rules of the functions: what each asks of its arguments, and what it gives back. */
import { findNearest } from '../kit';
import { ANGLE, rootDimension } from '../units';
import type { Checked, Checking } from './checking';
import { CONSTANTS, RULE_DIMENSIONS, findFunction, listFunctions, type FormulaFunction, type FunctionRule } from './functions';
import { describeDimension, listOr, nameDimension } from './messages';
import type { OperationName } from './operations';
import type { CallNode, FormulaNode } from './syntax';
import { constant, operation, type TypedNode } from './typed-tree';
import { PLAIN_NUMBER, TEMPERATURE_POINT, TEXT, quantityType } from './value-type';

export function checkCall(checker: Checking, node: CallNode): Checked | undefined {
  const found = findFunction(node.callee);
  if (!found) return reportUnknownFunction(checker, node);
  if (node.args.length < found.least || node.args.length > found.most) {
    return checker.report('argument-count', `${found.name} takes ${countOf(found)}: ${found.signature}.`, node);
  }
  const { rule } = found;
  switch (rule.kind) {
    case 'lookup':
    case 'interp':
      return checkLookup(checker, node, rule.kind);
    case 'if':
      return checkIf(checker, node);
    default: {
      const args = node.args.map((arg) => checker.check(arg));
      const present = args.filter((arg) => arg !== undefined);
      return present.length === args.length ? checkNumeric(checker, node, rule, present) : undefined;
    }
  }
}

function checkNumeric(checker: Checking, node: CallNode, rule: FunctionRule, args: readonly Checked[]): Checked | undefined {
  const [first] = args;
  if (!first) return undefined;
  switch (rule.kind) {
    case 'angle':
    case 'plain':
      return checkFixed(checker, node, rule, first);
    case 'same':
      return checkSame(checker, node, rule, args);
    case 'fold':
      return checkFold(checker, node, rule, args);
    case 'root':
      return checkRoot(checker, node, rule, first);
    case 'step':
      return checkStep(checker, node, rule.operation, args);
    case 'clamp':
      return checkClamp(checker, node, args);
    default:
      return undefined;
  }
}

function checkFixed(checker: Checking, node: CallNode, rule: Extract<FunctionRule, { readonly kind: 'angle' | 'plain' }>, arg: Checked): Checked | undefined {
  const wanted = RULE_DIMENSIONS[rule.kind];
  const fitted = checker.convert(arg, wanted);
  if (!fitted) {
    const isPlainForAngle = wanted === ANGLE && arg.type === PLAIN_NUMBER;
    return checker.report(
      isPlainForAngle ? 'plain-is-no-angle' : 'wrong-argument',
      `${node.callee} takes ${describeDimension(wanted)}; ${checker.textOf(arg.span)} is ${checker.describe(arg)}.`,
      arg.span,
      isPlainForAngle
        ? [
            { label: 'It is in degrees', from: arg.span.from, to: arg.span.to, text: `(${checker.textOf(arg.span)}) deg` },
            { label: 'It is in radians', from: arg.span.from, to: arg.span.to, text: `(${checker.textOf(arg.span)}) rad` },
          ]
        : undefined,
    );
  }
  const typed = operation(rule.operation, [fitted.typed], node, [arg.span]);
  if (rule.kind === 'angle') return checker.give(typed, PLAIN_NUMBER, node);
  return rule.gives === 'angle' ? checker.give(typed, quantityType(ANGLE), node) : checker.give(typed, PLAIN_NUMBER, node, arg.isBare);
}

function checkSame(checker: Checking, node: CallNode, rule: Extract<FunctionRule, { readonly kind: 'same' }>, args: readonly Checked[]): Checked | undefined {
  const quantities = requireQuantities(checker, node, args);
  const unified = quantities && checker.unify(quantities, `do not fit together in ${node.callee}`, node);
  if (!unified) return undefined;
  const typed = operation(rule.operation, typedOf(unified.nodes), node, spansOf(args));
  if (rule.gives === 'angle') return checker.give(typed, quantityType(ANGLE), node);
  return checker.give(typed, rule.gives === 'plain' ? PLAIN_NUMBER : unified.type, node, unified.isBare);
}

function checkFold(checker: Checking, node: CallNode, rule: Extract<FunctionRule, { readonly kind: 'fold' }>, args: readonly Checked[]): Checked | undefined {
  const isChoice = rule.operation === 'min' || rule.operation === 'max';
  const temperatures = isChoice && args.every((arg) => arg.type === TEMPERATURE_POINT);
  const usable = temperatures ? args : requireQuantities(checker, node, args);
  const unified = usable && checker.unify(usable, `do not fit together in ${node.callee}`, node);
  if (!unified) return undefined;
  const [head, ...rest] = typedOf(unified.nodes);
  if (!head) return undefined;
  let typed = rest.reduce((left, right) => operation(rule.operation, [left, right], node, [node, node]), head);
  if (rest.length === 0 && rule.operation === 'hypot') typed = operation('abs', [head], node, [node]);
  if (rule.isMean === true) typed = operation('divide', [typed, constant(args.length)], node, [node, node]);
  return checker.give(typed, unified.type, node, unified.isBare);
}

function checkRoot(checker: Checking, node: CallNode, rule: Extract<FunctionRule, { readonly kind: 'root' }>, arg: Checked): Checked | undefined {
  if (!requireQuantities(checker, node, [arg]) || arg.type.kind !== 'quantity') return undefined;
  const dimension = rootDimension(arg.type.dimension, rule.degree);
  if (!dimension) {
    return checker.report(
      'no-root',
      `The ${rule.degree === 2 ? 'square' : 'cube'} root of ${nameDimension(arg.type.dimension)} has no unit; ${node.callee} takes a plain number or ${rule.degree === 2 ? 'an area' : 'a volume'}.`,
      arg.span,
    );
  }
  return checker.give(operation(rule.operation, [arg.typed], node, [arg.span]), quantityType(dimension), node, arg.isBare);
}

/** `floor(x)` of a plain number, or `floor(x, step)`: whole multiples of a step of the same dimension. */
function checkStep(checker: Checking, node: CallNode, round: OperationName, args: readonly Checked[]): Checked | undefined {
  const [value, size] = args;
  if (!value || !requireQuantities(checker, node, args)) return undefined;
  if (!size) {
    if (value.type === PLAIN_NUMBER) return checker.give(operation(round, [value.typed], node, [value.span]), PLAIN_NUMBER, node, value.isBare);
    const shown = checker.textOf(value.span);
    const unit = value.type.kind === 'quantity' && nameDimension(value.type.dimension) === 'a length' ? '1 mm' : undefined;
    return checker.report(
      'wrong-argument',
      `${node.callee} takes a plain number; ${shown} is ${checker.describe(value)}. Give it a step to round to multiples of that.`,
      value.span,
      unit === undefined ? undefined : [{ label: `${node.callee}(${shown}, ${unit})`, from: value.span.to, to: value.span.to, text: `, ${unit}` }],
    );
  }
  const unified = checker.unify([value, size], `do not fit together in ${node.callee}`, node);
  const [x, by] = unified ? typedOf(unified.nodes) : [];
  if (!unified || !x || !by) return undefined;
  const steps = operation('divide', [x, by], node, [value.span, size.span]);
  const typed = operation('multiply', [operation(round, [steps], node, [node]), by], node, [node, size.span]);
  return checker.give(typed, unified.type, node, unified.isBare);
}

function checkClamp(checker: Checking, node: CallNode, args: readonly Checked[]): Checked | undefined {
  const quantities = requireQuantities(checker, node, args);
  const unified = quantities && checker.unify(quantities, 'do not fit together in clamp', node);
  const [x, low, high] = unified ? typedOf(unified.nodes) : [];
  if (!unified || !x || !low || !high) return undefined;
  const held = operation('clamp', [x, low, high], node, spansOf(args));
  return checker.give(held, unified.type, node, unified.isBare);
}

function checkIf(checker: Checking, node: CallNode): Checked | undefined {
  const [condition, yes, no] = node.args;
  if (!condition || !yes || !no) return undefined;
  const test = checker.checkYesNo(condition);
  const [a, b] = checker.checkBranches(yes, no);
  if (!test || !a || !b) return undefined;
  const unified = checker.unify([a, b], 'cannot be the two results of one if', node);
  const [first, second] = unified ? typedOf(unified.nodes) : [];
  if (!unified || !first || !second) return undefined;
  const typed: TypedNode =
    test.typed.kind === 'constant'
      ? test.typed.value === 1
        ? first
        : second
      : operation('select', [test.typed, first, second], node, [test.span, a.span, b.span]);
  return checker.give(typed, unified.type, node, unified.isBare);
}

function checkLookup(checker: Checking, node: CallNode, kind: 'lookup' | 'interp'): Checked | undefined {
  const [tableNode, keyNode, columnNode] = node.args;
  if (!tableNode || !keyNode || !columnNode) return undefined;
  const meaning = tableNode.type === 'name' ? checker.scope.resolve(tableNode.name, tableNode.member) : undefined;
  if (meaning?.kind !== 'table') {
    return checker.report('wrong-argument', `The first argument of ${kind} is the name of a table; ${checker.textOf(tableNode)} is not one.`, tableNode);
  }
  const { table } = meaning;
  const column = findColumn(
    checker,
    table.columns.map((c) => c.name),
    table.name,
    columnNode,
  );
  const key = checker.check(keyNode);
  const [keys] = table.columns;
  const chosen = column === undefined ? undefined : table.columns[column];
  if (!key || !keys || !chosen || column === undefined) return undefined;
  const fitted = keys.type.kind === 'quantity' ? checker.convert(key, keys.type.dimension) : key.type === keys.type ? key : undefined;
  if (!fitted) {
    const wanted = keys.type.kind === 'quantity' ? describeDimension(keys.type.dimension) : 'a text';
    return checker.report(
      'wrong-argument',
      `The keys of ${table.name} are ${wanted.replace(/^an? /, '')}s; ${checker.textOf(key.span)} is ${checker.describe(key)}.`,
      key.span,
    );
  }
  if (kind === 'interp' && (keys.type === TEXT || chosen.type === TEXT)) {
    return checker.report('wrong-argument', 'Texts cannot be interpolated; use lookup.', node.calleeSpan, [
      { label: 'lookup', from: node.calleeSpan.from, to: node.calleeSpan.to, text: 'lookup' },
    ]);
  }
  const typed: TypedNode = {
    kind: 'lookup',
    operation: kind === 'lookup' ? 'lookup' : 'interpolate',
    table,
    column,
    key: fitted.typed,
    span: node,
  };
  return checker.give(typed, chosen.type, node);
}

function findColumn(checker: Checking, names: readonly string[], table: string, node: FormulaNode): number | undefined {
  if (node.type !== 'text') {
    return checker.report('wrong-argument', `The column of ${table} is given as a text, such as "${names[1] ?? names[0] ?? 'size'}".`, node);
  }
  const index = names.indexOf(node.value);
  if (index >= 0) return index;
  return checker.report(
    'unknown-column',
    `${table} has no column "${node.value}"; it has ${listOr(names.map((name) => `"${name}"`)).replace(/ or /, ' and ')}.`,
    node,
    names.map((name) => ({ label: name, from: node.from, to: node.to, text: `"${name}"` })),
  );
}

function requireQuantities(checker: Checking, node: CallNode, args: readonly Checked[]): readonly Checked[] | undefined {
  const odd = args.find((arg) => arg.type.kind !== 'quantity');
  if (!odd) return args;
  return checker.report('wrong-argument', `${node.callee} takes numbers; ${checker.textOf(odd.span)} is ${checker.describe(odd)}.`, odd.span);
}

function reportUnknownFunction(checker: Checking, node: CallNode): undefined {
  const meaning = checker.scope.resolve(node.callee, undefined);
  if (meaning ?? CONSTANTS.get(node.callee)) {
    return checker.report('unknown-function', `${node.callee} is a value, not a function; an operator is missing before the bracket.`, node.calleeSpan, [
      { label: 'Multiply', from: node.calleeSpan.to, to: node.calleeSpan.to, text: '*' },
    ]);
  }
  const near = findNearest(
    node.callee,
    listFunctions().map((entry) => entry.name),
  );
  const { from, to } = node.calleeSpan;
  return checker.report(
    'unknown-function',
    `There is no function ${node.callee}.${near.length > 0 ? ` Did you mean ${listOr(near)}?` : ''}`,
    node.calleeSpan,
    near.map((name) => ({ label: name, from, to, text: name })),
  );
}

function countOf(found: FormulaFunction): string {
  if (found.least === found.most) return `${found.least} argument${found.least === 1 ? '' : 's'}`;
  return found.most >= 50 ? 'one argument or more' : `${found.least} or ${found.most} arguments`;
}

function typedOf(nodes: readonly Checked[]): TypedNode[] {
  return nodes.map((node) => node.typed);
}

function spansOf(nodes: readonly Checked[]) {
  return nodes.map((node) => node.span);
}
