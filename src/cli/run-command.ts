/** The headless command as a function of its arguments; what it writes goes to its room. */
import { listSizes, projectJsonSchema } from '../core/document';
import { headsOf } from '../core/instances';
import { nameNearest } from '../core/kit';
import { builtAt } from '../core/studies';
import type { RegenerationClient } from '../workers/client';
import { COMMANDS, readArguments, STUDIES, USAGE, type Options, type Study } from './arguments';
import type { CommandRoom } from './command-room';
import { loadProject, withAnswers, type LoadedProject } from './load-project';
import { CommandProblem } from './problem';
import { formatReport, hasErrors, reportDocument } from './report';

/**
 * Carries out a command. Gives its exit status: 0 without errors in the model, 1 with some, 2 when it could not be carried out; the reason is
 * told as a complaint then.
 */
export async function runCommand(args: readonly string[], room: CommandRoom): Promise<number> {
  try {
    return await carryOut(args, room);
  } catch (problem) {
    if (!(problem instanceof CommandProblem)) throw problem;
    room.complain(problem.message);
    return 2;
  }
}

async function carryOut(args: readonly string[], room: CommandRoom): Promise<number> {
  const { print } = room;
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
  const project = options.services ? await withAnswers(loadProject(file, options), options, room.complain) : loadProject(file, options);
  if (command === 'sizes') return printSizes(project, wanted, options, room);
  if (study) return printStudy(project, study, options, room);
  const { documents, earlier } = project;
  const source = headsOf(documents, undefined, earlier);
  const { at } = options;
  const reports = documents.map((document) => reportDocument(at ? builtAt(document, source, at).document : document, source));
  if (command === 'evaluate') {
    print(options.json ? JSON.stringify({ documents: reports }, null, 2) : reports.map(formatReport).join('\n\n'));
    return hasErrors(reports) ? 1 : 0;
  }
  const { regenerate } = await import('./regenerate');
  return regenerate(project, options, room);
}

async function printSizes(
  { documents, earlier }: LoadedProject,
  wanted: string | undefined,
  options: Options,
  { print, openClient }: CommandRoom,
): Promise<number> {
  const document = documents.find(({ name, id }) => name === wanted || id === wanted);
  if (!document) throw new CommandProblem(`There is no document "${wanted ?? ''}". There are ${documents.map(({ name }) => name).join(', ')}.`);
  if (listSizes(document).length === 0) throw new CommandProblem(`${document.name} has no sizes.`);
  const [client, { reportSizes, formatSizes }] = await Promise.all([openClient(), import('./sizes')]);
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
async function printStudy(
  { documents, earlier }: LoadedProject,
  study: Study,
  { study: wish, json }: Options,
  { print, openClient }: CommandRoom,
): Promise<number> {
  const studies = await import('./studies');
  const source = headsOf(documents, undefined, earlier);
  const write = (report: unknown, text: string): void => print(json ? JSON.stringify(report, null, 2) : text);
  if (study === 'stack') {
    const [of] = wish.of;
    if (of === undefined) throw new CommandProblem(`stack needs a value: --of "DOC.value".\n${USAGE}`);
    const { reportStack, formatStack } = await import('./stack');
    let client: RegenerationClient | undefined;
    try {
      const report = await reportStack({ documents, source, openClient: async () => (client = await openClient()) }, of, {
        ...wish,
        seed: Number(wish.seed ?? 1),
      });
      write(report, formatStack(report));
      return report.free.length > 0 || (report.required && !report.required.isMet) ? 1 : 0;
    } finally {
      client?.close();
    }
  }
  const client = await openClient();
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
