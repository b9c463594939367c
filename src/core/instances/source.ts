/**
 * Where instances come from. An *instance* is a document at a revision, with some of its values set from outside and some of its values
 * read. A component of an assembly is an instance with a placement; one without a place sets values of a document for all components that
 * take them from it.
 */
import type { Document, MeasuredValue } from '../document';
import type { Frame } from '../geometry';

/** What only the geometry of an instance tells, in internal units. */
export interface BuiltInstance {
  /** Values of the document that are read off its geometry, by id. */
  readonly measured: Readonly<Record<string, MeasuredValue>>;
  /** Of a part: all its bodies together. */
  readonly mass?: MeasuredValue;
  readonly volume?: MeasuredValue;
  /** Of a part, by its patterns: where their originals stand in their other places, numbered from 1. */
  readonly places?: Readonly<Record<string, readonly { readonly place: number; readonly frame: Frame }[]>>;
}

export interface InstanceSource {
  /** A document as a revision has it, which never changes; undefined while it is not at hand. */
  readonly snapshot: (source: string, revision: number) => Document | undefined;
  /** What was built of a part, or read off an assembly, with the values that it has there, under a key for both; undefined until it has been. */
  readonly built: (key: string, document: Document) => BuiltInstance | undefined;
}
