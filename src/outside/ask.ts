/** Asks outside calculations, each question once at a time whoever asks. */
import type { Question } from '@/core/document';
import { fail, type Result } from '@/core/kit';
import type { Answered, AskFailure } from './answered';
import { askService } from './ask-service';
import { findService } from './services';
import type { SpreadsheetQuestion } from './spreadsheet';

/** On globalThis: route handlers and start-up are separate bundles. */
const shared = globalThis as typeof globalThis & { warpbeamAsked?: Map<string, Promise<Result<Answered, AskFailure>>> };

/** What asks, and what is asked. */
export interface Asking {
  readonly question: Question;
  /** The spreadsheet that the question is about, where it is about one: its name and packed content. */
  readonly file: Omit<SpreadsheetQuestion, 'question'> | undefined;
  readonly compute: (question: SpreadsheetQuestion) => Promise<Result<Answered, AskFailure>>;
}

export function ask(asking: Asking): Promise<Result<Answered, AskFailure>> {
  const underWay = (shared.warpbeamAsked ??= new Map());
  const { key } = asking.question;
  const known = underWay.get(key);
  if (known) return known;
  const answered = askAnew(asking).finally(() => underWay.delete(key));
  underWay.set(key, answered);
  return answered;
}

async function askAnew({ question, file, compute }: Asking): Promise<Result<Answered, AskFailure>> {
  const { asked } = question;
  if (asked.of === 'spreadsheet') return file ? compute({ ...file, question }) : fail({ kind: 'refused', problem: 'The spreadsheet is not at hand.' });
  const service = await findService(asked.service);
  return service.ok ? askService(service.value, question) : fail({ kind: 'refused', problem: service.failure });
}
