export { diffDocuments } from './diff-documents';
export { instanceKey, withValues, type InstanceKey } from './drive-document';
export { builtInOf, Instances, openValues, WHOLE, type Instance } from './instances';
export { headsOf, InstanceLibrary, listPins, listUnbuilt, pinText, type Pin, type Unbuilt } from './library';
export { copyId, countCopies, plainId } from './copies';
export { listPlaced, listShown, placeWithin, type PlacedPart, type Standing } from './list-placed';
export { meaningText } from './meaning';
export type { BuiltInstance, InstanceSource } from './source';
export { combine, inverse, multiply, normalise, relativeTo, rotate, STANDING, toMatrix, toOutside, turnAbout, type Quaternion, type Stance } from './stance';
