/** Edits of the texts, the charts and the order of the page of a calc sheet. */
import { findAny, findRecord } from './access';
import type { Draft } from './draft';
import { notFound, otherKind, type EditFailure } from './edit-failure';
import type { EditOf } from './edit-schema';
import { PAGE } from './page';
import type { Chart, Paragraph } from './schema';

type PageEdit = EditOf<'paragraph.put' | 'paragraph.remove' | 'chart.put' | 'chart.remove' | 'page.order'>;

export function applyPageEdit(draft: Draft, edit: PageEdit): EditFailure | undefined {
  switch (edit.type) {
    case 'paragraph.put':
      return putLine(draft, 'paragraphs', edit.paragraph);
    case 'chart.put': {
      const { over, of, by } = edit.chart;
      const gone = [over, ...of, ...(by ? [by.value] : [])].some(
        (id) => !findRecord(draft.document, id, 'parameter') && !findRecord(draft.document, id, 'take'),
      );
      return gone ? notFound('A value of this chart') : putLine(draft, 'charts', edit.chart);
    }
    case 'paragraph.remove':
    case 'chart.remove': {
      const type = edit.type === 'chart.remove' ? 'chart' : 'paragraph';
      if (!findRecord(draft.document, edit.id, type)) return notFound('This line');
      draft.put(edit.id, null);
      draft.removeFromList(`${type}s`, edit.id);
      return undefined;
    }
    case 'page.order':
      if (!findAny(draft.document, PAGE)) draft.insert('paging', PAGE);
      draft.put(PAGE, { type: 'page', id: PAGE, order: [...new Set(edit.order)] });
      return undefined;
  }
}

function putLine(draft: Draft, list: 'paragraphs' | 'charts', line: Paragraph | Chart): EditFailure | undefined {
  const there = findAny(draft.document, line.id);
  if (there && there.type !== line.type) return otherKind(line.id);
  if (!there) draft.insert(list, line.id);
  draft.put(line.id, line);
  return undefined;
}
