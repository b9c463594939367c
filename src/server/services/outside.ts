/** Outside calculations of documents: what there is to ask, and asking it. Answers go into the document as edits that nobody else can make. */
import type { AskedReply, ServicesReply } from '@/contract';
import { listOutside, measuresGeometry, type Document, type Edit, type Question } from '@/core/document';
import type { BuiltInstance } from '@/core/instances';
import { fail, succeed, type Result } from '@/core/kit';
import { listFunctions, listServices, type Answered } from '@/outside';
import { calculate } from '../calculation/run';
import { DocumentRow } from '../db/models';
import { publish } from '../events';
import { buildGeometry, buildTogether } from '../jobs';
import { askAll } from './ask-outside';
import { lockDocument, readState, writeChanges } from './document-store';
import { newId } from './ids';
import { inOneTransaction, refuse, RefusedTransaction, type Refusal } from './refusal';
import { readSnapshots } from './snapshots';

/** One calculation may feed another; no sensible chain is longer. */
const MOST_ROUNDS = 20;
/** The name under which answers stand in the history. */
const AUTHOR = 'Warpbeam';

/** Every service that is listed, with what it computes; or why that cannot be told. */
export async function readServices(): Promise<ServicesReply> {
  const listed = await listServices();
  if (!listed.ok) return { services: [], problem: listed.failure };
  const services = await Promise.all(
    listed.value.map(async (service) => {
      const told = await listFunctions(service);
      return told.ok
        ? { name: service.name, version: told.value.version, functions: told.value.functions }
        : { name: service.name, version: '', functions: [], problem: told.failure.problem };
    }),
  );
  return { services };
}

/** On globalThis: each bundle of the server would have its own. */
const shared = globalThis as typeof globalThis & { warpbeamAnswering?: Map<string, Promise<unknown>> };

/** Asks what the document has no answer for, one round after another, and keeps what comes back. */
export async function answerDocument(id: string): Promise<Result<AskedReply, Refusal>> {
  const underWay = (shared.warpbeamAnswering ??= new Map());
  // Two pages of one document do not ask at once; the second finds the answers there.
  const before = underWay.get(id);
  const answering = (async () => {
    await before?.catch(() => undefined);
    return answerRounds(id);
  })();
  underWay.set(id, answering);
  try {
    return await answering;
  } finally {
    if (underWay.get(id) === answering) underWay.delete(id);
  }
}

async function answerRounds(id: string): Promise<Result<AskedReply, Refusal>> {
  const failed = new Map<string, AskedReply['failures'][number]>();
  for (let round = 0; round < MOST_ROUNDS; round++) {
    const row = await DocumentRow.findByPk(id, { attributes: ['body', 'size'] });
    if (!row) return fail(refuse('not-found', 'There is no such document.'));
    const document = readState(row);
    const open = (await openQuestions(document, row.size)).filter((question) => !failed.has(placeOf(question)));
    if (open.length === 0) break;
    const asked = await askAll(document, open);
    const answered = asked.flatMap(({ question, answer }) => (answer.ok ? [{ question, answer: answer.value }] : []));
    for (const { question, answer } of asked) if (!answer.ok) failed.set(placeOf(question), { ...told(question), ...answer.failure });
    if (answered.length === 0) break;
    const kept = await keepAnswers(id, answered);
    if (!kept.ok) return kept;
    if (!kept.value) break;
  }
  return succeed({ failures: [...failed.values()] });
}

const placeOf = ({ within, outside, key }: Question): string => [...within, outside, key].join(' ');
const told = ({ within, outside }: Question) => ({ within, outside });

async function openQuestions(document: Document, size: number): Promise<readonly Question[]> {
  const stands = await readSnapshots([document]);
  if ([document, ...Object.values(stands)].every((one) => listOutside(one).length === 0)) return [];
  // What is measured may be asked about.
  const together = document.kind === 'assembly' ? await buildTogether(document, size) : { stands, built: new Map<string, BuiltInstance>() };
  const measured = document.kind === 'part' && measuresGeometry(document) ? (await buildGeometry({ document, stands }))?.measured : undefined;
  return calculate('listOpenQuestions', { document, measured, together }, size);
}

/** Whether they are kept now. */
async function keepAnswers(id: string, answered: readonly { readonly question: Question; readonly answer: Answered }[]): Promise<Result<boolean, Refusal>> {
  const at = new Date().toISOString();
  const edits = answered.map(({ question, answer }): Edit => ({
    type: 'outside.answer',
    answer: {
      type: 'answer',
      id: newId(),
      outside: question.outside,
      within: [...question.within],
      question: question.key,
      inputs: { ...question.inputs },
      outputs: { ...answer.outputs },
      at,
      version: answer.version,
    },
  }));
  const done = await inOneTransaction(async (transaction) => {
    const row = await lockDocument(id, transaction);
    if (!row) throw new RefusedTransaction(refuse('not-found', 'There is no such document.'));
    await writeChanges([{ row, envelopes: edits.map((edit) => ({ key: newId(), edit, author: AUTHOR })) }], transaction);
    return { project: row.projectId, seq: row.seq };
  });
  if (done.ok) publish({ type: 'edited', project: done.value.project, document: id, seq: done.value.seq });
  // A calculation that was deleted while it was asked needs no answer any more.
  else if (done.failure.code !== 'edit-refused') return done;
  return succeed(done.ok);
}
