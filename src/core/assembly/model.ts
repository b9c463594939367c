/**
 * Components and mates as the placement solver sees them. Millimetres and radians; geometry is given in the space of its own component.
 */
import type { MateKind } from '../document';

import type { Quaternion, Stance } from '../instances';
import type { Point3 } from '../geometry';

/**
 * What a mate holds on to: a plane with its normal out of the material, a line with a direction (the axis of a cylinder, with its radius), or a
 * point (the middle of a sphere, with its radius). Unit vectors.
 */
export type MateGeometry =
  | { readonly kind: 'plane'; readonly point: Point3; readonly normal: Point3 }
  | { readonly kind: 'line'; readonly point: Point3; readonly direction: Point3; readonly radius?: number }
  | { readonly kind: 'point'; readonly point: Point3; readonly radius?: number };

export interface MatedBody {
  readonly id: string;
  /** Where the solve starts. */
  readonly at: Stance;
  readonly isHeld: boolean;
}

export interface MateSide {
  readonly body: string;
  readonly geometry: MateGeometry;
}

export interface Mate {
  readonly id: string;
  /** `copy`: the second is to the third as the first is, moved by `within` in the space of the third. */
  readonly kind: MateKind | 'copy';
  readonly first: MateSide;
  readonly second: MateSide;
  /** The other face that something is centred between, the other end of a slot, or what two geared bodies turn in. */
  readonly third?: MateSide;
  /**
   * Whether normals or directions run the same way or are opposed; of two that are geared, whether they turn the same way; of a screw, whether
   * it is right-handed; of round ones that touch, whether from outside.
   */
  readonly sense: 1 | -1;
  /**
   * Distance of the second from the first along the first's normal, in millimetres; the angle in radians; turns of the second for one of the
   * first; or travel for a turn, in millimetres.
   */
  readonly value: number;
  /** Instead of the value: between what it moves freely. */
  readonly limits?: { readonly least: number; readonly most: number };
  /** Of an angle: the direction that it is about, in the space of the first. */
  readonly about?: Point3;
  /** Of two that are together: where the second stands within the first; of a screw: where it stood there before any turn; of a copy: its movement. */
  readonly within?: Stance;
  /** Of two that are geared: how each stood in the third before any turn. */
  readonly starts?: readonly [Quaternion, Quaternion];
  /** Those of its equations, by their places among them, that give way to the other mates: told is by how much they are off. */
  readonly yielding?: readonly number[];
  /** How far the first of two geared bodies has turned where the solve starts, a screw, or what an angle with limits is; over full turns. */
  readonly turned?: number;
}

/** One body is dragged: a point of it, in its own space, is to come as near to a place in the assembly as the mates let it. */
export interface Pull {
  readonly body: string;
  readonly point: Point3;
  readonly to: Point3;
}

export type PlacementStatus = 'placed' | 'conflicting' | 'not-converged';

/** By mate: some of its equations, by their places among them. */
export type EquationsOfMates = ReadonlyMap<string, readonly number[]>;

/** Equations that give way to the others; those of rigid sub-assemblies by their documents. */
export interface Yielding {
  readonly own: EquationsOfMates;
  readonly inside: ReadonlyMap<string, EquationsOfMates>;
}

export const NONE_YIELDING: Yielding = { own: new Map(), inside: new Map() };

/** By how much equations that gave way are off, at most: millimetres, or radians. */
export interface Misfit {
  readonly amount: number;
  readonly isLength: boolean;
}

export interface Placements {
  readonly stances: ReadonlyMap<string, Stance>;
  readonly status: PlacementStatus;
  /** Mates that add nothing to those before them. */
  readonly redundant: readonly string[];
  /**
   * By mate: which of its equations add nothing to those before them, by their places among them. Where sizes are a little off they no longer hold with the
   * others: they are the ones to give way.
   */
  readonly dependent: EquationsOfMates;
  /** By mate with equations that give way. */
  readonly misfits: ReadonlyMap<string, Misfit>;
  /** A smallest set of mates that cannot hold together. */
  readonly conflicting: readonly string[];
  /** By body: in how many ways it can still move, at most. Held ones are not there. */
  readonly freedom: ReadonlyMap<string, number>;
  /** Degrees of freedom of everything together. */
  readonly degreesOfFreedom: number;
  /** By mate: how far it has turned, in radians, of those that count full turns. */
  readonly turned: ReadonlyMap<string, number>;
  readonly iterations: number;
}
