'use client';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { DocumentKind } from '@/core/document';
import type { Result } from '@/core/kit';
import { beginGuide } from '../help/guide-progress';
import { api, type ApiFailure } from '../state/api';
import { freeProjectName } from '../state/free-project-name';
import { thisAuthor } from '../state/identity';

interface Start {
  readonly label: string;
  readonly words: string;
  /** Makes what is begun with, and gives its address. */
  readonly begin: (goTo: (address: string) => void) => Promise<Result<unknown, ApiFailure>>;
}

const STARTS: readonly Start[] = [
  { label: 'Guided first design', words: 'Ten short steps, about five minutes.', begin: beginGuide },
  { label: 'Start with a part', words: 'Draw, dimension, extrude.', begin: (goTo) => beginWith('part', 'Part', goTo) },
  { label: 'Start with sizes', words: 'A master: values that parts share.', begin: (goTo) => beginWith('master', 'Sizes', goTo) },
  {
    label: 'Open the example',
    words: 'A table loom: sizes, parts, assemblies.',
    begin: async (goTo) => {
      const reply = await api.openExample();
      if (reply.ok) goTo(`/projects/${reply.value.id}`);
      return reply;
    },
  },
];

/** Ways to begin, each of which opens what it makes. */
export function FirstSteps({ onFailure }: { onFailure: (failure: ApiFailure | undefined) => void }) {
  const router = useRouter();
  const [isBusy, setBusy] = useState(false);
  return (
    <ul aria-label="Ways to begin" className="grid grid-cols-2 gap-3 lg:grid-cols-4">
      {STARTS.map(({ label, words, begin }) => (
        <li key={label}>
          <button
            type="button"
            disabled={isBusy}
            className="flex h-full w-full flex-col items-start rounded-box border border-rule bg-flax px-3 py-2 text-left hover:border-indigo disabled:opacity-45"
            onClick={() => {
              setBusy(true);
              void begin((address) => router.push(address)).then((reply) => {
                setBusy(false);
                onFailure(reply.ok ? undefined : reply.failure);
              });
            }}
          >
            <strong className="block font-semibold text-indigo">{label}</strong>
            <span className="text-walnut-soft">{words}</span>
          </button>
        </li>
      ))}
    </ul>
  );
}

async function beginWith(kind: DocumentKind, name: string, goTo: (address: string) => void): Promise<Result<unknown, ApiFailure>> {
  const project = await api.createProject(await freeProjectName('New project'));
  if (!project.ok) return project;
  const document = await api.createDocument(project.value.id, { name, kind, author: thisAuthor() });
  if (document.ok) goTo(`/documents/${document.value.id}`);
  return document;
}
