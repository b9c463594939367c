export { arcMiddle, isWithinSweep, sweepOf, type Curve, type Point2 } from './curve';
export { DATUM_FRAMES, toPlane, toSpace, turnFrame, type Frame, type Point3 } from './frame';
export { findProfiles, profileArea, type Profile, type ProfileProblem } from './profile';
export type { Loop, LoopCurve } from './loop';
export { intersectCurves } from './intersect';
export { moveCurve, shiftBy, turnAbout, type PlaneMovement } from './move';
export { findPath, placeAlong, type PathProblem, type PlaceOnPath, type PlanePath } from './path';
export { repeatCurves, type Repeat } from './repeat';
export { measureSection, type SectionProperties } from './section';
