/** What can be done with a value, or with several that are marked: one list for menus, keys' words and the command box. */
import { findRecord, listIds, listRecords, type Parameter, type Take } from '@/core/document';
import type { DocumentSession } from '../state/document-session';
import { editOrAsk } from '../state/removal';
import type { Opened, WorkspaceStore } from '../state/workspace';
import { openBox } from './open-box';
import { copyRows, deleteValues, fillDown, moveValue, setFlag } from './ledger-keys';

export interface ValueCommand {
  readonly label: string;
  /** The keys that do the same on its row. */
  readonly keys?: string;
  readonly run: () => void;
}

interface Stores {
  readonly session: DocumentSession;
  readonly workspace: WorkspaceStore;
}

/** In groups, as a menu parts them; the value that has the focus comes first of those that are marked. */
export function listValueCommands(stores: Stores, ids: readonly string[]): readonly (readonly ValueCommand[])[] {
  const { session } = stores;
  const records = ids.flatMap((id) => findRecord(session.document, id, 'parameter') ?? findRecord(session.document, id, 'take') ?? []);
  const [first] = records;
  if (!first) return [];
  const groups = records.length === 1 ? commandsOfOne(stores, first) : commandsOfSeveral(stores, records);
  return groups.filter((group) => group.length > 0);
}

/** What a value is run through. */
const STUDIES = [
  { label: 'Run through a range…', kind: 'range' },
  { label: 'Run with a second value…', kind: 'map' },
  { label: 'Find a minimum or maximum…', kind: 'minimise' },
] as const;

function commandsOfOne({ session, workspace }: Stores, record: Parameter | Take): ValueCommand[][] {
  const { id } = record;
  const open = (opened: Opened) => () => workspace.setState({ selected: id, opened });
  const hasFormula = record.type === 'parameter' && !session.values.isMeasured(id);
  const order = listIds(session.document, 'parameters');
  const place = order.indexOf(id);
  return [
    [
      ...(hasFormula ? [{ label: 'Change the formula', keys: 'F2', run: () => openBox(session, workspace, { id, what: 'formula' }) }] : []),
      { label: 'Rename', keys: 'Shift F2', run: () => openBox(session, workspace, { id, what: 'name' }) },
    ],
    [
      { label: 'Trace…', run: open('trace') },
      { label: 'Rewrite…', run: open('rewrite') },
      { label: 'Over revisions…', run: open('past') },
      ...(hasFormula || record.type === 'take'
        ? [{ label: 'What if…', run: () => workspace.setState({ selected: id, task: { kind: 'what-ifs', value: id } }) }]
        : []),
      { label: 'Tolerance stack…', run: () => workspace.setState({ selected: id, task: { kind: 'stack', value: id } }) },
      ...(hasFormula ? STUDIES.map(({ label, kind }) => ({ label, run: () => workspace.setState({ selected: id, task: { kind, value: id } }) })) : []),
    ],
    [...flagCommands(session, [record]), { label: 'Hand over…', run: () => workspace.setState({ selected: id, task: { kind: 'hand-over', values: [id] } }) }],
    [
      copyCommand(session, [id]),
      ...(place > 0 ? [{ label: 'Move up', keys: 'Alt ↑', run: () => moveValue(session, id, -1) }] : []),
      ...(place >= 0 && place < order.length - 1 ? [{ label: 'Move down', keys: 'Alt ↓', run: () => moveValue(session, id, 1) }] : []),
    ],
    removeCommands({ session, workspace }, record),
  ];
}

function commandsOfSeveral({ session, workspace }: Stores, records: readonly (Parameter | Take)[]): ValueCommand[][] {
  const ids = records.map(({ id }) => id);
  const [first] = records;
  const canFill = first?.type === 'parameter' && records.slice(1).some((record) => record.type === 'parameter' && !session.values.isMeasured(record.id));
  return [
    canFill ? [{ label: `Fill down from ${first.name}`, keys: 'Ctrl D', run: () => fillDown(session, ids) }] : [],
    [...flagCommands(session, records), { label: 'Hand over…', run: () => workspace.setState({ task: { kind: 'hand-over', values: ids } }) }],
    [copyCommand(session, ids)],
    records.some((record) => record.type === 'parameter')
      ? [{ label: `Delete ${ids.length} values`, keys: 'Delete', run: () => deleteValues(session, workspace, ids) }]
      : [],
  ];
}

function copyCommand(session: DocumentSession, ids: readonly string[]): ValueCommand {
  const label = ids.length === 1 ? 'Copy the row' : `Copy ${ids.length} rows`;
  return { label, keys: 'Ctrl C', run: () => void navigator.clipboard.writeText(copyRows(session, ids)) };
}

/** Pinned and offered: what all of them are is taken back, what some are not is given to all. */
function flagCommands(session: DocumentSession, records: readonly (Parameter | Take)[]): ValueCommand[] {
  const own = records.filter((record) => record.type === 'parameter');
  const arePinned = records.every(({ pinned }) => pinned === true);
  const areOffered = own.every(({ offered }) => offered === true);
  return [
    { label: arePinned ? 'Unpin' : 'Pin', run: () => setFlag(session, records, 'pinned', !arePinned) },
    ...(own.length > 0 ? [{ label: areOffered ? 'Stop offering' : 'Offer', run: () => setFlag(session, own, 'offered', !areOffered) }] : []),
  ];
}

function removeCommands({ session, workspace }: Stores, record: Parameter | Take): ValueCommand[] {
  if (record.type === 'parameter') {
    const isFree = record.owner === undefined || record.measure !== undefined;
    return isFree ? [{ label: 'Delete', keys: 'Delete', run: () => deleteValues(session, workspace, [record.id]) }] : [];
  }
  return [{ label: 'Unlink', run: () => stopTaking({ session, workspace }, record) }];
}

/** A link without one of its values. */
export function stopTaking({ session, workspace }: Stores, take: Take): void {
  const link = findRecord(session.document, take.link, 'link');
  if (!link) return;
  editOrAsk(session, workspace, `Stop taking ${take.name} from ${link.sourceName}`, (readers) => ({
    type: 'link.put',
    link,
    takes: listRecords(session.document, `${link.id}/takes`, 'take').filter(({ id }) => id !== take.id),
    readers,
  }));
}
