/** What can still move in an assembly: in words, and moved for a moment. */
import { across, type FreeMotion, type Pull } from '@/core/assembly';
import type { DocumentValues } from '@/core/document';
import type { Point3 } from '@/core/geometry';
import { inverse, rotate, turnAbout, type Stance } from '@/core/instances';
import { followPath } from './follow-path';
import type { DocumentSession } from '../state/document-session';

const AXES = ['x', 'y', 'z'] as const;
/** Directions within this of an axis are called by it. */
const ALONG_AXIS = 1e-6;
/** More than these are counted. */
const MOST_TOLD = 4;

/** `beam turns about x; rail slides along y and z; 3 more can move`. */
export function freeWords(values: DocumentValues, motions: ReadonlyMap<string, readonly FreeMotion[]>): string {
  const told = [...motions].map(([body, own]) => `${followPath(values, body.split(' ')).component} ${motionWords(own)}`);
  const more = told.length - MOST_TOLD;
  return [...told.slice(0, MOST_TOLD), ...(more > 0 ? [`${more} more can move`] : [])].join('; ');
}

/** What one body can do: `turns about x and slides along x`. */
export function motionWords(motions: readonly FreeMotion[]): string {
  const turns = motions.filter(isTurn);
  const slides = motions.filter((motion) => !isTurn(motion));
  const told = [
    ...(turns.length === 0 ? [] : [turns.length === 3 ? 'turns in any direction' : `turns about ${listed(turns.map(({ turn }) => direction(turn)))}`]),
    ...(slides.length === 0 ? [] : [slides.length === 3 ? 'slides in any direction' : `slides along ${listed(slides.map(({ shift }) => direction(shift)))}`]),
  ];
  return told.join(' and ');
}

function isTurn({ turn }: FreeMotion): boolean {
  return Math.hypot(...turn) > 0.5;
}

function direction(way: Point3): string {
  const length = Math.hypot(...way);
  const axis = way.findIndex((part) => Math.abs(part) > length * (1 - ALONG_AXIS));
  return AXES[axis] ?? 'a slanted line';
}

function listed(words: readonly string[]): string {
  return [...new Set(words)].join(' and ');
}

const ONE_MOTION_MS = 800;
/** Of the size of everything, and in radians. */
const REACH = 0.06;
const SWING = 0.35;
const STILL: Point3 = [0, 0, 0];

/** Moves what is free there and back, one body after the other, as the mates let it. Ends early by what it gives. */
export function showFreeMotions(session: DocumentSession): () => void {
  const placement = session.store.getState().placement;
  const box = session.geometry.assembly?.box();
  const size = box ? Math.max(...box.max.map((value, i) => value - (box.min[i] ?? 0))) : 100;
  const all = [...(placement?.motions() ?? [])].slice(0, MOST_TOLD).flatMap(([body, motions]) => motions.slice(0, 1).map((motion) => ({ body, motion })));
  const start = performance.now();
  let frame = 0;
  let isOver = false;
  const end = (): void => {
    cancelAnimationFrame(frame);
    if (!isOver) session.endDrag(false);
    isOver = true;
  };
  const move = (now: number): void => {
    // A frame may have begun before this was asked for.
    const since = Math.max(0, now - start);
    const one = all[Math.floor(since / ONE_MOTION_MS)];
    const stance = one && placement?.stances.get(one.body);
    if (!one || !stance) {
      end();
      return;
    }
    const swing = Math.sin((since / ONE_MOTION_MS) * 2 * Math.PI);
    session.dragTo({ body: one.body, ...pullOf(one.motion, stance, swing, size) });
    frame = requestAnimationFrame(move);
  };
  frame = requestAnimationFrame(move);
  return end;
}

/** A point of the body beside what it turns about, and where it is to come to. */
export function pullOf({ shift, turn }: FreeMotion, { origin, turn: stands }: Stance, swing: number, size: number): Pick<Pull, 'point' | 'to'> {
  const isTurning = isTurn({ shift, turn });
  const amount = swing * (isTurning ? SWING : REACH * size);
  const [x, y, z] = isTurning ? across(turn)[0] : STILL;
  const arm = [x * (size / 4), y * (size / 4), z * (size / 4)] as const;
  const moved = isTurning ? rotate(turnAbout(turn, amount), arm) : arm;
  return {
    point: rotate(inverse(stands), arm),
    to: [origin[0] + moved[0] + shift[0] * amount, origin[1] + moved[1] + shift[1] * amount, origin[2] + moved[2] + shift[2] * amount],
  };
}
