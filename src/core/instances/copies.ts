/** Copies of components that are repeated: how many there are. */
import type { ComponentPattern, ComponentValues, DocumentValues } from '../document';
import type { BuiltInstance } from './source';

/** Numbers of the copies of a component, those beside the first; none while it is not known how many there are. */
export function countCopies(values: DocumentValues, pattern: ComponentPattern): number[] {
  const skipped = new Set(pattern.skip);
  return numbersOf(values, pattern).filter((n) => !skipped.has(n));
}

function numbersOf(values: DocumentValues, pattern: ComponentPattern): number[] {
  if (pattern.form === 'followed') return (placesFollowed(values, pattern.along) ?? []).map(({ place }) => place + 1);
  const many = values.sheet.readNumber(pattern.values.count);
  return Number.isNaN(many) ? [] : Array.from({ length: Math.min(Math.max(0, Math.round(many) - 1), MOST_SHOWN) }, (_, i) => i + 2);
}

/** The places of a pattern in a part of the assembly, in the space of that part; undefined while it is not built, or not there. */
export function placesFollowed(
  values: DocumentValues,
  { path, step }: { readonly path: readonly string[]; readonly step: string },
): NonNullable<BuiltInstance['places']>[string] | undefined {
  let inside: DocumentValues | undefined = values;
  for (const [i, id] of path.entries()) {
    const components: ComponentValues | undefined = inside?.components;
    if (!components || !knowsBuilt(components)) return undefined;
    if (i === path.length - 1) return components.builtOf(id)?.places?.[step];
    inside = components.valuesOf(id);
  }
  return undefined;
}

/** What was built of components is known to those that evaluate them. */
interface BuiltComponents {
  builtOf: (component: string) => BuiltInstance | undefined;
}

function knowsBuilt(components: ComponentValues): components is ComponentValues & BuiltComponents {
  return 'builtOf' in components;
}

/** No more copies than this are shown; the count itself is judged where it is typed. */
const MOST_SHOWN = 2000;
