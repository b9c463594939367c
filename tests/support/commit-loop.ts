/** Changes `out` of a master and catches everybody up, over and over, until it is killed. For the kill test. */
import { database } from '@/server/db/connect';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';
import { postEdits, readDocument } from '@/server/services/documents';
import { saveRevision } from '@/server/services/revisions';

async function main(project: string, master: string): Promise<void> {
  database();
  for (let round = 0; ; round++) {
    const read = await readDocument(master);
    if (!read.ok) throw new Error(read.failure.message);
    const key = `loop-${process.pid}-${round}-x`;
    const text = `${400 + (((read.value.seq + 1) * 7) % 300)} mm`;
    await postEdits(master, {
      base: read.value.seq,
      envelopes: [{ key, author: 'loop', edit: { type: 'parameter.setFormula', id: 'out', formula: { text } } }],
    });
    await saveRevision(master, { seq: read.value.seq + 1, message: '', author: 'loop' });
    const { documents } = await previewCatchUp(project);
    process.stdout.write('commits\n');
    if (documents.length > 0) await commitCatchUp(project, { documents: documents.map(({ id, seq }) => ({ id, seq })), author: 'loop' });
    process.stdout.write('round\n');
  }
}

const [, , project = '', master = ''] = process.argv;
void main(project, master);
