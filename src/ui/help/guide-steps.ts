/** The guided first design: what is to be done in each step, and how it is told that it was done. Pure. */
import { findRecord, listIds, listRecords, listSteps, type Document, type Parameter } from '@/core/document';

/** What the guide looks at. */
export interface GuideFacts {
  readonly document: Document;
  /** Ids of the values that the formula of a value reads. */
  readonly readsOf: (id: string) => readonly string[];
  /** How many bodies are built. */
  readonly bodies: number;
  /** The formulas of driving values when the step began, by id. */
  readonly before: Readonly<Record<string, string>>;
  readonly showsLooseEnds: boolean;
}

export interface GuideStep {
  readonly title: string;
  readonly words: string;
  readonly isDone: (facts: GuideFacts) => boolean;
}

/** The master that the guide links from: name and formula of its values. */
export const GUIDE_MASTER = {
  name: 'Loom stock',
  values: [
    { name: 'lath_stock', formula: '9.5 mm', note: 'Thickness of the laths that the timber yard keeps.' },
    { name: 'lath_width', formula: '24 mm', note: 'Width of the same laths.' },
  ],
} as const;

export const GUIDE_PART = 'Shed stick';

export const GUIDE_STEPS: readonly GuideStep[] = [
  {
    title: 'Name a driving value',
    words: 'Choose “Add a value” in the ledger, type stick_length = 240 mm and press Enter.',
    isDone: ({ document }) => drivingValues(document).length >= 1,
  },
  {
    title: 'Name a second one',
    words: 'A box for the next value is open. Type stick_width = stick_length / 10 and press Enter, then Escape.',
    isDone: (facts) => drivingValues(facts.document).some(({ id }) => facts.readsOf(id).length > 0),
  },
  {
    title: 'Draw the outline',
    words: 'Choose “Top (x, y)” beside the picture, then Rectangle (key R), and click two corners. Roughly is right.',
    isDone: ({ document }) => sketches(document).some((id) => listRecords(document, `${id}/entities`, 'line').length >= 4),
  },
  {
    title: 'Dimension it with a name',
    words: 'Type length = stick_length into one box of the rectangle and press Enter. The dimension has a name now and follows your value.',
    isDone: (facts) => tiedDimensions(facts) >= 1,
  },
  {
    title: 'Dimension the other side',
    words: 'Type width = stick_width into the other box. Then choose “Extrude” above the sketch.',
    isDone: (facts) => tiedDimensions(facts) >= 2,
  },
  {
    title: 'Extrude it',
    words: 'Choose “Extrude”, type thickness = 9.5 mm into its box and choose “Build”.',
    isDone: ({ document, bodies }) => bodies > 0 && listSteps(document).some(({ type }) => type === 'extrude'),
  },
  {
    title: 'Change the driving value',
    words: 'Select stick_length, press Enter, type 300 mm and press Enter. The sketch and the solid follow at once.',
    isDone: ({ document, before }) => drivingValues(document).some(({ id, formula }) => before[id] !== undefined && before[id] !== formula.text),
  },
  {
    title: 'Link values from a master',
    words: `Choose “Link values”, tick the values of ${GUIDE_MASTER.name}, and choose “Link”. They come along whenever the master changes.`,
    isDone: ({ document }) => takes(document).length > 0,
  },
  {
    title: 'Find a loose end',
    words: 'The thickness is a plain number that equals lath_stock but is not tied to it. Choose “loose ends” below the picture to see it.',
    isDone: ({ showsLooseEnds }) => showsLooseEnds,
  },
  {
    title: 'Tie it',
    words: 'Choose “Tie” beside the thickness. From now on nothing stays behind when the stock changes.',
    isDone: (facts) => listOwned(facts.document).some(({ id }) => facts.readsOf(id).some((read) => findRecord(facts.document, read, 'take') !== undefined)),
  },
];

/** The formulas of driving values, for what is changed during a step. */
export function formulasNow(document: Document): Record<string, string> {
  return Object.fromEntries(drivingValues(document).map(({ id, formula }) => [id, formula.text]));
}

function drivingValues(document: Document): Parameter[] {
  return parameters(document).filter(({ owner }) => owner === undefined);
}

function listOwned(document: Document): Parameter[] {
  return parameters(document).filter(({ owner }) => owner !== undefined);
}

function parameters(document: Document): Parameter[] {
  return Object.values(document.records).filter((record): record is Parameter => record.type === 'parameter');
}

function takes(document: Document): readonly string[] {
  return Object.values(document.records).flatMap((record) => (record.type === 'take' ? [record.id] : []));
}

function sketches(document: Document): readonly string[] {
  return listIds(document, 'steps').filter((id) => findRecord(document, id, 'sketch') !== undefined);
}

/** Dimensions of sketches that read another value. */
function tiedDimensions({ document, readsOf }: GuideFacts): number {
  const within = new Set(sketches(document));
  return listOwned(document).filter(({ id, owner }) => within.has(owner ?? '') && readsOf(id).length > 0).length;
}
