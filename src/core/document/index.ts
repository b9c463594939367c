export {
  findAny,
  findNamed,
  findRecord,
  findStep,
  hasName,
  isNamed,
  isStep,
  isTable,
  listDriving,
  listOwned,
  listIds,
  listNamed,
  listRecords,
  listSteps,
  type NamedRecord,
} from './access';
export { applyEdit } from './apply-edit';
export { isEntity, referencesOf } from './apply-sketch';
export { stepsOfBody, valuesOfBody } from './body-values';
export { compareSnapshots, planRestore, type Comparison, type Snapshot, type StepDifference, type ValueDifference } from './compare';
export { clipSteps, namesOfCopies, pasteSteps, readStepClip, type StepClip } from './copy-steps';
export { createDocument } from './create';
export { sketchesOnlyFor, stepsBuiltOn } from './dependents';
export type { Applied, DocumentDiff, RecordChange } from './draft';
export type { EditFailure } from './edit-failure';
export { editSchema, type Edit, type EditOf, type Readers, type TypedFormula } from './edit-schema';
export { findBrokenGuards, type BrokenGuard } from './guards';
export { goalNode, textOfGoal } from './goal-nodes';
export { driversOf, readGoals, writeGoal, type GoalReading } from './goals';
export { explainValue } from './explain';
export { mentionedNames } from './formulas-in';
export { hasComponents, hasShape, KIND_WORDS, listLines, orderWith, type PageLine } from './page';
export { cellOf, findSize, formulaNow, inSize, listSizes, SIZE_TABLE, sizeColumns, sizeTable, usedSize } from './sizes';
export { measuresGeometry, shapeNode, wholeNode } from './history-nodes';
export { allPlacements, placementNode } from './placement-nodes';
export { meantNames } from './formulas-in';
export { describeGeometry } from './geometry-words';
export { copyId, copyNumber, mateOwners, nameOfCopy, plainId } from './copy-ids';
export { canBeLimited, matePlaces, mateSlots, mateWords, reverseWords, senseWords, type MateSlot } from './mate-kinds';
export { migrateDocument } from './migrations';
export { takenNames } from './naming';
export {
  contentText,
  MAX_PROJECT_SIZE,
  type EarlierState,
  readProjectFile,
  stableJson,
  writeProjectFile,
  type FileProblem,
  type ProjectFile,
  type WhatIfsOfDocument,
} from './project-file';
export { projectJsonSchema } from './project-json-schema';
export { answersWithin, listOutputs, listOutside, unitWords, type OutsideState, type Question } from './outside';
export { type Amount, type Answer, type AnsweredAmount, type Asked, type OutsideCalculation } from './outside-schema';
export { listQuestions } from './questions';
export { previewRename } from './preview-rename';
export { extractPart, inlineValue, listParts, replaceValue, type Rewriting } from './rewrite-formulas';
export {
  type Component,
  type ComponentPattern,
  type SpacedPattern,
  type Drive,
  type MateKind,
  type MateRecord,
  type MateReference,
  type Placement,
} from './assembly-schema';
export {
  type Body,
  type Chart,
  type Paragraph,
  type Size,
  type SizeTable,
  type ConstraintKind,
  type DimensionKind,
  type Document,
  type DocumentKind,
  type DocumentRecord,
  type Entity,
  type Formula,
  type Goal,
  type Guard,
  type Link,
  type Parameter,
  type TurnedOver,
  type SketchConstraint,
  type SketchDimension,
  type SketchRepeat,
  type StoredFile,
  type Table,
  type Tolerance,
  type Take,
  type TakenValue,
} from './schema';
export {
  blankStep,
  bodyOf,
  hasSlots,
  isRepeatable,
  missingPick,
  nameForStep,
  sketchesOf,
  slotsOf,
  slotValues,
  startedBodies,
  startsBody,
  STEP_TYPES,
  stepDetail,
  stepWords,
  takesPlane,
  tidyStep,
  withPlane,
  type StepSlot,
} from './step-kinds';
export {
  type AxisReference,
  type Feature,
  type PlaneName,
  type PlaneReference,
  type SketchStep,
  type Step,
  type StepDirections,
  type StepOf,
  type StepType,
  type ValuedStep,
  PLANES,
} from './step-schema';
export {
  ASSEMBLY_MEASURES,
  BODY_MEASURES,
  describeMeasure,
  GEOMETRY_MEASURES,
  isOfAssembly,
  kindOfMeasure,
  partOfDistance,
  picksOf,
  REGION_MEASURES,
  type AssemblyMeasure,
  type Measure,
  type StepMeasure,
  type PlacedGeometry,
} from './measure';
export { hashOfContent, listFiles, listHashes, putContentsIn, takeContentsOut } from './file-content';
export { LIMITS } from './schema-parts';
export { BASES, DISTRIBUTIONS, type Basis, type ContributorReading, type Distribution, type StackReading } from './stack-schema';
export { sampleValue } from './sample-values';
export { showTaken, writeTaken } from './taken-text';
export { inputOf, slotOf, slotOfTaken, tableSlot, type MeasuredValue } from './value-nodes';
export { DocumentValues, type ComponentValues, type ShownValue } from './values';
export { inShownUnit, withReadUnit, type Beside } from './shown-units';
export { limitsOf, readTypedTolerance, shownTolerance, TOLERANCE_HINT, toleranceText, valuesRead, type Limits } from './tolerances';
export { tryFormula, type TriedFormula } from './try-formula';
export { MOST_WHAT_IFS, whatIfSchema, type WhatIf } from './what-if';
