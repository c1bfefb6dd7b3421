// What can be changed in a source file so that it is still a program, and does something else.
import ts from 'typescript';

const operators = new Map(
  Object.entries({
    '<': '<=',
    '<=': '<',
    '>': '>=',
    '>=': '>',
    '===': '!==',
    '!==': '===',
    '&&': '||',
    '||': '&&',
    '+': '-',
    '-': '+',
    '*': '/',
  }),
);
const calls = new Map(
  Object.entries({
    max: 'min',
    min: 'max',
    floor: 'ceil',
    ceil: 'floor',
    some: 'every',
    every: 'some',
  }),
);
/** Calls that give what they are asked of, changed: without them it is as it was. */
const dropped = new Set(['filter', 'sort', 'reverse', 'slice', 'trimEnd', 'trim', 'toSorted']);

/**
 * Changes of one place each: operators, numbers, booleans, conditions turned around, calls left out.
 * @returns {{at: number, to: number, was: string, now: string, line: number}[]}
 */
export function changesIn(file, source) {
  const tree = ts.createSourceFile(file, source, ts.ScriptTarget.Latest, true);
  const found = [];
  const add = (node, now, at = node.getStart(tree), to = node.getEnd()) =>
    found.push({
      at,
      to,
      was: source.slice(at, to).replace(/\s+/g, ' ').slice(0, 60),
      now,
      line: tree.getLineAndCharacterOfPosition(at).line + 1,
    });
  const visit = (node) => {
    if (ts.isTypeNode(node) || ts.isImportDeclaration(node)) return;
    if (ts.isInterfaceDeclaration(node) || ts.isTypeAliasDeclaration(node)) return;
    if (ts.isBinaryExpression(node)) {
      const now = operators.get(node.operatorToken.getText(tree));
      const isText = [node.left, node.right].some((side) => ts.isStringLiteralLike(side));
      if (now && !(isText && now === '-')) add(node.operatorToken, now);
    } else if (ts.isNumericLiteral(node) && !ts.isPropertyAssignment(node.parent))
      add(node, String(Number(node.text.replaceAll('_', '')) + 1));
    else if (node.kind === ts.SyntaxKind.TrueKeyword) add(node, 'false');
    else if (node.kind === ts.SyntaxKind.FalseKeyword) add(node, 'true');
    else if (ts.isIfStatement(node)) add(node.expression, `!(${node.expression.getText(tree)})`);
    else if (ts.isConditionalExpression(node))
      add(node.condition, `!(${node.condition.getText(tree)})`);
    else if (ts.isCallExpression(node) && ts.isPropertyAccessExpression(node.expression)) {
      const name = node.expression.name.text;
      if (calls.has(name)) add(node.expression.name, calls.get(name));
      if (dropped.has(name)) add(node, node.expression.expression.getText(tree));
    }
    if (ts.isExpressionStatement(node) && ts.isCallExpression(node.expression)) add(node, ';');
    ts.forEachChild(node, visit);
  };
  visit(tree);
  return found;
}
