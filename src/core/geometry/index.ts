export { arcMiddle, isWithinSweep, sweepOf, type Curve, type Point2 } from './curve';
export { DATUM_FRAMES, toSpace, type Frame, type Point3 } from './frame';
export { findProfiles, profileArea, type Loop, type LoopCurve, type Profile, type ProfileProblem } from './profile';
export { intersectCurves } from './intersect';
