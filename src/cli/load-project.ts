/** The project of a file, with the values, sizes and what-ifs that the command line names. */
import { readFileSync } from 'node:fs';
import { findSize, inSize, listSizes, readProjectFile, type Document, type EarlierState, type ProjectFile } from '../core/document';
import { headsOf, openValues } from '../core/instances';
import { applySetting, catchUpProject } from '../core/links';
import { asWhatIf } from '../core/studies';
import type { Options } from './arguments';
import { CommandProblem } from './problem';

/** The documents of a file, and what their components stand for where that is another state of one. */
export interface LoadedProject {
  readonly documents: readonly Document[];
  readonly earlier: readonly EarlierState[];
}

export function loadProject(file: string, options: Options): LoadedProject {
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
export async function withAnswers({ documents, earlier }: LoadedProject, { asSaved }: Options, complain: (text: string) => void): Promise<LoadedProject> {
  const { askOutside } = await import('./ask-outside');
  const asked = await askOutside(documents, earlier, (answered) => (asSaved ? answered : catchUpProject(answered).documents));
  for (const problem of asked.problems) complain(problem);
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
