/** Asks the outside calculations of a project on the command line: answers count for this one evaluation, and the file stays as it is. */
import { randomUUID } from 'node:crypto';
import { applyEdit, listFiles, listQuestions, type Document, type EarlierState, type Question } from '../core/document';
import { headsOf, openValues } from '../core/instances';
import { ask, computeSpreadsheet, type Answered } from '../outside';

/** One calculation may feed another, through links too; no sensible chain is longer. */
const MOST_ROUNDS = 20;

interface AskedProject {
  readonly documents: readonly Document[];
  /** What gave no answer, and why. */
  readonly problems: readonly string[];
}

/** `follow` brings values of one document to those that take them. */
export async function askOutside(
  project: readonly Document[],
  earlier: readonly EarlierState[],
  follow: (documents: readonly Document[]) => readonly Document[],
): Promise<AskedProject> {
  let documents = project;
  const problems = new Map<string, string>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    let isNew = false;
    const answered: Document[] = [];
    for (const document of documents) {
      let now = document;
      const open = listQuestions(openValues(document, headsOf(documents, undefined, earlier))).filter(({ state }) => state !== 'answered');
      for (const { question } of open) {
        const place = [document.id, ...question.within, question.key].join(' ');
        if (problems.has(place)) continue;
        const answer = await askOne(documents, question);
        if (!answer.ok) problems.set(place, `${document.name}, ${question.name}: ${answer.failure.problem}`);
        else {
          isNew = true;
          now = keep(now, question, answer.value);
        }
      }
      answered.push(now);
    }
    if (!isNew) break;
    documents = follow(answered);
  }
  return { documents, problems: [...problems.values()] };
}

function askOne(documents: readonly Document[], question: Question) {
  const { asked } = question;
  const file = asked.of === 'spreadsheet' ? documents.flatMap(listFiles).find(({ id }) => id === asked.file) : undefined;
  return ask({ question, file: file?.content === undefined ? undefined : { name: file.name, content: file.content }, compute: computeSpreadsheet });
}

function keep(document: Document, { outside, within, key, inputs }: Question, { outputs, version }: Answered): Document {
  const answer = { id: randomUUID(), outside, within: [...within], question: key, inputs: { ...inputs }, outputs: { ...outputs }, version };
  const applied = applyEdit(document, { type: 'outside.answer', answer: { type: 'answer', at: new Date().toISOString(), ...answer } });
  if (!applied.ok) throw new Error(applied.failure.message);
  return applied.value.document;
}
