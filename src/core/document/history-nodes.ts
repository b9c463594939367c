/**
 * The build history among the values: for each step a node that stands for its result and reads everything
 * that decides it. Measured values read these nodes, so that a value which a step needs and which is measured
 * only after it is told as the cycle that it is, with its path.
 */
import { quantityType } from '../formula';
import type { InputDefinition } from '../network';
import { PLAIN, QUANTITY_KINDS, type QuantityKind } from '../units';
import { findRecord, listIds, listRecords, listSteps } from './access';
import { kindOfMeasure, type StepMeasure } from './measure';
import { allPlacements, placementNode, placementNodes } from './placement-nodes';
import type { Document, Parameter, SketchDimension } from './schema';
import { allBodiesUnder, allStepsUnder } from './sketch-sources';
import { sketchesOf } from './step-kinds';
import type { Step } from './step-schema';

/** A node for each step (`<step>/built`) and each sketch's own solution (`<step>/solved`); for the placements of an assembly that is measured. */
export function historyNodes(document: Document): Map<string, InputDefinition> {
  if (document.kind === 'assembly') return measuresGeometry(document) ? placementNodes(document) : new Map<string, InputDefinition>();
  const nodes = new Map<string, InputDefinition>();
  let before: string | undefined;
  for (const step of listSteps(document)) {
    const own = [...valuesDeciding(document, step), `${step.id}/suppressed`, ...(step.type === 'from-part' ? [shapeNode(step.component)] : [])];
    // What decides it is told by whoever knows the other part.
    if (step.type === 'from-part') nodes.set(shapeNode(step.component), { ...node(step, []), name: `shape ${step.component}` });
    const under = sketchesOf(step).map((id) => `${id}/solved`);
    if (step.type === 'sketch') {
      const taken = allStepsUnder(document, step).map((id) => `${id}/built`);
      nodes.set(`${step.id}/solved`, node(step, [...own, ...taken, ...(before !== undefined && allBodiesUnder(document, step).length > 0 ? [before] : [])]));
    }
    const reads = step.type === 'sketch' ? [`${step.id}/solved`] : [...own, ...under];
    nodes.set(`${step.id}/built`, node(step, before === undefined ? reads : [...reads, before]));
    before = `${step.id}/built`;
  }
  return nodes;
}

/** Stands for the shape of a part that is used in another. */
export function shapeNode(component: string): string {
  return `${component}>shape`;
}

/** What a part is as a whole, among the values that are measured on it. */
export function wholeNode(what: 'mass' | 'volume'): string {
  return `whole/${what}`;
}

/** Names with a space are none that a formula could read. */
function node(step: Step, reads: readonly string[]): InputDefinition {
  return { kind: 'input', name: `step ${step.name}`, type: quantityType(PLAIN), value: 0, reads };
}

/** Own values of the step that decide its result: not those measured on it. */
function valuesDeciding(document: Document, step: Step): string[] {
  const read = new Set(
    step.type === 'sketch' ? listRecords(document, `${step.id}/constraints`, 'dimension').flatMap((one) => (one.isReference ? [one.parameter] : [])) : [],
  );
  return listIds(document, `${step.id}/values`).filter((id) => !read.has(id) && findRecord(document, id, 'parameter')?.measure === undefined);
}

/** The nodes that a measured value reads, and what kind of value it is. */
export function measureSource(
  parameter: Parameter,
  dimension: SketchDimension | undefined,
): { readonly reads: readonly string[]; readonly kind: QuantityKind } | undefined {
  const { measure, owner } = parameter;
  if (measure?.of === 'assembly') return { reads: [allPlacements], kind: kindOfMeasure(measure) };
  if (measure?.of === 'components') return { reads: measure.on.map(({ path: [first = ''] }) => placementNode(first)), kind: kindOfMeasure(measure) };
  if (measure?.of === 'outside') return { reads: [], kind: QUANTITY_KINDS.find((kind) => kind === parameter.kind) ?? 'number' };
  if (owner === undefined) return undefined;
  if (measure) return { reads: measureReads(owner, measure), kind: kindOfMeasure(measure) };
  if (dimension?.isReference) return { reads: [`${owner}/solved`], kind: dimension.kind === 'angle' ? 'angle' : 'length' };
  return undefined;
}

/** Whether any value of the document is read off its geometry, or off that of a part that it starts from. */
export function measuresGeometry(document: Document): boolean {
  return Object.values(document.records).some(
    (record) =>
      record.type === 'from-part' ||
      (record.type === 'parameter' && record.measure !== undefined && record.measure.of !== 'outside') ||
      (record.type === 'dimension' && record.isReference === true),
  );
}

function measureReads(owner: string, measure: StepMeasure): readonly string[] {
  if (measure.of === 'region') return [`${owner}/solved`];
  const isWeighed = measure.of === 'body' && (measure.what === 'mass' || measure.what.startsWith('inertia'));
  return [`${owner}/built`, ...(isWeighed ? [`${measure.body}/density`] : [])];
}
