import { ESLintUtils } from '@typescript-eslint/utils';
import ts from 'typescript';

/**
 * `record[key]` with a key that is any string finds what every object inherits (`constructor`, `toString`), and writing to it can change an
 * object's prototype. Such look-ups go through `ownEntry` and `putEntry` (src/core/own-entry.ts), Object.hasOwn, or a Map.
 */
const isAnyString = (type) =>
  type.isUnion()
    ? type.types.some(isAnyString)
    : (type.flags & (ts.TypeFlags.String | ts.TypeFlags.Any | ts.TypeFlags.Unknown)) !== 0;

/** Lists, texts and typed arrays: their members are found by position. */
const isList = (checker, type) =>
  type.isUnion()
    ? type.types.every((part) => isList(checker, part))
    : checker.isArrayType(type) ||
      checker.isTupleType(type) ||
      (type.flags & ts.TypeFlags.StringLike) !== 0 ||
      /^(Ui|I)nt\d+(Clamped)?Array|^Float\d+Array|^Buffer/.test(type.symbol?.name ?? '');

const rule = {
  meta: {
    type: 'problem',
    fixable: 'code',
    docs: { description: 'look-ups by any string are of own members' },
    messages: {
      read: 'This key can be any string, and would find what every object inherits: use ownEntry(record, key), or a Map.',
      write:
        'This key can be any string: writing to it can change the prototype. use putEntry, a Map, or Object.fromEntries.',
      in: '"in" finds what every object inherits: use Object.hasOwn.',
    },
    schema: [],
  },
  create(context) {
    const services = ESLintUtils.getParserServices(context);
    const checker = services.program.getTypeChecker();
    return {
      MemberExpression(node) {
        if (!node.computed) return;
        const key = services.getTypeAtLocation(node.property);
        if (!isAnyString(key)) return;
        if (isList(checker, services.getTypeAtLocation(node.object))) return;
        const { parent } = node;
        const written =
          (parent.type === 'AssignmentExpression' && parent.left === node) ||
          parent.type === 'UpdateExpression' ||
          (parent.type === 'UnaryExpression' && parent.operator === 'delete');
        const [object, property] = [node.object, node.property].map((part) => context.sourceCode.getText(part));
        const fix = (fixer) => {
          if (!written) return fixer.replaceText(node, `ownEntry(${object}, ${property})`);
          if (parent.type !== 'AssignmentExpression' || parent.operator !== '=') return null;
          return fixer.replaceText(
            parent,
            `putEntry(${object}, ${property}, ${context.sourceCode.getText(parent.right)})`,
          );
        };
        if (parent.type === 'UnaryExpression' && parent.operator === 'delete') return;
        context.report({ node, messageId: written ? 'write' : 'read', fix });
      },
      BinaryExpression(node) {
        if (node.operator !== 'in') return;
        if (isAnyString(services.getTypeAtLocation(node.left)) && node.left.type !== 'Literal')
          context.report({
            node,
            messageId: 'in',
            fix: (fixer) =>
              fixer.replaceText(
                node,
                `Object.hasOwn(${context.sourceCode.getText(node.right)}, ${context.sourceCode.getText(node.left)})`,
              ),
          });
      },
    };
  },
};

export default rule;
