'use client';
import { useMemo } from 'react';
import { BUILT_AT, type BuiltAt } from '@/core/studies';
import { Menu } from '../design/menu';
import { useSession, useSessionState, useWorkspaceStore } from '../state/context';
import { AT_CHOSEN, AT_WORDS, hasTolerances, showAt } from './show-at';

const NOMINAL = 'nominal';
const EACH = 'each';
const ITEM = 'relative flex cursor-default items-center py-1 pr-3 pl-7 outline-none data-[highlighted]:bg-indigo-wash';

/** Chooses whether the document is shown at nominal or at its limits; nothing where nothing has a tolerance. */
export function ShownAtMenu() {
  const session = useSession();
  const workspace = useWorkspaceStore();
  const document = useSessionState((state) => state.document);
  const title = useSessionState(({ shownAs }) => shownAs?.title);
  const isToleranced = useMemo(() => hasTolerances(document), [document]);
  if (!isToleranced && title === undefined) return null;
  const shown = title === AT_CHOSEN ? EACH : BUILT_AT.find((at) => AT_WORDS[at] === title);
  const choose = (chosen: string): void => {
    if (chosen === EACH) workspace.setState({ task: { kind: 'limits' } });
    else showAt(session, chosen === NOMINAL ? undefined : (chosen as BuiltAt));
  };
  return (
    <Menu
      align="end"
      sideOffset={4}
      button={{
        children: shown ? 'At limits' : 'Limits',
        className: `h-6 shrink-0 rounded-box px-2.5 leading-6 hover:bg-flax-deep ${shown ? 'bg-weld-wash' : 'bg-flax/90'}`,
      }}
    >
      {({ RadioGroup, RadioItem, ItemIndicator }) => (
        <RadioGroup value={shown ?? NOMINAL} onValueChange={choose}>
          {[NOMINAL, ...BUILT_AT].map((at) => (
            <RadioItem key={at} value={at} className={ITEM}>
              <ItemIndicator className="absolute left-2.5">✓</ItemIndicator>
              {at === NOMINAL ? 'Show at nominal' : `Show ${AT_WORDS[at as BuiltAt]}`}
            </RadioItem>
          ))}
          <RadioItem value={EACH} className={ITEM}>
            <ItemIndicator className="absolute left-2.5">✓</ItemIndicator>
            Choose for each value…
          </RadioItem>
        </RadioGroup>
      )}
    </Menu>
  );
}
