import * as t from '@babel/types';
import type { ClassDraft, ClassMember } from './class-draft.js';
import { byHand, isFunctionNode } from './function-text.js';
import { constructorOf, assignedMember, takesProps } from './state-declaration.js';

/** Members of the instance that hold something between two views. */
export function declareRefs(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>): void {
  const { script } = draft;
  const slice = (node: t.Node): string => script.text.slice(node.start ?? 0, node.end ?? 0);
  const add = (name: string, value: t.Expression | null | undefined, type: t.Node | undefined, place: t.Node): void => {
    const created = t.isCallExpression(value) && /^(\w+\.)?createRef$/.test(slice(value.callee)) ? value : undefined;
    if (created) {
      const given = created.typeParameters?.params[0];
      draft.refs.set(name, { text: `${given ? `<${slice(given)}>` : ''}(null)`, isRefObject: true });
      return;
    }
    if (value && !isPlain(value))
      return byHand(
        draft,
        place,
        'what this member begins with is worked out once, which a function would do at every view',
      );
    const text = value ? slice(value) : 'undefined';
    const open = type && (value || /\bundefined\b/.test(slice(type)) ? '' : ' | undefined');
    const written = type ? `<${slice(type)}${open ?? ''}>` : '';
    draft.refs.set(name, { text: `${written}(${text})`, isRefObject: false });
  };
  for (const [name, member] of members) {
    if (!t.isClassProperty(member) || member.static || name === 'state' || isFunctionNode(member.value)) continue;
    if (name === 'props' || name === 'context') continue;
    const type = t.isTSTypeAnnotation(member.typeAnnotation) ? member.typeAnnotation.typeAnnotation : undefined;
    add(name, member.value, type, member);
  }
  for (const statement of constructorOf(draft)?.body.body ?? []) {
    const assigned = assignedMember(statement);
    if (assigned?.name === 'state' || isSuperCall(statement) || takesProps(statement, draft)) continue;
    if (!assigned) {
      byHand(draft, statement, 'the constructor does more than a function can say by its state');
      continue;
    }
    const known = members.get(assigned.name);
    const isMethod = t.isClassMethod(known) || (t.isClassProperty(known) && isFunctionNode(known.value));
    if (!isMethod) add(assigned.name, assigned.value, typeOf(known), statement);
  }
}

function typeOf(member: ClassMember | undefined): t.Node | undefined {
  return t.isClassProperty(member) && t.isTSTypeAnnotation(member.typeAnnotation)
    ? member.typeAnnotation.typeAnnotation
    : undefined;
}

function isPlain(node: t.Expression): boolean {
  if (t.isTemplateLiteral(node)) return node.expressions.length === 0;
  if (t.isLiteral(node)) return true;
  if (t.isIdentifier(node, { name: 'undefined' })) return true;
  if (t.isArrayExpression(node)) return node.elements.length === 0;
  return t.isUnaryExpression(node) && t.isExpression(node.argument) && isPlain(node.argument);
}

function isSuperCall(statement: t.Statement): boolean {
  return (
    t.isExpressionStatement(statement) &&
    t.isCallExpression(statement.expression) &&
    t.isSuper(statement.expression.callee)
  );
}
