/** How operations on columns are written as instructions of WebAssembly, on two lanes at a time; what is not here is a call. */
import type { OperationName } from '../formula';
import type { Operand } from './lane-machine';

export const CODE = {
  loop: [0x03, 0x40],
  end: [0x0b],
  branchIf: [0x0d],
  call: [0x10],
  localGet: [0x20],
  localSet: [0x21],
  localTee: [0x22],
  loadNumber: [0x2b, 0x03],
  constInteger: [0x41],
  less: [0x49],
  addInteger: [0x6a],
  load: [0xfd, 0x00, 0x04],
  store: [0xfd, 0x0b, 0x04],
  constPair: [0xfd, 0x0c],
  loadSplat: [0xfd, 0x0a, 0x03],
  splat: [0xfd, 0x14],
  takeLane: [0xfd, 0x21],
  putLane: [0xfd, 0x22],
  equal: [0xfd, 0x47],
  unequal: [0xfd, 0x48],
  lessPair: [0xfd, 0x49],
  lessOrEqualPair: [0xfd, 0x4b],
  not: [0xfd, 0x4d],
  and: [0xfd, 0x4e],
  andNot: [0xfd, 0x4f],
  or: [0xfd, 0x50],
  choose: [0xfd, 0x52],
  abs: [0xfd, 0xec, 0x01],
  negate: [0xfd, 0xed, 0x01],
  sqrt: [0xfd, 0xef, 0x01],
  add: [0xfd, 0xf0, 0x01],
  subtract: [0xfd, 0xf1, 0x01],
  multiply: [0xfd, 0xf2, 0x01],
  divide: [0xfd, 0xf3, 0x01],
  min: [0xfd, 0xf4, 0x01],
  max: [0xfd, 0xf5, 0x01],
} as const;

export type Instruction = keyof typeof CODE;

/** Writes instructions; what they work on is on a stack. */
export interface OperationPen {
  readonly put: (instruction: Instruction) => void;
  /** An operand of the operation. */
  readonly push: (operand: Operand) => void;
  readonly zero: () => void;
  /** The same number twice. */
  readonly pair: (value: number) => void;
  /** Refuses what is on the stack where an operand is not finite. */
  readonly orEndless: (operand: Operand) => void;
  /** Keeps what is on the stack, and leaves it there. */
  readonly keep: () => void;
  /** Refuses what is on the stack where what was kept last is not finite. */
  readonly orEndlessKept: () => void;
}

/** Leaves the result of an operation on the stack; operands are put there as often as they are needed. */
export type Written = (pen: OperationPen, a: Operand, b: Operand, c: Operand) => void;

const unary =
  (instruction: Instruction): Written =>
  (pen, a) => {
    pen.push(a);
    pen.put(instruction);
  };

const binary =
  (instruction: Instruction) =>
  (pen: OperationPen, a: Operand, b: Operand): void => {
    pen.push(a);
    pen.push(b);
    pen.put(instruction);
  };

/** 1 where the difference of the operands compares so to 0, 0 where not; refused where there is none. */
const comparison =
  (instruction: Instruction, isOtherWay = false): Written =>
  (pen, a, b) => {
    binary('subtract')(pen, a, b);
    pen.keep();
    pen.zero();
    pen.put(instruction);
    if (isOtherWay) pen.put('not');
    pen.pair(1);
    pen.put('and');
    pen.orEndlessKept();
  };

/** The lesser or the greater of two that are numbers. */
const ofTwo =
  (instruction: Instruction): Written =>
  (pen, a, b) => {
    binary(instruction)(pen, a, b);
    pen.orEndless(a);
    pen.orEndless(b);
  };

/** Where an operand is a number. */
function isEqual(pen: OperationPen, operand: Operand, to: 0 | 1): void {
  pen.push(operand);
  if (to === 0) pen.zero();
  else pen.pair(1);
  pen.put('equal');
}

/** Where one of two operands is a number. */
function isEither(pen: OperationPen, a: Operand, b: Operand, to: 0 | 1): void {
  isEqual(pen, a, to);
  isEqual(pen, b, to);
  pen.put('or');
}

export const WRITTEN: Readonly<Partial<Record<OperationName, Written>>> = {
  add: binary('add'),
  subtract: binary('subtract'),
  multiply: binary('multiply'),
  divide: (pen, a, b) => {
    binary('divide')(pen, a, b);
    isEqual(pen, b, 0);
    pen.put('or');
    pen.orEndless(b);
  },
  negate: unary('negate'),
  sqrt: unary('sqrt'),
  abs: unary('abs'),
  less: comparison('lessPair'),
  lessOrEqual: comparison('lessOrEqualPair'),
  equal: comparison('equal'),
  unequal: comparison('equal', true),
  and: (pen, a, b) => {
    binary('multiply')(pen, a, b);
    isEither(pen, a, b, 0);
    pen.put('andNot');
  },
  or: (pen, a, b) => {
    pen.pair(1);
    binary('add')(pen, a, b);
    isEither(pen, a, b, 1);
    pen.put('choose');
  },
  not: (pen, a) => {
    pen.pair(1);
    pen.push(a);
    pen.put('subtract');
  },
  min: ofTwo('min'),
  max: ofTwo('max'),
  select: (pen, a, b, c) => {
    pen.push(b);
    pen.push(c);
    pen.push(a);
    pen.zero();
    pen.put('unequal');
    pen.put('or');
    isEqual(pen, a, 1);
    pen.put('choose');
  },
  clamp: (pen, a, b, c) => {
    binary('max')(pen, a, b);
    pen.push(c);
    pen.put('min');
    pen.push(b);
    pen.push(c);
    pen.put('lessOrEqualPair');
    pen.put('not');
    pen.put('or');
    pen.orEndless(a);
  },
};
