/** The rules of this code that no linter brings along. */

/** Refuses every node that `kind` names and `isMeant` picks. */
const refuse = (kind, message, isMeant = () => true) => ({
  create: (context) => ({
    [kind]: (node) => {
      if (isMeant(node)) context.report({ node, message });
    },
  }),
});

export default {
  meta: { name: 'house' },
  rules: {
    'listed-exports': refuse('ExportAllDeclaration', 'List what an index.ts exports.', (node) => node.exported === null),
    'no-enum': refuse('TSEnumDeclaration', 'Use a union of string literals.'),
    'no-double-cast': refuse('TSAsExpression', 'No double casts: validate at the border instead.', (node) => node.parent.type === 'TSAsExpression'),
  },
};
