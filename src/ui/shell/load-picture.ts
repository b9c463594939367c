/** The code of what stands beside a ledger, fetched as soon as the kind of the document is known. */
export const loadPicture = {
  part: () => import('./part-canvas'),
  assembly: () => import('../assembly/assembly-canvas'),
  calc: () => import('../calc/calc-page'),
};
