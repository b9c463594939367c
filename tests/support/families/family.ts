/** Parts with a reference to a piece of them, whose right answer is known without the product in every state of their values. */
import type { KernelPort } from '@/core/kernel-port';
import { Regenerator } from '@/core/steps';
import { build, type Built, type PartBuilder } from '../part-builder';

/** What the reference does in a state: a number that tells which piece it acted on, or that it was not found. */
export type Found = { readonly value: number } | 'lost';

/** What it may do: numbers of the pieces that are meant; and whether the very piece that was picked is there. */
export interface Truth {
  readonly meant: readonly number[];
  readonly isThere: boolean;
}

export interface Family {
  readonly name: string;
  readonly part: PartBuilder;
  /** Values by name, a list for each state; the first is the one in which the reference was picked. */
  readonly states: readonly Readonly<Record<string, string>>[];
  readonly read: (built: Built, state: number) => Found | 'unbuilt';
  readonly truth: (state: number) => Truth;
}

export type Verdict = 'right' | 'rightly lost' | 'refused though there' | 'silently wrong' | 'not built';

const CLOSE = 1e-4;

/** One of the meant pieces, or some of them together. */
function isMeant(value: number, meant: readonly number[]): boolean {
  const sums = meant.reduce<number[]>((found, each) => [...found, ...found.map((sum) => sum + each)], [0]).slice(1);
  return sums.some((sum) => Math.abs(sum - value) < CLOSE * Math.max(1, Math.abs(sum)));
}

export interface Judged {
  readonly verdict: Verdict;
  readonly state: number;
  readonly told: string;
}

/** Every state of the family, in order, with one regenerator as the page has one. */
export function judge(kernel: KernelPort, { part, states, read, truth }: Family): Judged[] {
  const regenerator = new Regenerator(kernel);
  return states.map((values, state) => {
    for (const [id, formula] of Object.entries(values)) part.set(id, formula);
    const found = read(build(kernel, part, regenerator), state);
    const { meant, isThere } = truth(state);
    const told = `${JSON.stringify(values)}: ${JSON.stringify(found)}, meant ${meant.join(' or ') || 'nothing'}`;
    if (found === 'unbuilt') return { verdict: 'not built', state, told };
    if (found === 'lost') return { verdict: isThere ? 'refused though there' : 'rightly lost', state, told };
    return { verdict: isMeant(found.value, meant) ? 'right' : 'silently wrong', state, told };
  });
}
