import type { Basis, Distribution } from '@/core/document';

export const DISTRIBUTED: Readonly<Record<Distribution, string>> = {
  even: 'even between the limits',
  normal: 'normal, limits at ±3σ',
  triangular: 'triangular',
};

/** The same where there is little room. */
export const DISTRIBUTED_SHORT: Readonly<Record<Distribution, string>> = { even: 'even', normal: 'normal', triangular: 'triangular' };

export const BASIS_WORDS: Readonly<Record<Basis, string>> = { 'worst-case': 'worst case', 'root-sum-square': 'root sum square' };
