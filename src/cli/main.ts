/**
 * The headless command: evaluates and regenerates an open project file. No database, no browser.
 *
 *     warpbeam evaluate   FILE [--set "DOC.name=formula"]... [--what-if NAME] [--at upper|middle|lower] [--as-saved] [--services] [--json]
 *     warpbeam regenerate FILE [the same] [--step DIR] [--stl DIR] [--3mf DIR] [--glb DIR]
 *     warpbeam sizes      FILE DOCUMENT [the same]                  every size of a document: values, mass, what fails
 *     warpbeam stack      FILE --of "DOC.value" [--least AMOUNT] [--most AMOUNT]     how far a value may be off by tolerances
 *     warpbeam run        FILE --range "DOC.value=200 mm..600 mm/21" [--range ...] [--of NAME]... [--csv]   what others come to over one range or two
 *     warpbeam solve      FILE --goal "DOC.mass=2 kg" --by "DOC.value=10 mm..30 mm"           the value at which another is reached
 *     warpbeam schema                                             prints the JSON Schema of project files
 *
 * Exit status: 0 without errors in the model, 1 with some, 2 when the command could not be carried out.
 */
import { mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { parseArgs } from 'node:util';
import {
  findSize,
  inSize,
  listSizes,
  measuresGeometry,
  projectJsonSchema,
  readProjectFile,
  type Document,
  type EarlierState,
  type ProjectFile,
} from '../core/document';
import { assemblyTree } from '../core/assembly';
import { complete, headsOf, openValues, type BuiltInstance, type CompleteDocument, type InstanceSource } from '../core/instances';
import { nameNearest } from '../core/kit';
import { applySetting, catchUpProject } from '../core/links';
import type { ExportedFile, RegenerationClient } from '../workers/client';
import { asWhatIf, builtAt, BUILT_AT, type BuiltAt } from '../core/studies';
import { ASSEMBLY_FORMATS, EXPORT_FORMATS, type ExportFormat } from '../workers/protocol';
import { CommandProblem } from './problem';
import type { StackWish } from './stack';
import { formatReport, reportDocument, type DocumentReport } from './report';

const USAGE = `Evaluates and regenerates a project file. Exit status: 0 without errors in the model, 1 with some, 2 when the command could not be carried out.

Usage:
  warpbeam evaluate   FILE [--set "DOC.name=formula"]... [--what-if "DOC=NAME"] [--at upper|middle|lower] [--as-saved] [--services] [--json]
  warpbeam regenerate FILE [--set "DOC.name=formula"]... [--size "DOC=SIZE"]... [--what-if "DOC=NAME"] [--at upper|middle|lower] [--as-saved] [--services] [--json] [--step DIR] [--stl DIR] [--3mf DIR] [--glb DIR]
  warpbeam sizes      FILE DOCUMENT [--set "DOC.name=formula"]... [--json]
  warpbeam stack      FILE --of "DOC.value" [--general f|m|c|v] [--distribution even|normal|triangular|"NAME=normal"]... [--pieces "NAME=2"]... [--cost "NAME=4"]... [--judged-by worst-case|root-sum-square] [--least "2 mm"] [--most "3 mm"] [--samples N] [--seed N] [--json]
  warpbeam run        FILE --range "DOC.value=200 mm..600 mm/21" [--range "DOC.other=..."] [--of NAME]... [--interference] [--json | --csv]   (or ".. by 50 mm", or "12 mm; 15 mm; 18 mm")
  warpbeam solve      FILE --goal "DOC.mass=2 kg" [--goal "DOC.other=..."] --by "DOC.value=10 mm..30 mm" [--by "DOC.another=..."] [--json]
  warpbeam schema

--services asks outside calculations whose inputs have moved on (services as WARPBEAM_SERVICES lists them); the file stays as it is.`;

const COMMANDS = ['evaluate', 'regenerate', 'sizes', 'stack', 'run', 'solve', 'schema', 'help'];
const STUDIES = ['stack', 'run', 'solve'] as const;
type Study = (typeof STUDIES)[number];

interface Options {
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

async function main(args: readonly string[]): Promise<number> {
  const { positionals, options } = readArguments(args);
  const [command, file, wanted] = positionals;
  if (options.help || (command === 'help' && file === undefined)) {
    print(USAGE);
    return 0;
  }
  if (command === 'schema') {
    print(JSON.stringify(projectJsonSchema(), null, 2));
    return 0;
  }
  const study = STUDIES.find((one) => one === command);
  if (command !== 'evaluate' && command !== 'regenerate' && command !== 'sizes' && !study) {
    throw new CommandProblem(command === undefined ? USAGE : `There is no command ${command}.${nameNearest(command, COMMANDS)}\n${USAGE}`);
  }
  if (file === undefined) throw new CommandProblem(`${command} needs a project file.\n${USAGE}`);
  const project = options.services ? await withAnswers(loadProject(file, options), options) : loadProject(file, options);
  if (command === 'sizes') return printSizes(project, wanted, options);
  if (study) return printStudy(project, study, options);
  const { documents, earlier } = project;
  const source = headsOf(documents, undefined, earlier);
  const { at } = options;
  const reports = documents.map((document) => reportDocument(at ? builtAt(document, source, at).document : document, source));
  if (command === 'evaluate') {
    print(options.json ? JSON.stringify({ documents: reports }, null, 2) : reports.map(formatReport).join('\n\n'));
    return hasErrors(reports) ? 1 : 0;
  }
  return regenerate(project, options);
}

function readArguments(args: readonly string[]): { positionals: string[]; options: Options } {
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

/** The documents of a file, and what their components stand for where that is another state of one. */
interface LoadedProject {
  readonly documents: readonly Document[];
  readonly earlier: readonly EarlierState[];
}

function loadProject(file: string, options: Options): LoadedProject {
  let text: string;
  try {
    text = readFileSync(file, 'utf8');
  } catch (problem) {
    throw new CommandProblem(`The file cannot be read: ${problem instanceof Error ? problem.message : String(problem)}`);
  }
  const read = readProjectFile(text);
  if (!read.ok) throw new CommandProblem(read.failure.map(({ message, path: place }) => (place === undefined ? message : `${place}: ${message}`)).join('\n'));
  const { earlier = [] } = read.value;
  let { documents } = read.value;
  for (const setting of options.set) {
    const result = applySetting(documents, setting);
    if (!result.ok) throw new CommandProblem(result.failure.message);
    documents = result.documents;
  }
  for (const wish of options.size) documents = chooseSize(documents, wish);
  for (const wish of options.whatIf) documents = chooseWhatIf(documents, read.value, wish);
  if (options.asSaved) return { documents, earlier };
  // Components follow; what is not in the project any more stays as it was.
  const there = new Set(documents.map(({ id }) => id));
  return { documents: catchUpProject(documents).documents, earlier: earlier.filter(({ document }) => !there.has(document.id)) };
}

/** What gave no answer is told beside, and held. */
async function withAnswers({ documents, earlier }: LoadedProject, { asSaved }: Options): Promise<LoadedProject> {
  const { askOutside } = await import('./ask-outside');
  const asked = await askOutside(documents, earlier, (answered) => (asSaved ? answered : catchUpProject(answered).documents));
  for (const problem of asked.problems) process.stderr.write(`${problem}\n`);
  return { documents: asked.documents, earlier };
}

/** `Wide` for every document that has a size of that name, `Loom sizes=Wide` for one. */
function chooseSize(documents: readonly Document[], wish: string): readonly Document[] {
  const equals = wish.indexOf('=');
  const [owner, name] = equals < 0 ? [undefined, wish] : [wish.slice(0, equals).trim(), wish.slice(equals + 1)];
  let isFound = false;
  const sized = documents.map((document) => {
    const size = owner === undefined || owner === document.name || owner === document.id ? findSize(document, name) : undefined;
    isFound ||= size !== undefined;
    return size ? inSize(document, size.id) : document;
  });
  if (isFound) return sized;
  const there = documents.flatMap((document) => listSizes(document).map((size) => `${document.name}=${size.name}`));
  throw new CommandProblem(`There is no size "${wish.trim()}".${there.length > 0 ? ` There are ${there.join(', ')}.` : ' No document has sizes.'}`);
}

/** `Wider` for the what-if of that name, `Loom sizes=Wider` for that of one document. */
function chooseWhatIf(documents: readonly Document[], { whatIfs = [] }: ProjectFile, wish: string): readonly Document[] {
  const equals = wish.indexOf('=');
  const [owner, wanted] = equals < 0 ? [undefined, wish.trim()] : [wish.slice(0, equals).trim(), wish.slice(equals + 1).trim()];
  const known = whatIfs.flatMap((one) => {
    const document = documents.find(({ id }) => id === one.document);
    return document ? one.whatIfs.map((whatIf) => ({ document, whatIf })) : [];
  });
  const found = known.find(({ document, whatIf }) => whatIf.name === wanted && (owner === undefined || owner === document.name || owner === document.id));
  if (!found) {
    const there = known.map(({ document, whatIf }) => `${document.name}=${whatIf.name}`);
    throw new CommandProblem(`There is no what-if "${wish.trim()}".${there.length > 0 ? ` There are ${there.join(', ')}.` : ' No document has one.'}`);
  }
  const { document, problems } = asWhatIf(openValues(found.document, headsOf(documents)), found.whatIf);
  const [problem] = problems.values();
  if (problem !== undefined) throw new CommandProblem(`${found.whatIf.name}: ${problem}`);
  return documents.map((one) => (one.id === document.id ? document : one));
}

async function printSizes({ documents, earlier }: LoadedProject, wanted: string | undefined, options: Options): Promise<number> {
  const document = documents.find(({ name, id }) => name === wanted || id === wanted);
  if (!document) throw new CommandProblem(`There is no document "${wanted ?? ''}". There are ${documents.map(({ name }) => name).join(', ')}.`);
  if (listSizes(document).length === 0) throw new CommandProblem(`${document.name} has no sizes.`);
  const [{ clientFromSource }, { reportSizes, formatSizes }] = await Promise.all([import('../workers/start-thread'), import('./sizes')]);
  const client = clientFromSource();
  try {
    const reports = await reportSizes(client, headsOf(documents, undefined, earlier), document);
    print(options.json ? JSON.stringify({ document: document.name, sizes: reports }, null, 2) : formatSizes(reports));
    const isBroken = reports.some(
      ({ failing, guards, values }) => failing.length + guards.length > 0 || values.some(({ diagnostics }) => diagnostics.length > 0),
    );
    return isBroken ? 1 : 0;
  } finally {
    client.close();
  }
}

/** Exit status 1 where something is wrong everywhere, a goal is not reached, or a stack goes beyond what is asked by the way it is judged. */
async function printStudy({ documents, earlier }: LoadedProject, study: Study, { study: wish, json }: Options): Promise<number> {
  const studies = await import('./studies');
  const source = headsOf(documents, undefined, earlier);
  const write = (report: unknown, text: string): void => print(json ? JSON.stringify(report, null, 2) : text);
  if (study === 'stack') {
    const [of] = wish.of;
    if (of === undefined) throw new CommandProblem(`stack needs a value: --of "DOC.value".\n${USAGE}`);
    const { reportStack, formatStack } = await import('./stack');
    const { clientFromSource } = await import('../workers/start-thread');
    let client: RegenerationClient | undefined;
    try {
      const report = await reportStack({ documents, source, openClient: () => (client = clientFromSource()) }, of, { ...wish, seed: Number(wish.seed ?? 1) });
      write(report, formatStack(report));
      return report.free.length > 0 || (report.required && !report.required.isMet) ? 1 : 0;
    } finally {
      client?.close();
    }
  }
  const { clientFromSource } = await import('../workers/start-thread');
  const client = clientFromSource();
  try {
    if (study === 'run') {
      const [range, second] = wish.range;
      if (range !== undefined && second !== undefined) {
        const report = await studies.reportMap({ documents, source, client }, [range, second], wish);
        write(report, wish.csv ? (await import('../formats/spreadsheet')).writeCsv(studies.mapCells(report)) : studies.formatMap(report));
        return report.samples.every(({ problems }) => problems.length > 0) ? 1 : 0;
      }
      if (range === undefined) throw new CommandProblem(`run needs a range: --range "DOC.value=200 mm..600 mm/21".\n${USAGE}`);
      const report = await studies.reportRun({ documents, source, client }, range, wish);
      write(report, wish.csv ? (await import('../formats/spreadsheet')).writeCsv(studies.runCells(report)) : studies.formatRun(report));
      return report.safe.length === 0 ? 1 : 0;
    }
    const [goal, by] = [wish.goal[0], wish.by[0]];
    if (goal === undefined || by === undefined) throw new CommandProblem(`solve needs --goal "DOC.mass=2 kg" and --by "DOC.value=10 mm..30 mm".\n${USAGE}`);
    if (wish.goal.length > 1 || wish.by.length > 1) {
      const { reportGoals, formatGoals } = await import('./goals');
      const report = await reportGoals({ documents, source, client }, wish.goal, wish.by);
      write(report, formatGoals(report));
      return report.isReached ? 0 : 1;
    }
    const report = await studies.reportSolve({ documents, source, client }, goal, by);
    write(report, studies.formatSolve(report));
    return report.at === null ? 1 : 0;
  } finally {
    client.close();
  }
}

async function regenerate({ documents, earlier }: LoadedProject, options: Options): Promise<number> {
  // Loaded when needed: most commands build no geometry.
  const [{ clientFromSource }, { buildWhole }] = await Promise.all([import('../workers/start-thread'), import('../workers/whole-assembly')]);
  const client = clientFromSource();
  const parts: unknown[] = [];
  const lines: string[] = [];
  let failed = false;
  const built = new Map<string, BuiltInstance>();
  const source = headsOf(documents, (key) => built.get(key), earlier);
  try {
    for (const nominal of documents) {
      const document = options.at ? await buildAt(client, nominal, source, options.at) : nominal;
      if (document.kind !== 'part') {
        const whole = document.kind === 'assembly' ? await buildWhole(client, document, source.snapshot, { built, isJudged: true }) : undefined;
        if (whole && 'failure' in whole) throw new CommandProblem(`${whole.part} could not be regenerated in ${document.name} (${whole.failure.kind}).`);
        const own = whole?.measured.find((one) => one.document === document);
        const report = reportDocument(document, source, { measured: own?.measured ?? {}, shapes: whole?.shapes, interference: whole?.interference });
        failed ||= hasErrors([report]);
        lines.push(formatReport(report));
        parts.push(report);
        if (whole) {
          const tree = assemblyTree(whole.values, whole.placement.standing);
          for (const format of ASSEMBLY_FORMATS) {
            const file = options.files[format] === undefined ? undefined : await client.exportAssembly(document, format, tree.root, tree.parts);
            if (file && !file.ok) throw new CommandProblem(`${document.name} could not be exported (${file.failure.kind}).`);
            if (file) writeExport(document, format, options.files[format], file.value);
          }
        }
        continue;
      }
      const whole = complete(document, source);
      const reply = await client.regenerate(whole);
      if (!reply.ok) throw new CommandProblem(`${document.name} could not be regenerated (${reply.failure.kind}).`);
      const { steps, bodies, measured } = reply.value.result;
      const report = reportDocument(document, source, { measured });
      lines.push(formatReport(report));
      failed ||= hasErrors([report]);
      failed ||= steps.some((step) => step.status === 'failed' || step.status === 'waiting');
      parts.push({ ...report, steps: steps.map(({ id, status, problem, warnings, sketch }) => ({ id, status, problem, warnings, sketch })), bodies });
      lines.push(...steps.filter((step) => step.problem).map((step) => `  ${step.status}: ${step.problem?.message ?? ''}`));
      lines.push(...steps.flatMap((step) => (step.warnings ?? []).map(({ message }) => `  warning: ${message}`)));
      lines.push(
        ...bodies.map(
          ({ name, properties, mass, massProblem = 'no mass' }) =>
            `  body ${name}: ${properties ? `${properties.volume.toFixed(3)} mm³, ${properties.area.toFixed(3)} mm², ${mass === undefined ? massProblem : `${mass.toFixed(4)} kg`}, ${properties.isValid ? 'valid' : 'invalid'}` : 'not built'}`,
        ),
      );
      for (const format of EXPORT_FORMATS) await exportDocument(client, whole, format, options.files[format]);
    }
  } finally {
    client.close();
  }
  print(options.json ? JSON.stringify({ documents: parts }, null, 2) : lines.join('\n'));
  return failed ? 1 : 0;
}

/** The document at its limits. Values that are measured on a part have their nominal from the part as it is. */
async function buildAt(client: RegenerationClient, document: Document, source: InstanceSource, at: BuiltAt): Promise<Document> {
  const reply = document.kind === 'part' && measuresGeometry(document) ? await client.regenerate(complete(document, source)) : undefined;
  return builtAt(document, source, at, reply?.ok ? reply.value.result.measured : {}).document;
}

async function exportDocument(client: RegenerationClient, document: CompleteDocument, format: ExportFormat, directory: string | undefined): Promise<void> {
  if (directory === undefined) return;
  const file = await client.exportFile(document, format);
  if (!file.ok) throw new CommandProblem(`${document.name} could not be exported (${file.failure.kind}).`);
  writeExport(document, format, directory, file.value);
}

function writeExport(document: Document, format: ExportFormat, directory: string | undefined, { bytes, bodies }: ExportedFile): void {
  if (bodies === 0 || directory === undefined) return;
  mkdirSync(directory, { recursive: true });
  const name = document.name.replace(/[^\p{L}\p{Nd}]+/gu, '-').toLowerCase();
  writeFileSync(path.join(directory, `${name}.${format}`), bytes);
}

function hasErrors(reports: readonly DocumentReport[]): boolean {
  return reports.some(
    (report) =>
      [...report.values, ...(report.driven ?? [])].some((value) => value.diagnostics.length > 0) ||
      report.guards.some((guard) => guard.holds !== true && guard.severity === 'error'),
  );
}

function print(text: string): void {
  process.stdout.write(`${text}\n`);
}

main(process.argv.slice(2)).then(
  (status) => {
    process.exitCode = status;
  },
  (problem: unknown) => {
    if (!(problem instanceof CommandProblem)) throw problem;
    process.stderr.write(`${problem.message}\n`);
    process.exitCode = 2;
  },
);
