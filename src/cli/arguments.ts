/** What the command line is told: its commands, its options, and how it is used. */
import { parseArgs } from 'node:util';
import { BUILT_AT, type BuiltAt } from '../core/studies';
import type { ExportFormat } from '../workers/protocol';
import { CommandProblem } from './problem';
import type { StackWish } from './stack';

export const USAGE = `Evaluates and regenerates a project file. Exit status: 0 without errors in the model, 1 with some, 2 when the command could not be carried out.

Usage:
  warpbeam evaluate   FILE [--set "DOC.name=formula"]... [--what-if "DOC=NAME"] [--at upper|middle|lower] [--as-saved] [--services] [--json]
  warpbeam regenerate FILE [--set "DOC.name=formula"]... [--size "DOC=SIZE"]... [--what-if "DOC=NAME"] [--at upper|middle|lower] [--as-saved] [--services] [--json] [--step DIR] [--stl DIR] [--3mf DIR] [--glb DIR]
  warpbeam sizes      FILE DOCUMENT [--set "DOC.name=formula"]... [--json]
  warpbeam stack      FILE --of "DOC.value" [--general f|m|c|v] [--distribution even|normal|triangular|"NAME=normal"]... [--pieces "NAME=2"]... [--cost "NAME=4"]... [--judged-by worst-case|root-sum-square] [--least "2 mm"] [--most "3 mm"] [--samples N] [--seed N] [--json]
  warpbeam run        FILE --range "DOC.value=200 mm..600 mm/21" [--range "DOC.other=..."] [--of NAME]... [--interference] [--json | --csv]   (or ".. by 50 mm", or "12 mm; 15 mm; 18 mm")
  warpbeam solve      FILE --goal "DOC.mass=2 kg" [--goal "DOC.other=..."] --by "DOC.value=10 mm..30 mm" [--by "DOC.another=..."] [--json]
  warpbeam schema

--services asks outside calculations whose inputs have moved on (services as WARPBEAM_SERVICES lists them); the file stays as it is.`;

export const COMMANDS = ['evaluate', 'regenerate', 'sizes', 'stack', 'run', 'solve', 'schema', 'help'];
export const STUDIES = ['stack', 'run', 'solve'] as const;
export type Study = (typeof STUDIES)[number];

export interface Options {
  readonly set: readonly string[];
  readonly size: readonly string[];
  readonly whatIf: readonly string[];
  readonly asSaved: boolean;
  /** Every value with a tolerance at one of its limits; undefined for nominal. */
  readonly at: BuiltAt | undefined;
  /** Whether outside calculations are asked; as they were answered before otherwise. */
  readonly services: boolean;
  readonly json: boolean;
  readonly help: boolean;
  readonly study: Omit<StackWish, 'seed'> & {
    readonly of: readonly string[];
    readonly range: readonly string[];
    readonly goal: readonly string[];
    readonly by: readonly string[];
    readonly seed: string | undefined;
    readonly csv: boolean;
    /** Whether a run looks for what stands in one another. */
    readonly isJudged: boolean;
  };
  /** Folders for files, by format. */
  readonly files: Readonly<Partial<Record<ExportFormat, string | undefined>>>;
}

export function readArguments(args: readonly string[]): { positionals: string[]; options: Options } {
  try {
    const { positionals, values } = parseArgs({
      args: [...args],
      allowPositionals: true,
      options: {
        set: { type: 'string', multiple: true },
        size: { type: 'string', multiple: true },
        'what-if': { type: 'string', multiple: true },
        at: { type: 'string' },
        'as-saved': { type: 'boolean' },
        services: { type: 'boolean' },
        json: { type: 'boolean' },
        help: { type: 'boolean', short: 'h' },
        step: { type: 'string' },
        stl: { type: 'string' },
        '3mf': { type: 'string' },
        glb: { type: 'string' },
        of: { type: 'string', multiple: true },
        range: { type: 'string', multiple: true },
        goal: { type: 'string', multiple: true },
        by: { type: 'string', multiple: true },
        general: { type: 'string' },
        distribution: { type: 'string', multiple: true },
        pieces: { type: 'string', multiple: true },
        cost: { type: 'string', multiple: true },
        'judged-by': { type: 'string' },
        least: { type: 'string' },
        most: { type: 'string' },
        samples: { type: 'string' },
        seed: { type: 'string' },
        csv: { type: 'boolean' },
        interference: { type: 'boolean' },
      },
    });
    return {
      positionals,
      options: {
        set: values.set ?? [],
        size: values.size ?? [],
        whatIf: values['what-if'] ?? [],
        at: readAt(values.at),
        asSaved: values['as-saved'] ?? false,
        services: values.services ?? false,
        json: values.json ?? false,
        help: values.help ?? false,
        study: {
          of: values.of ?? [],
          range: values.range ?? [],
          goal: values.goal ?? [],
          by: values.by ?? [],
          general: values.general,
          distribution: values.distribution ?? [],
          pieces: values.pieces ?? [],
          cost: values.cost ?? [],
          judgedBy: values['judged-by'],
          least: values.least,
          most: values.most,
          samples: values.samples,
          seed: values.seed,
          csv: values.csv ?? false,
          isJudged: values.interference ?? false,
        },
        files: values,
      },
    };
  } catch (problem) {
    throw new CommandProblem(`${problem instanceof Error ? problem.message : String(problem)}\n${USAGE}`);
  }
}

function readAt(wish: string | undefined): BuiltAt | undefined {
  const at = BUILT_AT.find((one) => one === wish);
  if (wish !== undefined && wish !== 'nominal' && !at) throw new CommandProblem(`--at is nominal, ${BUILT_AT.join(', ')}, not ${wish}.`);
  return at;
}
