/** How fast a reference dimension moves when other dimensions of its sketch do. */
import { findRecord, listRecords, type DocumentValues, type SketchDimension } from '../document';
import { readingSlopes, solveSketch } from '../sketch';
import { MILLIMETRE, RADIAN } from '../units';
import { readEntities, readSketchModel } from './sketch-model';

/**
 * By the values of driving dimensions: how much a reference dimension changes by one of each, in internal units. Undefined for what is none, where its sketch
 * takes geometry from elsewhere, and where there are no such slopes.
 */
export function slopesOfReading(values: DocumentValues, id: string): ReadonlyMap<string, number> | undefined {
  const { document } = values;
  const sketch = findRecord(document, findRecord(document, id, 'parameter')?.owner ?? '', 'sketch');
  if (!sketch || readEntities(document, sketch.id).some(({ from }) => from)) return undefined;
  const dimensions = listRecords(document, `${sketch.id}/constraints`, 'dimension');
  const reading = dimensions.find(({ parameter, isReference }) => parameter === id && isReference === true);
  if (!reading) return undefined;
  const model = readSketchModel(document, sketch.id, values);
  const slopes = readingSlopes(model, solveSketch(model), reading.id);
  if (!slopes) return undefined;
  return new Map(
    dimensions.flatMap((one) => {
      const slope = slopes.get(one.id);
      return slope === undefined ? [] : [[one.parameter, (slope * internal(reading)) / internal(one)] as const];
    }),
  );
}

/** Internal units in a millimetre or a radian. */
function internal({ kind }: SketchDimension): number {
  return kind === 'angle' ? RADIAN : MILLIMETRE;
}
