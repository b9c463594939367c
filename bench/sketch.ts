import { levenbergMarquardt } from 'ml-levenberg-marquardt';
import { Matrix, SingularValueDecomposition } from 'ml-matrix';
import { analyseRowSpace } from '../src/core/numeric';
import { buildEquations } from '../src/core/sketch/build-equations';
import { SketchSystem } from '../src/core/sketch/system';
import type { SketchModel } from '../src/core/sketch';
import { SketchBuilder } from '../tests/support/sketches';
import { compare, type Row } from './support';

/** A ladder of `rungs` squares, fully constrained: two constraints for each new point. */
export function ladder(constraints: number): SketchModel {
  const sketch = new SketchBuilder().point('a0', 0, 0).point('b0', 10, 0.2);
  sketch.relate('coincident', 'a0', 'origin').relate('horizontal', 'a0', 'b0').measure('length', 10, 'a0', 'b0');
  for (let i = 1; i < (constraints - 4) / 4; i++) {
    const lean = ((i * 7) % 5) * 0.1;
    sketch.point(`a${i}`, lean, i * 9).point(`b${i}`, 10 + lean, i * 9 + 0.3);
    sketch.line(`l${i}`, `a${i - 1}`, `a${i}`).line(`r${i}`, `b${i - 1}`, `b${i}`);
    sketch
      .measure('length', 9 + ((i * 3) % 4) * 0.25, `l${i}`)
      .measure('length', 9.2, `r${i}`)
      .measure('length', 10 + (i % 3) * 0.2, `a${i}`, `b${i}`)
      .measure('length', 13.2, `a${i - 1}`, `b${i}`);
  }
  return sketch.model;
}

export function benchSketch(): Row[] {
  return [20, 100, 300].flatMap((size, i) => benchSize(ladder(size), ['8 x', '30 x', '400 x'][i] ?? ''));
}

function benchSize(model: SketchModel, reach: string): Row[] {
  const built = buildEquations(model);
  const { count, start } = built.variables;
  const system = new SketchSystem(built.equations, count, start.length);
  const solved = start.slice();
  if (!system.solve(solved)) throw new Error('the ladder does not solve');
  const driven = built.equations.find((equation) => built.moving.has(equation.source));
  if (!driven) throw new Error('no dimension');
  const goal = driven.target;
  const x = solved.slice();
  const name = `${built.equations.length} equations, ${count} unknowns, one dimension +2 %`;
  const rows = [
    compare(
      name,
      reach,
      {
        name: 'warpbeam',
        count: Math.ceil(4000 / count),
        run: (times) => {
          for (let n = 0; n < times; n++) {
            x.set(solved);
            driven.target = goal * 1.02;
            if (!system.solve(x)) throw new Error('not solved');
          }
        },
      },
      { name: 'ml-levenberg-marquardt, same Jacobian', count: 1, run: () => solveWithLibrary(system, solved, count, () => (driven.target = goal * 1.02)) },
    ),
  ];
  driven.target = goal;
  if (count > 250) {
    const jacobian = system.rows(solved);
    const dense = Matrix.zeros(jacobian.length, count);
    jacobian.forEach((entries, row) => {
      for (let p = 0; p + 1 < entries.length; p += 2) dense.set(row, entries[p] ?? 0, entries[p + 1] ?? 0);
    });
    rows.push(
      compare(
        `degrees of freedom of ${count} unknowns`,
        '10 x',
        { name: 'warpbeam', count: 2, run: (times) => repeat(times, () => analyseRowSpace(jacobian, count)) },
        {
          name: 'ml-matrix SVD',
          count: 1,
          run: () => new SingularValueDecomposition(dense, { computeLeftSingularVectors: false, computeRightSingularVectors: false }).rank,
        },
      ),
    );
  }
  return rows;
}

/** The library fits y = f(row, parameters): here y is 0 and f the residual of that row. */
function solveWithLibrary(system: SketchSystem, solved: Float64Array, count: number, prepare: () => void): void {
  prepare();
  const rows = system.equations.length;
  const x = solved.slice();
  levenbergMarquardt(
    { x: Array.from({ length: rows }, (_, i) => i), y: new Array<number>(rows).fill(0) },
    (parameters: number[]) => {
      x.set(parameters);
      const residuals = system.residuals(x);
      return (row: number) => residuals[row] ?? 0;
    },
    {
      initialValues: [...solved.slice(0, count)],
      gradientDifference: 1e-6,
      maxIterations: 30,
      errorTolerance: 1e-16,
      damping: 1e-3,
      jacobianFunction: (parameters: number[]) => {
        x.set(parameters);
        const jacobian = system.rows(x).map((entries) => {
          const row = new Array<number>(count).fill(0);
          for (let p = 0; p + 1 < entries.length; p += 2) row[entries[p] ?? 0] = entries[p + 1] ?? 0;
          return row;
        });
        return (row: number) => jacobian[row] ?? [];
      },
    },
  );
}

function repeat(count: number, work: () => unknown): void {
  for (let i = 0; i < count; i++) work();
}
