/** The outlines of a section as a drawing to go on with elsewhere. */
import { writeSketchDxf } from '@/core/interchange';
import { frameOf, type Section } from './section-control';
import { saveFile } from '../design/save-file';
import type { DocumentSession } from '../state/document-session';

/** Saves them as DXF; what cannot be cut is said. */
export async function saveSection(session: DocumentSession, section: Section): Promise<void> {
  const curves = await session.geometry.section(frameOf(section));
  if (!curves) session.notify('The section could not be saved: not everything is built. Try again when it is.');
  else if (curves.length === 0) session.notify('The section cuts nothing. Move it onto the model.');
  else saveFile(new TextEncoder().encode(writeSketchDxf(curves)), `${session.document.name} section.dxf`);
}
