'use client';
/** The general tolerance of the document: what typed lengths have that have no tolerance of their own. */
import { GENERAL_CLASSES } from '@/core/tolerance';
import { useSession, useSessionState } from '../state/context';
import { Select } from '../design/fields';

const CLASSES = { '': 'are exact', f: 'ISO 2768-1 f, fine', m: 'ISO 2768-1 m, medium', c: 'ISO 2768-1 c, coarse', v: 'ISO 2768-1 v, very coarse' };

export function GeneralSelect() {
  const session = useSession();
  const general = useSessionState(({ document }) => document.general);
  return (
    <Select
      label="Lengths without a tolerance"
      value={general ?? ''}
      options={CLASSES}
      onChange={(next) => session.edit({ type: 'document.setGeneral', general: GENERAL_CLASSES.find((one) => one === next) ?? null })}
    />
  );
}
