import { readFileSync } from 'node:fs';
import path from 'node:path';
import { applyEdit, readProjectFile, type Document, type Edit } from '@/core/document';

/** Text of the demo project file. */
export const DEMO_TEXT = readFileSync(path.join(process.cwd(), 'demo/table-loom.json'), 'utf8');

/** A document of the demo project by its name. */
export function demoDocument(name: string): Document {
  const document = demoDocuments().find((candidate) => candidate.name === name);
  if (!document) throw new Error(`no document ${name}`);
  return document;
}

export function demoDocuments(): readonly Document[] {
  const file = readProjectFile(DEMO_TEXT);
  if (!file.ok) throw new Error(JSON.stringify(file.failure));
  return file.value.documents;
}

/** The side frame of the demo as a board with its openings alone: no rounded corners, screw holes or slot. */
export function plainSide(): Document {
  const removed = ['pawl-slot-cut', 'screw-row', 'screw-hole', 'corners'].map((id): Edit => ({
    type: 'step.remove',
    id,
    readers: { mode: 'refuse' },
    sketches: true,
  }));
  return edited(demoDocument('Side frame'), ...removed);
}

/** Applies edits that must be accepted. */
export function edited(document: Document, ...edits: Edit[]): Document {
  return edits.reduce((current, edit) => {
    const result = applyEdit(current, edit);
    if (!result.ok) throw new Error(`${edit.type}: ${result.failure.message}`);
    return result.value.document;
  }, document);
}
