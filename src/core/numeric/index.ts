export { combinationOf, RowSpan } from './combination';
export { analyseRowSpace, type RowSpace } from './row-space';
export { SparseCholesky } from './sparse-cholesky';
