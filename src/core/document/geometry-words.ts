/** Names of faces, edges and corners in the designer's words. */
import { findAny, findStep, listIds } from './access';
import type { Document } from './schema';

/** `edge between end of Board and side 3 of Board, beside side 1 of Groove`; for a face `end of Board`. */
export function describeGeometry(document: Document, name: string): string {
  const corner = /^corner\[(.*)\](?:#(\d+))?$/.exec(name);
  if (corner) {
    const meeting = [...new Set((corner[1] ?? '').split(' | ').map((face) => describeFace(document, face)))];
    return `corner of ${meeting.slice(0, -1).join(', ')} and ${meeting.at(-1) ?? ''}${corner[2] === undefined ? '' : `, number ${Number(corner[2]) + 1}`}`;
  }
  const edge = /^edge\[(.*)\](?:\{([^{}]*)\})?(?:#\d+)?$/.exec(name);
  if (!edge) return describeFace(document, name);
  const faces = [...new Set((edge[1] ?? '').split(' | ').map((face) => describeFace(document, face)))];
  const ends = edge[2] === undefined ? '' : `,${besides(document, edge[2])}`;
  return faces.length === 1 ? `seam of ${faces[0] ?? ''}` : `edge between ${faces.join(' and ')}${ends}`;
}

function besides(document: Document, told: string): string {
  return ` beside ${[...new Set(told.split(', ').map((beside) => describeFace(document, beside)))].join(' and ')}`;
}

function describeFace(document: Document, named: string): string {
  // Of the names of a face that several became, the first.
  const name = named.replace(/ = [^{}]*/, '');
  // A copy is told by the step that made it, `<pattern>/<place>:<name>`.
  const copy = /^([^/{]+)\/([^:/{]+):(.*)$/.exec(name);
  if (copy) return `${describeFace(document, copy[3] ?? '')} at ${findStep(document, copy[1] ?? '')?.name ?? 'a copy'} ${placeName(copy[2] ?? '')}`.trim();
  const [, whole = name, told, piece] = /^(.*?)(?:\{([^{}]*)\})?(?:#(\d+))?$/.exec(name) ?? [];
  const [, step = '', part = '', about = ''] = /^([^/]+)\/([a-z]+)(?:\(([^)]*)\))?$/.exec(whole) ?? [];
  const known = findStep(document, step);
  if (!known) return 'a face';
  const number = part === 'side' ? curveNumber(document, known, about) : undefined;
  const beside = told === undefined ? '' : besides(document, told);
  return `${part}${number === undefined ? '' : ` ${number}`} of ${known.name}${beside}${piece === undefined ? '' : `, piece ${Number(piece) + 1}`}`;
}

function placeName(place: string): string {
  return /^\d+$/.test(place) ? place : '';
}

/** Which line of its sketch a side comes from, counted from 1. */
function curveNumber(document: Document, step: object, curve: string): number | undefined {
  if (!('sketch' in step) || typeof step.sketch !== 'string') return undefined;
  const curves = listIds(document, `${step.sketch}/entities`).filter((id) => findAny(document, id)?.type !== 'point');
  const at = curves.indexOf(curve);
  return at < 0 ? undefined : at + 1;
}
