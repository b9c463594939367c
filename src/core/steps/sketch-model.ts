/** A sketch of a document as the solver takes it, with its dimensions' present values. */
import { listIds, findAny, isEntity, type Document, type DocumentValues, type SketchDimension } from '../document';
import type { Curve } from '../geometry';
import type { SketchModel, SketchSolution } from '../sketch';

/** Internal units in a millimetre: 0.1 µm. */
export const MILLIMETRE = 10_000;

/** A length in millimetres from internal units. */
export function toMillimetres(value: number): number {
  return value / MILLIMETRE;
}

export function readSketchModel(document: Document, sketch: string, values: DocumentValues): SketchModel {
  const entities = listIds(document, `${sketch}/entities`).flatMap((id) => {
    const record = findAny(document, id);
    return record && isEntity(record) ? [record] : [];
  });
  const constrained = listIds(document, `${sketch}/constraints`).map((id) => findAny(document, id));
  return {
    entities,
    constraints: constrained.flatMap((record) => (record?.type === 'constraint' ? [record] : [])),
    dimensions: constrained.flatMap((record) =>
      record?.type === 'dimension'
        ? [{ id: record.id, kind: record.kind, on: record.on, value: dimensionValue(record, values), isReference: record.isReference ?? false }]
        : [],
    ),
  };
}

function dimensionValue(dimension: SketchDimension, values: DocumentValues): number {
  const value = values.sheet.readNumber(dimension.parameter);
  return dimension.kind === 'angle' ? (value * Math.PI) / 180 : toMillimetres(value);
}

/** The solved curves that bound regions: construction geometry is left out. */
export function readCurves(document: Document, sketch: string, solution: SketchSolution): Curve[] {
  return listIds(document, `${sketch}/entities`).flatMap((id): Curve[] => {
    const entity = findAny(document, id);
    if (!entity || !isEntity(entity) || entity.isConstruction === true) return [];
    const point = (pointId: string) => solution.points.get(pointId) ?? ([0, 0] as const);
    switch (entity.type) {
      case 'point':
        return [];
      case 'line':
        return [{ kind: 'line', id, start: point(entity.start), end: point(entity.end) }];
      case 'circle':
        return [{ kind: 'circle', id, centre: point(entity.centre), radius: solution.radii.get(id) ?? 0 }];
      case 'arc':
        return [{ kind: 'arc', id, start: point(entity.start), end: point(entity.end), centre: point(entity.centre), radius: solution.radii.get(id) ?? 0 }];
    }
  });
}
