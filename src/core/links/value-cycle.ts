/** The path of a value that depends on itself across documents: cycles are judged between values, not files. */
import { DocumentValues, findAny, listRecords, type Document } from '../document';
import { findCycle } from '../network';

/**
 * `['Loom sizes: width', 'Side frame: depth']` when the one reads the other and that the one again; empty when no
 * value depends on itself.
 */
export function findValueCycle(documents: readonly Document[]): string[] {
  const nodes: { readonly document: Document; readonly id: string }[] = [];
  const indexOf = new Map<string, number>();
  const reads: number[][] = [];
  for (const document of documents) {
    for (const record of Object.values(document.records)) {
      if (record.type !== 'parameter' && record.type !== 'take') continue;
      indexOf.set(`${document.id}/${record.id}`, nodes.push({ document, id: record.id }) - 1);
      reads.push([]);
    }
  }
  const note = (from: string, to: string): void => {
    const [a, b] = [indexOf.get(from), indexOf.get(to)];
    if (a !== undefined && b !== undefined) reads[a]?.push(b);
  };
  for (const document of documents) {
    const { sheet } = new DocumentValues(document);
    for (const record of Object.values(document.records)) {
      if (record.type === 'parameter') for (const other of sheet.listReads(record.id)) note(`${document.id}/${record.id}`, `${document.id}/${other}`);
    }
    for (const link of listRecords(document, 'links', 'link')) {
      for (const take of listRecords(document, `${link.id}/takes`, 'take')) note(`${document.id}/${take.id}`, `${link.source}/${take.parameter}`);
    }
  }
  return (findCycle(nodes.length, (node) => reads[node] ?? []) ?? []).flatMap((index) => {
    const node = nodes[index];
    const record = node && findAny(node.document, node.id);
    return node && record && 'name' in record ? `${node.document.name}: ${record.name}` : [];
  });
}
