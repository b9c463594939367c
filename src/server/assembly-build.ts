/** An assembly built whole in the background: what it publishes, what it weighs, what stands in one another, and a small picture of it. */
import type { SavedBody } from '@/contract';
import { dismissalOf } from '@/core/assembly';
import { listRecords, type Document } from '@/core/document';
import { builtInOf, pinText } from '@/core/instances';
import { publishValues } from '@/core/links';
import type { RegenerationClient } from '@/workers/client';
import type { RegenerationFailure } from '@/workers/one-worker';
import { drawnOfWhole } from '@/workers/small-picture';
import { buildWhole } from '@/workers/whole-assembly';
import type { Published } from './calculation/operations';
import { drawThumbnail } from './thumbnail';
import { KILOGRAM } from '@/core/units';

export interface BuiltAssembly {
  readonly bodies: readonly SavedBody[];
  readonly published: Published;
  readonly thumbnail: Buffer | undefined;
}

/** What stands in one another is not looked for any longer: others wait to be built. */
const LONGEST_JUDGING_MS = 60_000;

/** `stands`: what its components stand for, by `id@revision`. The failure of a part that could not be built at all. */
export async function buildAssembly(
  client: RegenerationClient,
  document: Document,
  stands: Readonly<Record<string, Document>>,
): Promise<BuiltAssembly | { readonly failure: RegenerationFailure }> {
  const begun = Date.now();
  const whole = await buildWhole(client, document, (source, revision) => stands[pinText({ source, revision })], {
    withMeshes: true,
    isJudged: () => Date.now() - begun < LONGEST_JUDGING_MS,
  });
  if ('failure' in whole) return whole;
  const { values, source, interference } = whole;
  const left = listRecords(document, 'dismissals', 'dismissal');
  const interfering = interference?.filter((one) => dismissalOf(left, one) === undefined).length;
  const drawn = drawnOfWhole(whole);
  const mass = builtInOf(values, '', 'mass', source);
  return {
    bodies:
      drawn.length === 0
        ? []
        : [
            {
              name: document.name,
              ...('value' in mass ? { mass: mass.value / KILOGRAM } : {}),
              ...(interfering === undefined ? {} : { interfering }),
            },
          ],
    published: publishValues(values),
    thumbnail: drawThumbnail(drawn),
  };
}
