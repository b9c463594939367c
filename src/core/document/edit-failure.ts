/** Why an edit was not made, for the one who made it. Nothing of the document has changed. */
import type { Repair } from '../kit';

export interface EditFailure {
  readonly code:
    | 'not-found'
    | 'already-there'
    | 'bad-name'
    | 'still-read'
    | 'built-on'
    | 'wrong-owner'
    | 'wrong-order'
    | 'changed-since'
    | 'bad-reference'
    | 'too-large'
    | 'unsound';
  readonly message: string;
  readonly repairs?: readonly Repair[];
  /** Ids of values that stand in the way, such as those which read what was to be deleted. */
  readonly ids?: readonly string[];
}

/** Something else has that id. */
export function otherKind(id: string): EditFailure {
  return { code: 'already-there', message: `Something of another kind has the id ${id} here already.`, ids: [id] };
}

export function notFound(what: string): EditFailure {
  return { code: 'not-found', message: `${what} is not there any more.` };
}
