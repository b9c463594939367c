/** A project made by rule: documents in levels, each taking whole numbers of millimetres from the levels before. */
import { createDocument, writeProjectFile, type Document, type Edit, type TakenValue } from '@/core/document';
import { edited } from './demo';

export interface GeneratedProject {
  readonly documents: readonly Document[];
  /** The file that holds them. */
  readonly text: string;
  /** What `out` of every document must be, in millimetres, for a value of `base` in the master; computed without the product. */
  readonly expected: (base: number) => ReadonlyMap<string, number>;
}

interface Rule {
  readonly sources: readonly string[];
  readonly factors: readonly number[];
  readonly plus: number;
}

/** `counts` tells how many documents each level has; the first is the master alone. `policy` is that of every link. */
export function generateProject(counts: readonly number[], policy: 'ask' | 'follow' = 'ask'): GeneratedProject {
  const rules = new Map<string, Rule>();
  const levels: string[][] = [];
  let random = 12_345;
  const pick = (below: number): number => {
    random = (random * 1_103_515_245 + 12_345) % 2_147_483_648;
    return Math.floor((random / 2_147_483_648) * below);
  };
  for (const [level, count] of counts.entries()) {
    const before = levels.flat();
    const own = Array.from({ length: count }, (_, i) => `g${level}-${i}`);
    for (const id of own) {
      // One from the level just before, so that it stands on this level, and up to two from anywhere before.
      const near = levels[level - 1] ?? [];
      const sources = new Set(level === 0 ? [] : [near[pick(near.length)] ?? '', ...Array.from({ length: pick(3) }, () => before[pick(before.length)] ?? '')]);
      rules.set(id, { sources: [...sources], factors: [...sources].map(() => 1 + pick(3)), plus: pick(50) });
    }
    levels.push(own);
  }
  const expected = (base: number): Map<string, number> => {
    const values = new Map<string, number>();
    for (const [id, { sources, factors, plus }] of rules) {
      values.set(id, sources.length === 0 ? base : sources.reduce((sum, source, i) => sum + (values.get(source) ?? NaN) * (factors[i] ?? NaN), plus));
    }
    return values;
  };
  const START = 100;
  const shipped = expected(START);
  const documents = [...rules].map(([id, rule]) => makeDocument(id, rule, shipped, START, policy));
  return { documents, text: writeProjectFile({ name: `Generated ${counts.join('-')}`, documents }), expected };
}

function makeDocument(id: string, { sources, factors, plus }: Rule, shipped: ReadonlyMap<string, number>, start: number, policy: 'ask' | 'follow'): Document {
  const links = sources.map((source, i): Edit => {
    const value: TakenValue = { kind: 'quantity', dimension: 'length=1', value: (shipped.get(source) ?? NaN) * 10_000, unit: 'mm' };
    return {
      type: 'link.put',
      link: { type: 'link', id: `l${i}`, source, sourceName: source, policy, revision: 1, hash: '' },
      takes: [{ type: 'take', id: `t${i}`, link: `l${i}`, parameter: 'out', name: `in_${i}`, sourceName: 'out', value }],
    };
  });
  const formula = sources.length === 0 ? `${start} mm` : `${sources.map((_, i) => `${factors[i] ?? NaN} * in_${i}`).join(' + ')} + ${plus} mm`;
  const parameter = { type: 'parameter' as const, id: 'out', name: 'out', formula: { text: formula }, kind: 'length', offered: true };
  return edited(createDocument(id, sources.length === 0 ? 'master' : 'part', id), ...links, { type: 'parameter.add', parameter });
}
