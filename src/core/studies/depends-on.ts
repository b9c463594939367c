/** What a value depends on, down through the components of an assembly. */
import { allPlacements, limitsOf, listRecords, placementNode, valuesRead, type DocumentValues } from '../document';

/** Values by the paths of their ids, joined with spaces. */
export interface Dependence {
  readonly has: (path: string) => boolean;
  /** Whether anything that stands in a component is among them. */
  readonly isThroughComponents: boolean;
}

/**
 * What a value depends on: along each way no farther than to the first value with limits. Of a component whose geometry or mass counts, all of its
 * values are taken to count.
 */
export function dependenceOf(values: DocumentValues, id: string): Dependence {
  const own = new Set<string>();
  const whole: string[] = [];
  enter(values, [id], { prefix: '', own, whole });
  return {
    has: (path) => own.has(path) || whole.some((prefix) => path.startsWith(prefix)),
    isThroughComponents: whole.length > 0 || [...own].some((path) => path.includes(' ')),
  };
}

interface Found {
  readonly prefix: string;
  readonly own: Set<string>;
  /** Prefixes of everything in a component. */
  readonly whole: string[];
}

function enter(values: DocumentValues, roots: readonly string[], { prefix, own, whole }: Found): void {
  const seen = new Set<string>();
  const wave = [...roots];
  for (let next = wave.pop(); next !== undefined; next = wave.pop()) {
    if (seen.has(next)) continue;
    seen.add(next);
    own.add(`${prefix}${next}`);
    const isFirst = !roots.includes(next) && hasLimits(values, next);
    if (!isFirst) wave.push(...valuesRead(values, next));
  }
  const { sheet } = values;
  for (const component of listRecords(values.document, 'components', 'component')) {
    const inside = component.at && values.components?.valuesOf(component.id);
    if (!inside) continue;
    const below = `${prefix}${component.id} `;
    const read = [...seen].flatMap((node) => (node.startsWith(`${component.id}>`) ? [node.slice(component.id.length + 1)] : []));
    const isPlaced = seen.has(allPlacements) || [placementNode(component.id), ...sheet.listReads(placementNode(component.id))].some((node) => seen.has(node));
    if (isPlaced || read.some((node) => !inside.sheet.read(node) || inside.isOfGeometry(node))) whole.push(below);
    else if (read.length > 0) enter(inside, read, { prefix: below, own, whole });
  }
}

function hasLimits(values: DocumentValues, id: string): boolean {
  const limits = limitsOf(values, id);
  return limits !== undefined && !('problem' in limits);
}
