/**
 * What only the kernel tells of an assembly as it stands: what its parts have in common, and how far they are apart. What was found is kept by
 * what the two bodies are and how they stand to one another, so that only what moved is looked at again.
 */
import {
  candidatePairs,
  clearancePairs,
  dismissalOf,
  LEAST_VOLUME,
  listMeasured,
  listSolids,
  measureInterference,
  measureSize,
  measuresOf,
  measureStill,
  movementsOf,
  placeComponents,
  placeText,
  type Box,
  type ClearancePair,
  type Interference,
  type OneMeasure,
  type PlacedSolid,
} from '@/core/assembly';
import { listRecords, partOfDistance, type Document, type DocumentValues, type MeasuredValue } from '@/core/document';
import { listPlaced, rotate, WHOLE, type InstanceKey, type Standing } from '@/core/instances';
import type { RegenerationClient } from './client';
import type { PartBook } from './part-book';
import type { Between } from './protocol';
import { MILLIMETRE } from '@/core/units';

/** Answers that are kept. */
const MOST_KEPT = 20_000;

type PairMeasure = Extract<OneMeasure['measure'], { readonly of: 'components' }>;

/** What the kernel told of pairs of bodies, and of bodies where they stand: good for any assembly. */
export class JudgedPairs {
  readonly volumes = new Map<string, number | undefined>();
  readonly distances = new Map<string, Between | undefined>();
  readonly boxes = new Map<string, Box>();
}

export class AssemblyJudge {
  private readonly volumes: JudgedPairs['volumes'];
  private readonly distances: JudgedPairs['distances'];
  private readonly boxes: JudgedPairs['boxes'];

  constructor(
    private readonly client: Pick<RegenerationClient, 'between' | 'box'>,
    private readonly book: PartBook,
    known: JudgedPairs = new JudgedPairs(),
  ) {
    ({ volumes: this.volumes, distances: this.distances, boxes: this.boxes } = known);
  }

  /** What stands in one another; `onAsk` is told before the kernel is asked. Undefined once it is no longer wanted. */
  async interference(
    values: DocumentValues,
    standing: Standing,
    isWanted: () => boolean,
    onAsk: () => void = () => undefined,
  ): Promise<readonly Interference<PlacedSolid>[] | undefined> {
    const found: Interference<PlacedSolid>[] = [];
    for (const { key, first, second, movements } of candidatePairs(this.solidsOf(values, standing))) {
      if (!this.volumes.has(key)) {
        onAsk();
        const reply = await this.client.between('overlap', [first.part.document, second.part.document], [{ key: first.key }, { key: second.key }], movements);
        if (!isWanted()) return undefined;
        // One that was cut short is made again the next time.
        if (reply.ok) keep(this.volumes, key, reply.value?.amount);
      }
      const volume = this.volumes.get(key);
      if (volume === undefined || volume > LEAST_VOLUME) found.push({ first, second, volume });
    }
    return found;
  }

  /**
   * What is measured on an assembly and on those that stand in it, the innermost first, each read as it stands when it is asked for.
   * `interference` is what stands in one another in the whole, where that is known. Ends early once it is no longer wanted.
   */
  async *readAll(
    values: DocumentValues,
    standing: Standing,
    isWanted: () => boolean,
    interference?: readonly Interference[],
  ): AsyncGenerator<{ readonly key: InstanceKey; readonly values: DocumentValues; readonly found: Readonly<Record<string, MeasuredValue>> }> {
    for (const { key, values: inside } of listMeasured(values)) {
      const isWhole = key === WHOLE;
      // One that stands in another is measured by itself.
      const own = isWhole ? standing : placeComponents(inside, this.book.shapes).standing;
      const common = isWhole ? interference : wantsInterference(inside.document) ? await this.interference(inside, own, isWanted) : undefined;
      const found = await this.measure(inside, own, isWanted, common);
      if (!found || !isWanted()) return;
      yield { key, values: inside, found };
    }
  }

