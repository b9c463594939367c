/** Plans of catching up that know what only geometry can tell, and leave behind what would fail. */
import { listIds, type Document } from '@/core/document';
import { pinText, type BuiltInstance } from '@/core/instances';
import { chooseFarthestUp, planWithout, type CatchUpPlan, type DocumentPlan, type LeftBehind } from '@/core/links';
import type { Regenerated } from '@/core/steps';
import { toBuild, type KnownAnswer, type Measured, type PlanReply, type ToBuild } from '../calculation/operations';
import { calculate } from '../calculation/run';
import { contentHash } from '../content-hash';
import { buildGeometry, buildInstance } from '../jobs';
import { askAll } from './ask-outside';
import { sizeOfPlan, type LoadedDocument } from './planned-documents';
import { readStands, type Snapshots } from './snapshots';

export interface MeasuredPlan {
  readonly plan: CatchUpPlan;
  readonly left: readonly LeftBehind[];
}

export interface PlanningOptions {
  /** Why a document is to stay as it is. */
  readonly reasonToLeave: (entry: DocumentPlan) => string | undefined;
  /** Builds every part that comes along by itself, and leaves behind those whose steps would fail. */
  readonly checksFollowers?: boolean;
  /** Documents in place of those that were loaded: what a source is about to publish. */
  readonly instead?: LoadedDocument['planned'];
}

/** What components of these documents stand for, among it the one that is about to be. */
export async function standsOf(documents: readonly LoadedDocument['planned'][], instead?: LoadedDocument['planned']): Promise<Snapshots> {
  const stands = await readStands(documents);
  return instead ? { ...stands, [pinText({ source: instead.document.id, revision: instead.revision })]: instead.document } : stands;
}

/** The documents of a plan, one of them as it is about to be. */
export function documentsOf(loaded: readonly LoadedDocument[], instead?: LoadedDocument['planned']): LoadedDocument['planned'][] {
  return loaded.map(({ planned }) => (planned.document.id === instead?.document.id ? instead : planned));
}

/** How long somebody who saves is kept waiting for the geometry of what follows, in milliseconds. */
const PATIENCE = 20_000;

/**
 * The plan with values measured on the geometry as it will be: parts whose taken values change what they measure are
 * built, sources first, and the plan is made anew with what they measure, until nothing waits.
 */
export async function planMeasured(loaded: readonly LoadedDocument[], targets: ReadonlySet<string>, options: PlanningOptions): Promise<MeasuredPlan> {
  const documents = documentsOf(loaded, options.instead);
  const size = sizeOfPlan(loaded);
  const workshop = new Workshop(documents.map(({ document }) => document));
  const stands = await standsOf(documents, options.instead);
  const until = Date.now() + PATIENCE;
  for (;;) {
    // What was asked for is waited for; what only follows is left to be asked once patience ends.
    const isLate = Date.now() > until;
    const isWorthWaiting = ({ id }: Document): boolean => !isLate || targets.has(id);
    let latest: CatchUpPlan | undefined;
    // A revision that is not there yet is the one that its document would get.
    const snapshot = (source: string, revision: number): Document | undefined =>
      stands[pinText({ source, revision })] ?? latest?.documents.find(({ id }) => id === source)?.after;
    const judge = (entry: DocumentPlan): string | undefined => {
      const before = documents.find(({ document }) => document.id === entry.id)?.document;
      if (!before || !entry.comesAlong || options.checksFollowers !== true) return undefined;
      return reasonOfGeometry([toBuild(before, snapshot), toBuild(entry.after, snapshot)], workshop, isLate);
    };
    const planned = await planWithout(
      documents,
      targets,
      (entry) => judge(entry) ?? options.reasonToLeave(entry),
      async (among, wanted) => {
        const together = { stands, built: workshop.instances };
        const request = { documents: among, targets: wanted, measured: workshop.measured(), together, answers: workshop.answers };
        const { plan, unmeasured, unbuilt, unanswered } = await calculate('plan', request, size);
        if (!isLate) workshop.wantAnswers(unanswered);
        for (const one of unmeasured) if (isWorthWaiting(one.document)) workshop.wantMeasured(one);
        if (!isLate) workshop.wantInstances(unbuilt);
        latest = plan;
        return plan;
      },
    );
    if (!(await workshop.buildNext())) return planned;
  }
}

/**
 * Geometry that a plan has asked for. What is measured may move values further down, so of that only those are built that take nothing from one
 * another; once no value waits any more, documents are what they will be, and all that are to be judged are built at once.
 */
class Workshop {
  private readonly farthestUp: <T>(among: readonly T[], idOf: (one: T) => string) => T[];
  private readonly built = new Map<string, Regenerated | undefined>();
  private toMeasure = new Map<string, ToBuild>();
  private toJudge = new Map<string, ToBuild>();
  private unbuilt: readonly ToBuild[] = [];
  /** What assemblies read of their components, by content hashes. */
  readonly instances = new Map<string, BuiltInstance>();

