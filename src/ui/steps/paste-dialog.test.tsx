import { act, screen } from '@testing-library/react';
import { findNamed, findRecord, listIds } from '@/core/document';
import { demoDocument } from '../../../tests/support/demo';
import { renderIn } from '../../../tests/support/render';
import { copyBody } from '../state/step-verbs';
import { PasteWatch } from './paste-watch';

jest.setTimeout(30_000);

const RAIL = demoDocument('Cross rail');

async function open() {
  const opened = await renderIn(RAIL, <PasteWatch />);
  const [body = ''] = listIds(RAIL, 'bodies');
  act(() => copyBody(opened.session, opened.workspace, body));
  await screen.findByRole('dialog');
  const formulaOf = (name: string): string | undefined => {
    const record = findNamed(opened.session.document, name);
    return record?.type === 'parameter' ? record.formula.text : undefined;
  };
  return { ...opened, formulaOf };
}
const box = (name: string): HTMLInputElement => screen.getByRole('textbox', { name: `Formula of ${name}` });

test('a body is copied with its steps: values as in the original, tied to it, or typed', async () => {
  const { user, formulaOf, session } = await open();
  expect(box('end_hole_across_2').placeholder).toBe('section_depth_2 / 2');
  // All that it works on comes along: there is no other body to be chosen.
  expect(screen.queryByRole('combobox')).toBeNull();
  await user.type(box('bar_length_2'), 'rail_length / 2');
  await user.click(screen.getByRole('checkbox', { name: 'Tie section_height_2 to section_height' }));
  expect(box('section_height_2').value).toBe('section_height');
  await user.click(screen.getByRole('button', { name: 'Put them in' }));
  expect(['bar_length_2', 'section_height_2', 'section_depth_2', 'end_hole_across_2'].map(formulaOf)).toEqual([
    'rail_length / 2',
    'section_height',
    '2 * frame_stock',
    'section_depth_2 / 2',
  ]);
  expect(listIds(session.document, 'bodies').map((id) => findRecord(session.document, id, 'body')?.name)).toEqual(['Rail', 'Rail 2']);
  act(() => session.undo());
  expect(listIds(session.document, 'bodies')).toHaveLength(1);
});

test('what is untied is as in the original again; nothing is done where it is cancelled', async () => {
  const { user, session } = await open();
  const tie = screen.getByRole('checkbox', { name: 'Tie bar_length_2 to bar_length' });
  await user.click(tie);
  await user.click(tie);
  expect(box('bar_length_2').value).toBe('');
  await user.click(screen.getByRole('button', { name: 'Cancel' }));
  expect(session.document).toEqual(RAIL);
});
