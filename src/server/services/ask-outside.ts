/** Asking outside calculations what a document, or what stands in it, has no answer to. */
import PQueue from 'p-queue';
import { listFiles, type Document, type Question } from '@/core/document';
import { fail, type Result } from '@/core/kit';
import { ask, type Answered, type AskFailure, type SpreadsheetQuestion } from '@/outside';
import { calculate, EndedCalculation } from '../calculation/run';
import { readFileContent } from './files';
import { readSnapshots } from './snapshots';

/** Services that are asked side by side. */
const SIDE_BY_SIDE = 4;
/** What is always computed in a thread of its own: a workbook can be anything. */
const IN_A_THREAD = Number.MAX_SAFE_INTEGER;

interface Asked {
  readonly question: Question;
  readonly answer: Result<Answered, AskFailure>;
}

export async function askAll(document: Document, questions: readonly Question[]): Promise<Asked[]> {
  const queue = new PQueue({ concurrency: SIDE_BY_SIDE });
  const stands = await readSnapshots([document]);
  const files = new Map([document, ...Object.values(stands)].flatMap(listFiles).map((file) => [file.id, file]));
  return Promise.all(
    questions.map((question) =>
      queue.add(async () => {
        const file = question.asked.of === 'spreadsheet' ? files.get(question.asked.file) : undefined;
        const content = file?.content ?? (file?.hash === undefined ? undefined : await readFileContent(file.hash));
        const answer = await ask({
          question,
          file: file && content !== undefined ? { name: file.name, content } : undefined,
          compute,
        });
        return { question, answer };
      }),
    ),
  );
}

/** A workbook that takes too much keeps nothing else from being answered. */
async function compute(wanted: SpreadsheetQuestion): Promise<Result<Answered, AskFailure>> {
  try {
    return await calculate('computeSpreadsheet', wanted, IN_A_THREAD);
  } catch (problem) {
    if (problem instanceof EndedCalculation) return fail({ kind: 'refused', problem: `${wanted.name}: ${problem.message}` });
    throw problem;
  }
}
