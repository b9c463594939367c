'use client';
/** Which bodies of a part are seen: hidden, seen through, or one alone. Nothing of it is in the document. */
import { findRecord, listIds } from '@/core/document';
import { Menu } from '../design/menu';
import { MENU, MenuItems, type MenuItem } from '../design/menu-items';
import { useSessionState, useWorkspace, useWorkspaceStore } from '../state/context';

export function ShownBodies() {
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const hidden = useWorkspace((state) => state.hidden);
  const clear = useWorkspace((state) => state.clear);
  const bodies = listIds(document, 'bodies');
  if (bodies.length < 2) return null;
  const toggled = (from: ReadonlySet<string>, id: string): ReadonlySet<string> =>
    from.has(id) ? new Set([...from].filter((one) => one !== id)) : new Set([...from, id]);
  const verbsOf = (id: string): MenuItem[] => [
    { label: hidden.has(id) ? 'Show' : 'Hide', run: () => workspace.setState({ hidden: toggled(hidden, id) }) },
    { label: clear.has(id) ? 'Show solid' : 'See through', run: () => workspace.setState({ clear: toggled(clear, id) }) },
    { label: 'Show only this', run: () => workspace.setState({ hidden: new Set(bodies.filter((other) => other !== id)) }) },
  ];
  const some = hidden.size + clear.size;
  return (
    <Menu
      align="end"
      sideOffset={4}
      button={{
        children: `Bodies${hidden.size > 0 ? `, ${hidden.size} hidden` : ''}`,
        className: 'h-6 shrink-0 rounded-box bg-flax/90 px-2.5 leading-6 hover:bg-flax-deep',
      }}
    >
      {(parts) => (
        <>
          {bodies.map((id) => (
            <parts.Sub key={id}>
              <parts.SubTrigger className="flex cursor-default items-center gap-6 px-3 py-1 outline-none data-[highlighted]:bg-indigo-wash">
                <span className={`flex-1 ${hidden.has(id) ? 'text-walnut-soft italic' : ''}`}>{findRecord(document, id, 'body')?.name}</span>
                {hidden.has(id) && <span className="text-xs text-walnut-soft">hidden</span>}
                <span aria-hidden>›</span>
              </parts.SubTrigger>
              <parts.Portal>
                <parts.SubContent className={MENU}>
                  <MenuItems of={parts} groups={[verbsOf(id)]} />
                </parts.SubContent>
              </parts.Portal>
            </parts.Sub>
          ))}
          <parts.Separator className="my-1 border-t border-rule" />
          <MenuItems of={parts} groups={[[{ label: 'Show all', isOff: some === 0, run: () => workspace.setState({ hidden: new Set(), clear: new Set() }) }]]} />
        </>
      )}
    </Menu>
  );
}
