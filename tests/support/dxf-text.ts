/** DXF files written by hand, group by group, as the public reference of the format lays them out. */
type Group = readonly [code: number, value: string | number];

export function dxfFile(entities: readonly (readonly Group[])[], unit?: number): string {
  const header: Group[] =
    unit === undefined
      ? []
      : [
          [0, 'SECTION'],
          [2, 'HEADER'],
          [9, '$INSUNITS'],
          [70, unit],
          [0, 'ENDSEC'],
        ];
  const groups: Group[] = [...header, [0, 'SECTION'], [2, 'ENTITIES'], ...entities.flat(), [0, 'ENDSEC'], [0, 'EOF']];
  return groups.map(([code, value]) => `${code}\n${value}\n`).join('');
}

export const dxfLine = (x1: number, y1: number, x2: number, y2: number): Group[] => [
  [0, 'LINE'],
  [8, '0'],
  [10, x1],
  [20, y1],
  [11, x2],
  [21, y2],
];
export const dxfCircle = (x: number, y: number, r: number): Group[] => [
  [0, 'CIRCLE'],
  [8, '0'],
  [10, x],
  [20, y],
  [40, r],
];
export const dxfArc = (x: number, y: number, r: number, from: number, to: number): Group[] => [
  ...dxfCircle(x, y, r).map((group): Group => (group[0] === 0 ? [0, 'ARC'] : group)),
  [50, from],
  [51, to],
];
export const dxfText = (words: string): Group[] => [
  [0, 'TEXT'],
  [8, '0'],
  [10, 0],
  [20, 0],
  [40, 3],
  [1, words],
];

/** A closed polyline; each vertex with its bulge. */
export const dxfPolyline = (...vertices: readonly (readonly [x: number, y: number, bulge: number])[]): Group[] => [
  [0, 'LWPOLYLINE'],
  [8, '0'],
  [90, vertices.length],
  [70, 1],
  ...vertices.flatMap(([x, y, bulge]): Group[] => [
    [10, x],
    [20, y],
    [42, bulge],
  ]),
];
