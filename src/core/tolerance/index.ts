export { GENERAL_CLASSES, generalDeviation, type GeneralClass } from './general';
export { fitDeviations, standardTolerance, type Deviations, type FitProblem } from './iso-286';
export { readTolerance, writeTolerance, type WrittenTolerance } from './notation';