  /** What outside calculations answered, by questions; nothing is asked twice for one plan. */
  readonly answers = new Map<string, KnownAnswer>();
  private readonly asked = new Set<string>();
  private unanswered: PlanReply['unanswered'] = [];

  constructor(documents: readonly Document[]) {
    this.farthestUp = chooseFarthestUp(documents);
  }

  wantAnswers(questions: PlanReply['unanswered']): void {
    this.unanswered = questions.filter(({ question }) => !this.asked.has(question.key));
  }

  /** Asks what there is to ask; whether any answer came. */
  private async ask(): Promise<boolean> {
    const wanted = this.unanswered;
    this.unanswered = [];
    for (const { question } of wanted) this.asked.add(question.key);
    const before = this.answers.size;
    for (const { document, question } of wanted) {
      const [asked] = await askAll(document, [question]);
      if (asked?.answer.ok) this.answers.set(question.key, { ...asked.answer.value, at: new Date().toISOString() });
    }
    return this.answers.size > before;
  }

  wantInstances(documents: readonly ToBuild[]): void {
    this.unbuilt = documents;
  }

  /** Values wait for what is measured on a document. */
  wantMeasured(wish: ToBuild): void {
    if (!this.has(wish.document)) this.toMeasure.set(contentHash(wish.document), wish);
  }

  /** What was built of a document; undefined when it cannot be built, or is not yet: then it is asked for. */
  find(wish: ToBuild): Regenerated | undefined {
    const hash = contentHash(wish.document);
    if (!this.built.has(hash)) this.toJudge.set(hash, wish);
    return this.built.get(hash);
  }

  has(document: Document): boolean {
    return this.built.has(contentHash(document));
  }

  /** What was measured on what was built, by content hashes. */
  measured(): Map<string, Measured> {
    return new Map([...this.built].flatMap(([hash, built]) => (built ? [[hash, built.measured] as const] : [])));
  }

  /** Has outside calculations answer, or builds what was asked for, as far as it is known to stay so; false when there was nothing. */
  async buildNext(): Promise<boolean> {
    if (await this.ask()) return true;
    const { unbuilt, toMeasure, toJudge } = this;
    this.toMeasure = new Map();
    this.toJudge = new Map();
    this.unbuilt = [];
    await Promise.all(unbuilt.map(async (one) => this.instances.set(contentHash(one.document), await buildInstance(one))));
    const wishes =
      toMeasure.size > 0 ? this.farthestUp([...toMeasure.values()], ({ document }) => document.id) : unbuilt.length > 0 ? [] : [...toJudge.values()];
    await Promise.all(wishes.map(async (one) => this.built.set(contentHash(one.document), await buildGeometry(one))));
    return wishes.length + unbuilt.length > 0;
  }
}

function reasonOfGeometry([before, after]: readonly [ToBuild, ToBuild], workshop: Workshop, isLate: boolean): string | undefined {
  if (listIds(after.document, 'steps').length === 0) return undefined;
  if (isLate && !workshop.has(after.document)) return 'There was no time to build its geometry.';
  const result = workshop.find(after);
  if (!workshop.has(after.document)) return undefined;
  if (!result) return 'Its geometry could not be built.';
  const failing = result.steps.filter(({ status }) => status === 'failed');
  if (failing.length === 0) return undefined;
  const failsAlready = new Set(workshop.find(before)?.steps.flatMap(({ id, status }) => (status === 'failed' ? id : [])));
  const [fresh] = failing.filter(({ id }) => !failsAlready.has(id));
  return fresh && workshop.has(before.document) ? (fresh.problem?.message ?? 'A step would fail.') : undefined;
}

/** Those that come along by themselves are not published when somebody should look at them first. */
export function leaveFollowers(loaded: readonly LoadedDocument[], targets: ReadonlySet<string>): (entry: DocumentPlan) => string | undefined {
  return (entry) => (targets.has(entry.id) ? undefined : reasonToAsk(entry, loaded));
}

/** What keeps a document from being published without anybody looking at it. */
export function reasonToAsk(entry: DocumentPlan, loaded: readonly LoadedDocument[]): string | undefined {
  const head = loaded.find((one) => one.head.id === entry.id)?.head;
  if (head && head.seq !== head.savedSeq) return `It has ${head.seq - head.savedSeq} edits since its last revision.`;
  const [failure] = entry.failures;
  if (failure) return `${failure.name}: ${failure.message}`;
  const guard = entry.guards.find(({ severity }) => severity === 'error');
  return guard && `A guard would be broken: ${guard.message}`;
}
