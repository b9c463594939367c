/** What is told of an assembly that was built whole: its mass, and in words what is wrong with it: failing steps of its parts, mates that do not hold, what stands in one another. */
import { dismissalOf } from '@/core/assembly';
import { listRecords } from '@/core/document';
import { builtInOf, listPlaced, WHOLE } from '@/core/instances';
import { problemsOfSteps } from '@/core/studies';
import type { WholeAssembly } from './whole-assembly';
import { KILOGRAM } from '@/core/units';

/** In kilograms; undefined where it has none. */
export function massOfWhole({ values, source }: WholeAssembly): number | undefined {
  const mass = builtInOf(values, WHOLE, 'mass', source);
  return 'value' in mass ? mass.value / KILOGRAM : undefined;
}

export function problemsOfWhole({ values, results, placement: { mates }, interference = [] }: WholeAssembly): string[] {
  const { document } = values;
  const failed = listPlaced(values).flatMap(({ key, name, document: part }) =>
    problemsOfSteps(part, results.get(key)?.steps ?? []).map((problem) => `${name}: ${problem}`),
  );
  const loose = [...mates.values()].flatMap(({ status, message }) =>
    status === 'conflicting' || status === 'failed' ? [message ?? 'A mate does not hold.'] : [],
  );
  const dismissals = listRecords(document, 'dismissals', 'dismissal');
  const meeting = interference.flatMap((one) =>
    one.volume === undefined || dismissalOf(dismissals, one)
      ? []
      : [`${one.first.part.name} and ${one.second.part.name} stand in one another by ${one.volume.toFixed(1)} mm³.`],
  );
  return [...new Set([...failed, ...loose, ...meeting])];
}
