import { DepGraph } from 'dependency-graph';
import { HyperFormula } from 'hyperformula';
import { ANY_SLOT } from '../src/core/formula';
import { findCycle, orderGraph, sampleSheet, Sheet } from '../src/core/network';
import { MILLIMETRES } from '../src/core/units';
import { compare, type Row } from './support';

const COUNT = 10_000;
const STATES = 1_024;

/** Eight shapes of formula; each value reads two earlier ones, so that one change reaches all. */
function formulas(count: number): string[] {
  const texts = ['25'];
  for (let i = 1; i < count; i++) {
    const [a, b] = [`n_${(i - 1) >> 1}`, `n_${Math.floor((i - 1) / 3)}`];
    const k = ((i * 37) % 89) / 100 + 0.1;
    texts.push(
      [
        `${k}*${a} + 0.2*${b}`,
        `${a}*0.5 + ${b}*${k} - ${k}`,
        `(${a} + ${b})/${2 + k}`,
        `${a} - ${b}*${k} + ${i % 13}`,
        `sqrt(${a}*${a} + ${k})*0.7 + ${b}*0.1`,
        `${a}/(1 + ${k}) + ${b}/3`,
        `${k}*(${a} - ${b}) + ${a}`,
        `-${a}*${k} + 2*${b}`,
      ][i % 8] ?? a,
    );
  }
  return texts;
}

const withUnit = (text: string, i: number): string => (i === 0 ? `${text} mm` : text);

function build(texts: readonly string[]): Sheet {
  const sheet = new Sheet(MILLIMETRES);
  texts.forEach((text, i) => {
    // A square of a length, rooted, plus a bare number needs the number to be an area.
    const typed = i === 0 ? withUnit(text, i) : text.replace(/sqrt\((n_\d+)\*n_\d+ \+ ([\d.]+)\)/, 'sqrt($1*$1 + $2 mm^2)');
    const name = `n_${i}`;
    sheet.define(name, { kind: 'formula', name, text: typed, slot: ANY_SLOT });
  });
  sheet.settle();
  return sheet;
}

function buildHyper(texts: readonly string[]): HyperFormula {
  const engine = HyperFormula.buildEmpty({ licenseKey: 'gpl-v3' });
  engine.batch(() => {
    texts.forEach((text, i) => engine.addNamedExpression(`n_${i}`, i === 0 ? Number(text) : `=${text.replace(/sqrt/g, 'SQRT')}`));
  });
  return engine;
}

/** A value with a cone of ten: a chain hung on the last value of the tree. */
const TAIL = Array.from({ length: 10 }, (_, i) => (i === 0 ? 'driver*2' : `q_${i - 1} + 1`));

