'use client';
import Link from 'next/link';
import { findRecord, listRecords, type Take } from '@/core/document';
import { Button } from '../design/button';
import { TextTable } from '../design/text-table';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { PolicySelect } from '../links/policy-select';
import { editOrAsk } from '../state/removal';
import { TextField } from './text-field';

/** Where a linked value comes from, and the verbs of its link. */
export function TakenValue({ take }: { take: Take }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const link = useSessionState((state) => findRecord(state.document, take.link, 'link'));
  if (!link) return null;
  const takes = (): Take[] => listRecords(session.document, `${link.id}/takes`, 'take');
  return (
    <div className="mt-1 flex flex-wrap items-center gap-x-2 gap-y-1">
      <span className="text-walnut-soft">
        Taken from{' '}
        <Link href={`/documents/${link.source}`} className="value-linked">
          {link.sourceName}
        </Link>
        {take.sourceName !== take.name && `, where it is ${take.sourceName}`}, as of revision {link.revision}.
      </span>
      <PolicySelect
        label="When it changes there"
        policy={link.policy}
        onChange={(policy) => session.edit({ type: 'link.put', link: { ...link, policy }, takes: takes() })}
      />
      {take.value.kind === 'table' && <TextTable className="basis-full" columns={take.value.columns} rows={take.value.rows} />}
      <span className="basis-full" />
      <Button onClick={() => workspace.setState({ task: { kind: 'link', source: link.source } })}>Change the link</Button>
      <Button onClick={() => workspace.setState({ task: { kind: 'repoint', link: link.id } })}>Take from another document</Button>
      <Button
        title="All values of this link stay as they are now, as user parameters"
        onClick={() => {
          const count = takes().length;
          const failure = session.edit({ type: 'link.remove', id: link.id, readers: { mode: 'keep', all: true } });
          if (!failure)
            session.notify(`${count} value${count === 1 ? '' : 's'} of ${link.sourceName} are values of this document alone now. Undo links them again.`);
        }}
      >
        Freeze
      </Button>
      <Button
        onClick={() => {
          editOrAsk(session, workspace, `Stop taking ${take.name} from ${link.sourceName}`, (readers) => ({
            type: 'link.put',
            link,
            takes: takes().filter(({ id }) => id !== take.id),
            readers,
          }));
        }}
      >
        Stop taking it
      </Button>
      <Button
        onClick={() => {
          editOrAsk(session, workspace, `Remove the link to ${link.sourceName} with its ${takes().length} values`, (readers) => ({
            type: 'link.remove',
            id: link.id,
            readers,
          }));
        }}
      >
        Remove the link
      </Button>
      <span className="flex min-w-60 flex-1 items-center gap-1.5">
        <span className="shrink-0 text-walnut-soft">Note</span>
        <TextField
          key={`${take.id} ${take.note ?? ''}`}
          label="Note"
          value={take.note ?? ''}
          onAccept={(text) => session.edit({ type: 'take.update', id: take.id, changes: { note: text === '' ? null : text } })}
        />
      </span>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          checked={take.pinned === true}
          onChange={(event) => session.edit({ type: 'take.update', id: take.id, changes: { pinned: event.target.checked } })}
        />{' '}
        pinned
      </label>
    </div>
  );
}
