/** The tree of an assembly as it stands: for files with product structure. */
import type { DocumentValues } from '../document';
import { complete, listShown, STANDING, type CompleteDocument, type Standing, type Stance } from '../instances';

export interface TreeNode {
  /** The name of the component, and of the document that it stands for. */
  readonly name: string;
  readonly product: string;
  /** Where it stands within the assembly around it. */
  readonly at: Stance;
  /** Of a part: that of the outermost component around it that has one; as its bodies are without it. */
  readonly colour?: string;
  /** The key of a part; absent for an assembly. */
  readonly part?: string;
  readonly children: readonly TreeNode[];
}

/** The tree, and its parts by their keys with the values that they have there and what they stand on. What is suppressed is not in it. */
export function assemblyTree(
  values: DocumentValues,
  standing: Standing,
): { readonly root: TreeNode; readonly parts: Readonly<Record<string, CompleteDocument>> } {
  const parts: Record<string, CompleteDocument> = {};
  const childrenOf = (inside: DocumentValues, path: readonly string[], around?: string): TreeNode[] =>
    [...listShown(inside, path, standing)].flatMap(({ id, name, at, instance, source, component }): TreeNode[] => {
      const { document } = instance.values;
      const colour = around ?? component.colour;
      const node = { name, product: document.name, at };
      if (document.kind === 'assembly') return [{ ...node, children: childrenOf(instance.values, [...path, id], colour) }];
      if (document.kind !== 'part') return [];
      parts[instance.key] = complete(document, source);
      return [{ ...node, part: instance.key, ...(colour === undefined ? {} : { colour }), children: [] }];
    });
  const { name } = values.document;
  return { root: { name, product: name, at: STANDING, children: childrenOf(values, []) }, parts };
}
