/** A component as its assembly evaluates it. */
import type { DocumentValues } from '../document';
import type { InstanceKey } from './drive-document';

/** A component as it is evaluated; without values where it cannot be, and why. */
export interface Instance {
  readonly key: InstanceKey;
  readonly values: DocumentValues | undefined;
  readonly problem: string | undefined;
  /** By id of a node of its values: the drives of the assembly that set it. */
  readonly setBy: ReadonlyMap<string, readonly string[]>;
}
