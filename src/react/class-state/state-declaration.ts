import * as t from '@babel/types';
import type { Edit } from '../../source/edits.js';
import { shorthandKey } from '../code.js';
import { memberName, type ClassDraft } from './class-draft.js';

export interface State {
  /** The initial object as source text. */
  text: string;
  type: string | undefined;
}

/** The statements of the constructor and what they say: the state, refs, and nothing else. */
export function constructorOf(draft: ClassDraft): t.ClassMethod | undefined {
  return draft.path.node.body.body.find(
    (member): member is t.ClassMethod => t.isClassMethod(member) && member.kind === 'constructor',
  );
}

/** The member of the instance that a statement assigns, with its value; undefined for any other statement. */
export function assignedMember(statement: t.Statement): { name: string; value: t.Expression } | undefined {
  if (!t.isExpressionStatement(statement) || !t.isAssignmentExpression(statement.expression, { operator: '=' }))
    return undefined;
  const { left, right } = statement.expression;
  if (!t.isMemberExpression(left) || !t.isThisExpression(left.object) || !t.isIdentifier(left.property))
    return undefined;
  return { name: left.property.name, value: right };
}

/** Where the state begins; filled in once everything in it is said in the function's words. */
export function initialState(draft: ClassDraft): { node: t.Expression | undefined; type: string | undefined } {
  const { path, script } = draft;
  const slice = (node: t.Node): string => script.text.slice(node.start ?? 0, node.end ?? 0);
  const parameters = path.node.superTypeParameters;
  const written = t.isTSTypeParameterInstantiation(parameters) ? parameters.params[1] : undefined;
  let type = written ? slice(written) : undefined;
  let node: t.Expression | undefined;
  for (const member of path.node.body.body) {
    if (!t.isClassProperty(member) || memberName(member) !== 'state') continue;
    node = member.value ?? undefined;
    if (t.isTSTypeAnnotation(member.typeAnnotation)) type = slice(member.typeAnnotation.typeAnnotation);
  }
  for (const statement of constructorOf(draft)?.body.body ?? []) {
    const assigned = assignedMember(statement);
    if (assigned?.name === 'state') node = assigned.value;
  }
  return { node, type };
}

/** `const { tree } = props;` in a constructor: what it takes is asked of the props where it is used. */
export function takesProps(statement: t.Statement, draft: ClassDraft): boolean {
  const [only, ...more] = t.isVariableDeclaration(statement) ? statement.declarations : [];
  const constructor = constructorOf(draft);
  const [given] = constructor?.params ?? [];
  const isProps =
    t.isIdentifier(only?.init) && t.isIdentifier(given, { name: only.init.name })
      ? true
      : t.isMemberExpression(only?.init) &&
        t.isThisExpression(only.init.object) &&
        t.isIdentifier(only.init.property, { name: 'props' });
  if (!only || more.length || !isProps || !t.isObjectPattern(only.id)) return false;
  const path = draft.path
    .get('body')
    .get('body')
    .find(({ node }) => node === constructor);
  const edits: Edit[] = [];
  for (const property of only.id.properties) {
    if (!t.isObjectProperty(property) || !t.isIdentifier(property.key) || !t.isIdentifier(property.value)) return false;
    const asked = `${draft.names.props}.${property.key.name}`;
    for (const reference of path?.scope.getBinding(property.value.name)?.referencePaths ?? []) {
      const key = shorthandKey(reference);
      const { start, end } = reference.node;
      edits.push({ start: start ?? 0, end: end ?? 0, text: key === undefined ? asked : `${key}: ${asked}` });
    }
  }
  draft.edits.push(...edits);
  return true;
}
