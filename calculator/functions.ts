/** What the stand-in computes: three formulas of machine elements. Forces in N, lengths in mm, inside. */
import type { ServiceFunction } from '../src/outside/protocol';

type Numbers = Readonly<Record<string, number>>;

interface Computed extends ServiceFunction {
  /** From amounts in the units of the inputs to those of the outputs; words where there is no result. */
  readonly compute: (inputs: Numbers) => Numbers | string;
}

const of = (inputs: Numbers, key: string): number => inputs[key] ?? NaN;

export const FUNCTIONS: readonly Computed[] = [
  {
    name: 'shaft diameter',
    about: 'Least diameter of a solid round shaft in torsion: d = (16 T / (pi tau))^(1/3).',
    inputs: [
      { key: 'torque', kind: 'torque', unit: 'N*m', about: 'Torque that it carries' },
      { key: 'allowable', kind: 'pressure', unit: 'MPa', about: 'Allowable shear stress' },
    ],
    outputs: [{ key: 'diameter', kind: 'length', unit: 'mm' }],
    compute: (inputs) => {
      const [torque, allowable] = [of(inputs, 'torque'), of(inputs, 'allowable')];
      if (!(torque > 0 && allowable > 0)) return 'torque and allowable must be above zero';
      return { diameter: Math.cbrt((16 * torque * 1000) / (Math.PI * allowable)) };
    },
  },
  {
    name: 'rope brake',
    about: 'What a weighted rope holds that is laid round a drum: F = W (e^(2 pi n mu) - 1), after Euler and Eytelwein.',
    inputs: [
      { key: 'weight', kind: 'force', unit: 'N', about: 'Force at the slack end' },
      { key: 'wraps', kind: 'number', unit: '', about: 'Turns of the rope round the drum' },
      { key: 'friction', kind: 'number', unit: '', about: 'Coefficient of friction, rope on drum' },
      { key: 'drum', kind: 'length', unit: 'mm', about: 'Diameter of the drum' },
    ],
    outputs: [
      { key: 'holding force', kind: 'force', unit: 'N' },
      { key: 'torque', kind: 'torque', unit: 'N*m' },
    ],
    compute: (inputs) => {
      const [weight, wraps, friction, drum] = [of(inputs, 'weight'), of(inputs, 'wraps'), of(inputs, 'friction'), of(inputs, 'drum')];
      if (!(weight >= 0 && wraps >= 0 && friction >= 0 && drum > 0)) return 'no input may be negative, and the drum needs a diameter';
      const force = weight * Math.expm1(2 * Math.PI * wraps * friction);
      if (!Number.isFinite(force)) return 'the rope holds more than can be counted: fewer wraps';
      return { 'holding force': force, torque: (force * drum) / 2000 };
    },
  },
  {
    name: 'bearing life',
    about: 'Basic rating life of a ball bearing: L10 = (C / P)^3 million turns, after ISO 281.',
    inputs: [
      { key: 'rating', kind: 'force', unit: 'N', about: 'Basic dynamic load rating' },
      { key: 'load', kind: 'force', unit: 'N', about: 'Equivalent load' },
      { key: 'speed', kind: 'rotational speed', unit: 'rpm', about: 'Speed' },
    ],
    outputs: [
      { key: 'turns', kind: 'number', unit: '' },
      { key: 'life', kind: 'time', unit: 'h' },
    ],
    compute: (inputs) => {
      const [rating, load, speed] = [of(inputs, 'rating'), of(inputs, 'load'), of(inputs, 'speed')];
      if (!(rating > 0 && load > 0 && speed > 0)) return 'rating, load and speed must be above zero';
      const turns = (rating / load) ** 3 * 1e6;
      return { turns, life: turns / speed / 60 };
    },
  },
];
