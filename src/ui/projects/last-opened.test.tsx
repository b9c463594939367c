import { act, render, screen } from '@testing-library/react';
import type { ProjectCard } from '@/contract';
import { forgetOpened, noteOpened, openedDocuments, renameOpened, type OpenedDocument } from '../state/opened-documents';
import { LastOpened } from './last-opened';

const LOOM: ProjectCard = { id: 'loom', name: 'Table loom', documents: 3 };
const opened = (id: string, project = 'loom', name = id): OpenedDocument => ({ id, name, kind: 'part', project });

beforeEach(() => act(() => openedDocuments.setState({ documents: [] })));

function shown(): (string | null)[] {
  return screen.queryAllByRole('link').map((link) => link.textContent);
}

test('the last opened comes first, each once, of projects that are there, by the names that they have now', () => {
  for (const id of ['rail', 'beam', 'pawl', 'beam']) noteOpened(opened(id));
  noteOpened(opened('elsewhere', 'deleted'));
  renameOpened(opened('rail', 'loom', 'Cross rail'));
  render(<LastOpened projects={[LOOM]} />);
  expect(shown()).toEqual(['beam', 'pawl', 'Cross rail']);
  expect(screen.getAllByText('Table loom')).toHaveLength(3);
  expect(screen.getByRole('link', { name: 'Cross rail' }).getAttribute('href')).toBe('/documents/rail');
});

test('what is gone is forgotten, no more than six are kept, and none says nothing', () => {
  const { rerender, container } = render(<LastOpened projects={[LOOM]} />);
  expect(container.textContent).toBe('');
  act(() => {
    for (let i = 1; i <= 8; i++) noteOpened(opened(`part ${i}`));
    forgetOpened('part 8');
  });
  rerender(<LastOpened projects={[LOOM]} />);
  expect(shown()).toEqual(['part 7', 'part 6', 'part 5', 'part 4', 'part 3']);
});
