/** A part with one sketch, drawn in as on the canvas, and solved by the real solver. */
import { applyEdit, createDocument, DocumentValues, findAny, listIds, type Document, type Edit } from '@/core/document';
import {
  clickToDraw,
  drawEdit,
  findSnap,
  readShape,
  shapeToStore,
  startDrawing,
  type ChangeContext,
  type ChangeResult,
  type DrawnShape,
  type DrawState,
  type DrawTool,
  type Place,
} from '@/core/drawing';
import { findProfiles, profileArea } from '@/core/geometry';
import { solveSketch, type SketchSolution } from '@/core/sketch';
import { readCurves, readSketchModel } from '@/core/steps';
import { edited } from './demo';

const SKETCH = 's';
/** How near counts for a snap, in millimetres. */
const REACH = 1;

export class SketchBench {
  document: Document = edited(createDocument('part', 'part', 'Part'), {
    type: 'step.add',
    step: { type: 'sketch', id: SKETCH, name: 'Outline', plane: 'front' },
    values: [],
  });
  private counter = 0;

  readonly newId = (): string => `n${++this.counter}`;

  solve(): SketchSolution {
    return solveSketch(readSketchModel(this.document, SKETCH, new DocumentValues(this.document)));
  }

  get shape(): DrawnShape {
    const { points, radii } = this.solve();
    return readShape(this.document, SKETCH, { points: Object.fromEntries(points), radii: Object.fromEntries(radii) });
  }

  get context(): ChangeContext {
    return { document: this.document, sketch: SKETCH, shape: this.shape, newId: this.newId };
  }

  /** Clicks at places, with the snaps that they would find; gives the ids of the curves made. */
  draw(tool: DrawTool, clicks: readonly Place[], options: Partial<Pick<DrawState, 'sides' | 'isConstruction'>> = {}): string[] {
    let state = startDrawing(tool, options);
    const made: string[] = [];
    for (const click of clicks) {
      const { shape } = this;
      const last = state.points.at(-1);
      const isChain = tool === 'line' || tool === 'arc-tangent';
      const snap = findSnap(shape, click, REACH, isChain && last ? { at: last.snap.at, id: last.id } : undefined);
      const { next, figure } = clickToDraw(state, snap, { sketch: SKETCH, shape, newId: this.newId });
      state = next;
      if (!figure) continue;
      this.edit(drawEdit(SKETCH, figure, shapeToStore(shape)));
      made.push(...figure.entities.filter((entity) => entity.type !== 'point').map(({ id }) => id));
    }
    return made;
  }

  edit(...edits: Edit[]): this {
    this.document = edited(this.document, ...edits);
    return this;
  }

  /** Makes a change that must be possible. */
  change(result: ChangeResult): this {
    if (!result.ok) throw new Error(result.failure);
    const applied = applyEdit(this.document, result.value({ mode: 'refuse' }));
    if (!applied.ok) throw new Error(applied.failure.message);
    this.document = applied.value.document;
    return this;
  }

  /** Adds a dimension with its value. */
  dimension(kind: 'length' | 'horizontal' | 'vertical' | 'radius' | 'diameter' | 'angle' | 'arc-length', on: string[], formula: string): this {
    const [id, parameter] = [this.newId(), this.newId()];
    return this.edit({
      type: 'sketch.draw',
      sketch: SKETCH,
      entities: [],
      constraints: [],
      dimensions: [{ type: 'dimension', id, sketch: SKETCH, kind, on, parameter, at: [0, 0] }],
      values: [
        { type: 'parameter', id: parameter, owner: SKETCH, name: `d_${parameter}`, formula: { text: formula }, kind: kind === 'angle' ? 'angle' : 'length' },
      ],
      shape: shapeToStore(this.shape),
    });
  }

  relate(kind: 'coincident' | 'symmetric' | 'fixed' | 'horizontal' | 'vertical' | 'equal' | 'tangent', ...on: string[]): this {
    const constraint = { type: 'constraint', id: this.newId(), sketch: SKETCH, kind, on } as const;
    return this.edit({
      type: 'sketch.draw',
      sketch: SKETCH,
      entities: [],
      constraints: [constraint],
      dimensions: [],
      values: [],
      shape: shapeToStore(this.shape),
    });
  }

  entity(id: string) {
    return findAny(this.document, id);
  }

  /** Kinds of the curves of the sketch, in order, without construction geometry. */
  curves(): string[] {
    return this.curveIds().map((id) => findAny(this.document, id)?.type ?? '');
  }

  curveIds(): string[] {
    return listIds(this.document, `${SKETCH}/entities`).filter((id) => {
      const record = findAny(this.document, id);
      const isCurve = record?.type === 'line' || record?.type === 'circle' || record?.type === 'arc';
      return isCurve && record.isConstruction !== true;
    });
  }

  /** Area of the closed regions, in square millimetres; NaN where they are not sound. */
  area(): number {
    const { profiles, problems } = findProfiles(readCurves(this.document, SKETCH, new DocumentValues(this.document), this.shape));
    return problems.length > 0 ? NaN : profiles.reduce((sum, profile) => sum + profileArea(profile), 0);
  }
}
