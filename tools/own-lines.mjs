/**
 * A lint rule: how many lines a function may have of its own. Those of functions within it are theirs: a list of
 * short functions is as long as it likes, and one that goes on and on is not. Of a component all lines count: it
 * is one picture.
 */
const spanOf = ({ loc }) => loc.end.line - loc.start.line + 1;

const isComponent = (node, file) =>
  file.endsWith('.tsx') && /^[A-Z]/.test(node.id?.name ?? node.parent?.id?.name ?? '');

export const ownLines = {
  meta: {
    type: 'suggestion',
    schema: [{ type: 'integer', minimum: 1 }],
    messages: { long: '{{lines}} lines, at most {{most}}: take a part of it out.' },
  },
  create(context) {
    const [most] = context.options;
    /** Lines of functions within the one at hand, by how deep it is. */
    const within = [];
    const enter = () => within.push(0);
    const leave = (node) => {
      const inner = within.pop();
      const lines = spanOf(node) - (isComponent(node, context.filename) ? 0 : inner);
      // A function takes a line where it stands.
      if (within.length > 0) within[within.length - 1] += spanOf(node) - 1;
      if (lines > most) context.report({ node, messageId: 'long', data: { lines, most } });
    };
    const functions = ['FunctionDeclaration', 'FunctionExpression', 'ArrowFunctionExpression'];
    return Object.fromEntries(
      functions.flatMap((kind) => [
        [kind, enter],
        [`${kind}:exit`, leave],
      ]),
    );
  },
};