  /**
   * What is measured on an assembly, by ids: its own measured values, or others that are asked for. Without what its parts have in common, unless
   * that is told. Undefined once it is no longer wanted.
   */
  async measure(
    values: DocumentValues,
    standing: Standing,
    isWanted: () => boolean,
    interference?: readonly Interference[],
    wanted: readonly OneMeasure[] = measuresOf(values.document),
  ): Promise<Readonly<Record<string, MeasuredValue>> | undefined> {
    const solids = wanted.length === 0 ? [] : this.solidsOf(values, standing);
    const found: Record<string, MeasuredValue> = {};
    for (const { id, measure } of wanted) {
      if (measure.of === 'components' && measure.what !== 'angle' && measure.what !== 'axis-distance') {
        const distance = await this.clearance(id, solids, measure, isWanted);
        if (!distance) return undefined;
        found[id] = distance;
        continue;
      }
      if (measure.what === 'size-x' || measure.what === 'size-y' || measure.what === 'size-z') {
        const boxes = await this.boxesOf(solids, isWanted);
        if (boxes === 'superseded') return undefined;
        found[id] = boxes ? measureSize(measure.what, boxes) : { problem: 'A part could not be measured where it stands.' };
        continue;
      }
      const still = measureStill(measure, solids, ({ part, body }, name) => this.book.shapes({ key: part.key, body, name }));
      if (still) found[id] = still;
      else if (measure.what === 'interference' && interference) {
        const dismissals = listRecords(values.document, 'dismissals', 'dismissal');
        found[id] = measureInterference(interference, (one) => dismissalOf(dismissals, one) !== undefined);
      }
    }
    return found;
  }

  /** The boxes around bodies where they stand: of one that is turned, that of the turned body, which is less than its turned box. */
  private async boxesOf(solids: readonly PlacedSolid[], isWanted: () => boolean): Promise<readonly Box[] | 'superseded' | undefined> {
    const found: Box[] = [];
    for (const { key, part, at } of solids) {
      const place = `${key} ${placeText(at)}`;
      let box = this.boxes.get(place);
      if (!box) {
        const reply = await this.client.box(part.document, key, movementsOf(at));
        if (!isWanted() || (!reply.ok && reply.failure.kind === 'superseded')) return 'superseded';
        if (!reply.ok || !reply.value) return undefined;
        box = reply.value;
        keep(this.boxes, place, box);
      }
      found.push(box);
    }
    return found;
  }

  private async clearance(id: string, solids: readonly PlacedSolid[], { what, on }: PairMeasure, isWanted: () => boolean): Promise<MeasuredValue | undefined> {
    const pairs = clearancePairs(solids, on);
    if ('problem' in pairs) return pairs;
    let least: { readonly between: Between; readonly first: PlacedSolid } | undefined;
    for (const pair of pairs) {
      // The boxes of all that follow are farther apart.
      if (least && pair.least >= least.between.amount) break;
      const between = await this.distance(id, pair);
      if (!isWanted() || between === 'superseded') return undefined;
      if (between === undefined) return { problem: 'What was measured is no longer there; pick it again.' };
      if (!least || between.amount < least.between.amount) least = { between, first: pair.first };
    }
    if (!least) return { problem: 'A clearance is between two different bodies, faces or edges.' };
    const { between, first } = least;
    // The way from the one to the other, in the space of the assembly.
    const way = rotate(first.at.turn, between.along ?? [0, 0, 0]);
    return { value: partOfDistance(what, between.amount, way) * MILLIMETRE };
  }

  private async distance(id: string, { key, first, second, names, movements }: ClearancePair): Promise<Between | 'superseded' | undefined> {
    if (this.distances.has(key)) return this.distances.get(key);
    const places = [
      { key: first.key, name: names[0] },
      { key: second.key, name: names[1] },
    ] as const;
    const reply = await this.client.between('clearance', [first.part.document, second.part.document], places, movements, `clearance ${id}`);
    if (!reply.ok) return reply.failure.kind === 'superseded' ? 'superseded' : undefined;
    keep(this.distances, key, reply.value);
    return reply.value;
  }

  private solidsOf(values: DocumentValues, standing: Standing): PlacedSolid[] {
    return listSolids(listPlaced(values, standing), (key) => this.book.results.get(key)?.bodies);
  }
}

/** Whether a value of it is what its parts have in common. */
export function wantsInterference(document: Document): boolean {
  return measuresOf(document).some(({ measure }) => measure.what === 'interference');
}

function keep<T>(known: Map<string, T>, key: string, value: T): void {
  if (known.size > MOST_KEPT) known.clear();
  known.set(key, value);
}
