'use client';
import { useState } from 'react';
import { ModalPage } from '../design/modal-page';
import { searchKeys } from './keys';

/** All keys, with a search. */
export function KeysPage({ onClose }: { onClose: () => void }) {
  const [text, setText] = useState('');
  const groups = searchKeys(text);
  return (
    <ModalPage title="Keys" leave="Close" onClose={onClose}>
      <div className="p-4">
        <input
          type="search"
          aria-label="Search keys"
          placeholder="Search keys"
          className="mb-4 h-8 w-80 max-w-full rounded-box border border-rule bg-sheet px-2"
          autoFocus // oxlint-disable-line jsx-a11y/no-autofocus -- a page that was opened to search in
          value={text}
          onChange={(event) => setText(event.target.value)}
        />
        {groups.length === 0 && <p className="text-walnut-soft">No key matches.</p>}
        <div className="columns-[20rem] gap-8">
          {groups.map(({ title, keys }) => (
            <section key={title} className="mb-5 break-inside-avoid">
              <h3 className="mb-1 font-semibold">{title}</h3>
              <dl className="grid grid-cols-[9.5rem_1fr] gap-x-3 gap-y-0.5">
                {keys.map(([key, words]) => (
                  <div key={`${key} ${words}`} className="contents">
                    <dt className="font-mono text-[13px]">{key}</dt>
                    <dd className="text-walnut-soft">{words}</dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
        </div>
      </div>
    </ModalPage>
  );
}
