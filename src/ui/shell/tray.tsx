'use client';
import { useSession, useSessionState } from '../state/context';

/** What the designer must know now: no connection, edits that could not be kept, a refusal. */
export function Tray() {
  const session = useSession();
  const isOffline = useSessionState((state) => state.isOffline);
  const pending = useSessionState((state) => state.pending);
  const tray = useSessionState((state) => state.tray);
  const notice = useSessionState((state) => state.notice);
  return (
    <div aria-live="polite">
      {isOffline && (
        <p className="border-b border-weld bg-weld-wash px-3 py-1">
          The server does not answer. {pending} edit{pending === 1 ? ' is' : 's are'} kept in this browser and will be sent when it is back; you can go on
          working.
        </p>
      )}
      {notice !== undefined && (
        <p className="flex border-b border-weld bg-weld-wash px-3 py-1">
          <span className="flex-1">{notice}</span>
          <button type="button" className="underline" onClick={() => session.clearNotice()}>
            Close
          </button>
        </p>
      )}
      {tray.map((entry) => (
        <p key={entry.key} className="flex gap-2 border-b border-madder bg-madder-wash px-3 py-1">
          <span className="flex-1">
            An edit ({entry.edit.type}) no longer fits what others have done meanwhile: {entry.reason}
          </span>
          <button type="button" className="underline" onClick={() => void navigator.clipboard.writeText(JSON.stringify(entry.edit, null, 2))}>
            Copy it
          </button>
          <button type="button" className="underline" onClick={() => session.dismissRefused(entry.key)}>
            Discard it
          </button>
        </p>
      ))}
    </div>
  );
}