export function benchNetwork(): Row[] {
  const texts = formulas(COUNT);
  const sheet = build(texts);
  const hyper = buildHyper(texts);
  sheet.define('driver', { kind: 'formula', name: 'driver', text: '5 mm', slot: ANY_SLOT });
  TAIL.forEach((text, i) => sheet.define(`q_${i}`, { kind: 'formula', name: `q_${i}`, text, slot: ANY_SLOT }));
  sheet.settle();
  hyper.addNamedExpression('driver', 5);
  TAIL.forEach((text, i) => hyper.addNamedExpression(`q_${i}`, `=${text}`));
  let tick = 0;
  const many = Float64Array.from({ length: STATES }, (_, i) => 200_000 + 37 * i);
  const leaves = Array.from({ length: COUNT / 2 }, (_, i) => `n_${COUNT / 2 + i}`);
  const sampled = { name: 'warpbeam', count: STATES, run: () => sampleSheet(sheet, new Map([['n_0', many]]), leaves, STATES) };
  const changed = { name: 'hyperformula, named', count: 1, run: () => hyper.changeNamedExpression('n_0', 25 + (tick++ % 7)) };
  const rows = [
    compare(
      'network of 10,000 values, whole cone',
      '50 x',
      {
        name: 'warpbeam',
        count: 20,
        run: (count) =>
          change(
            count,
            (v) => sheet.setNumber('n_0', v * 10_000),
            () => sheet.settle(),
          ),
      },
      {
        name: 'hyperformula, named expressions',
        count: 1,
        run: (count) =>
          change(
            count,
            (v) => hyper.changeNamedExpression('n_0', v),
            () => undefined,
          ),
      },
    ),
    compare(
      'the same network, a cone of 10',
      '50 x',
      {
        name: 'warpbeam',
        count: 20_000,
        run: (count) =>
          change(
            count,
            (v) => sheet.setNumber('driver', v * 10_000),
            () => sheet.settle(),
          ),
      },
      {
        name: 'hyperformula, named expressions',
        count: 200,
        run: (count) =>
          change(
            count,
            (v) => hyper.changeNamedExpression('driver', v),
            () => undefined,
          ),
      },
    ),
    compare('the network of 10,000 in 1,024 states, at first: for each', '', sampled, changed),
    // Engines have made fast code of both by then.
    compare('the same, from the tenth run on: for each', '300 x; goal 1,000 x', sampled, changed),
    compare(
      'build 10,000 formulas',
      '4 x',
      { name: 'warpbeam', count: 1, run: () => build(texts) },
      { name: 'hyperformula', count: 1, run: () => buildHyper(texts) },
    ),
  ];
  return [...rows, ...benchOrder()];

  function change(count: number, set: (value: number) => void, settle: () => void): void {
    for (let i = 0; i < count; i++) {
      // Every write changes the value: an equal one would not be computed.
      set(20 + (tick++ % 1000) * 0.01);
      settle();
    }
  }
}

/** Best run by itself: what other benches leave on the heap is in its way. */
export function benchMemory(): Row[] {
  const texts = formulas(COUNT);
  const collect = globalThis.gc;
  if (!collect) return [];
  const retained = (make: () => unknown): number => {
    for (let i = 0; i < 3; i++) collect();
    const before = process.memoryUsage();
    const kept = make();
    for (let i = 0; i < 3; i++) collect();
    const after = process.memoryUsage();
    const bytes = after.heapUsed + after.arrayBuffers - before.heapUsed - before.arrayBuffers;
    return kept === undefined ? NaN : bytes / COUNT;
  };
  const [ours, theirs] = [retained(() => build(texts)), retained(() => buildHyper(texts))];
  return [
    {
      what: 'memory for each value, source text included',
      ours: `${ours.toFixed(0)} B`,
      baseline: `hyperformula ${theirs.toFixed(0)} B`,
      ratio: theirs / ours,
      reach: '3 x',
    },
  ];
}

function benchOrder(): Row[] {
  const reads = Array.from({ length: COUNT }, (_, i) => (i === 0 ? [] : [(i - 1) >> 1, Math.floor((i - 1) / 3)]));
  const ring = Array.from({ length: COUNT }, (_, i) => [(i + 1) % COUNT]);
  const [tree, circle] = [reads, ring].map((edges) => {
    const graph = new DepGraph<undefined>();
    edges.forEach((_, node) => graph.addNode(`n${node}`));
    edges.forEach((others, node) => others.forEach((other) => graph.addDependency(`n${node}`, `n${other}`)));
    return graph;
  });
  const cyclePath = (): number => findCycle(COUNT, (node) => ring[node] ?? [])?.length ?? 0;
  const libraryPath = (): string | undefined => {
    try {
      circle?.overallOrder();
      return undefined;
    } catch (problem) {
      return String(problem);
    }
  };
  return [
    compare(
      'order of 10,000',
      '10 x',
      { name: 'warpbeam', count: 20, run: (count) => repeat(count, () => orderGraph(COUNT, (node) => reads[node] ?? [])) },
      { name: 'dependency-graph', count: 2, run: (count) => repeat(count, () => tree?.overallOrder()) },
    ),
    compare(
      'path of a cycle of 10,000',
      '10 x',
      { name: 'warpbeam', count: 10, run: (count) => repeat(count, cyclePath) },
      { name: 'dependency-graph', count: 2, run: (count) => repeat(count, libraryPath) },
    ),
  ];
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}
