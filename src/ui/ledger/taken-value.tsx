'use client';
import Link from 'next/link';
import { findRecord, listRecords, type Link as LinkRecord, type Take } from '@/core/document';
import { Menu } from '../design/menu';
import { MenuItems } from '../design/menu-items';
import { TextTable } from '../design/text-table';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { PolicySelect } from '../design/policy-select';
import { editOrAsk } from '../state/removal';
import { TextField } from '../design/text-field';
import { stopTaking } from './value-commands';

/** Where a linked value comes from, and the verbs of its link. */
export function TakenValue({ take }: { take: Take }) {
  const session = useSession();
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
      <LinkMenu take={take} link={link} />
      {take.value.kind === 'table' && <TextTable className="basis-full" columns={take.value.columns} rows={take.value.rows} />}
      <span className="flex min-w-60 flex-1 items-center gap-1.5">
        <span className="shrink-0 text-walnut-soft">Note</span>
        <TextField
          key={take.id}
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

/** What can be done with the whole link of a value. */
function LinkMenu({ take, link }: { take: Take; link: LinkRecord }) {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const count = listRecords(session.document, `${link.id}/takes`, 'take').length;
  const values = `${count} value${count === 1 ? '' : 's'}`;
  const freeze = (): void => {
    const failure = session.edit({ type: 'link.remove', id: link.id, readers: { mode: 'keep', all: true } });
    if (!failure)
      session.notify(`${values} of ${link.sourceName} ${count === 1 ? 'is a value' : 'are values'} of this document alone now. Undo links them again.`);
  };
  const remove = (): void =>
    editOrAsk(session, workspace, `Remove the link to ${link.sourceName} with its ${values}`, (readers) => ({ type: 'link.remove', id: link.id, readers }));
  return (
    <Menu align="end" side="top" button={{ children: 'The link…', className: 'h-7 rounded-box border border-rule bg-sheet px-2 hover:bg-linen' }}>
      {(parts) => (
        <MenuItems
          of={parts}
          groups={[
            [
              { label: 'Change the link', run: () => workspace.setState({ task: { kind: 'link', source: link.source } }) },
              { label: 'Take from another document', run: () => workspace.setState({ task: { kind: 'repoint', link: link.id } }) },
            ],
            [
              { label: `Freeze: ${values} stay as they are`, run: freeze },
              { label: `Stop taking ${take.name}`, run: () => stopTaking({ session, workspace }, take) },
              { label: `Remove the link with its ${values}`, run: remove },
            ],
          ]}
        />
      )}
    </Menu>
  );
}
