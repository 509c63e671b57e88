import { childrenOf } from '../source/child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LedgerEntry, RewritePlan } from '../form/ledger.js';
import type { FormModel } from '../form/model.js';
import { wholeLines } from '../source/removal.js';
import type { Script } from '../source/script.js';
import { expandedType, typeMembers, type TypeInFile } from '../source/type-members.js';
import type { WriteContext } from '../form/writing.js';
import { isReactHook } from './hook-calls.js';
import { statusMembers } from './form-hook/hook-file.js';
import { walk } from '../source/traverse.js';

/** Status that a form keeps for itself, in the words of the trade. */
export type StatusRole = 'errors' | 'touched' | 'submitting';

/** A state variable of a component that holds status of its form. */
export interface StatusVariable {
  role: StatusRole;
  value: string;
  setter: string | undefined;
  /** The statement that declares it, with its line. */
  edit: RewritePlan['edits'][number];
}

const names: Record<StatusRole, RegExp> = {
  errors: /^(\w*[eE]rrors|problems|issues|complaints|faults|invalid|messages)$/,
  touched: /^(\w*[tT]ouched|visited|blurred|left)$/,
  submitting: /^(is|was)?_?(submitting|sending|saving|busy|pending|posting|inFlight|inProgress)$/i,
};

/**
 * The state variables of a form's component that hold its errors, its touched fields and its submitting flag, and
 * nothing else: one for each. A variable with a comment of its own, or of another shape, stays what it is.
 */
export function statusVariables(model: FormModel, script: Script): StatusVariable[] {
  if (model.shared) return [];
  const found: StatusVariable[] = [];
  const known = new Set(model.fields.map(({ name }) => name));
  walk(script.program, {
    VariableDeclaration(statement) {
      const { start, end } = statement.node;
      const [declarator, ...more] = statement.get('declarations');
      if (!declarator || more.length || (start ?? 0) < model.span.start || (end ?? 0) > model.span.end) return;
      const call = declarator.get('init') as NodePath;
      const { id } = declarator.node;
      if (!call.isCallExpression() || !t.isArrayPattern(id) || !isReactHook(call, 'useState')) return;
      const [value, setter] = id.elements;
      if (!t.isIdentifier(value) || (setter && !t.isIdentifier(setter)) || known.has(value.name)) return;
      const role = roleOf(value.name, call, statement, model, script);
      if (!role || found.some((one) => one.role === role) || isCommented(statement, script)) return;
      found.push({
        role,
        value: value.name,
        setter: t.isIdentifier(setter) ? setter.name : undefined,
        edit: { file: script.file, ...wholeLines(script.text, { start: start ?? 0, end: end ?? 0 }), text: '' },
      });
    },
  });
  return found;
}

function roleOf(
  name: string,
  call: NodePath<t.CallExpression>,
  statement: NodePath,
  model: FormModel,
  script: Script,
): StatusRole | undefined {
  const [initial, ...more] = call.node.arguments;
  const type = call.node.typeParameters?.params[0];
  if (more.length) return undefined;
  if (t.isBooleanLiteral(initial, { value: false }))
    return names.submitting.test(name) && setsBoth(statement) ? 'submitting' : undefined;
  if (!t.isObjectExpression(initial) || initial.properties.length) return undefined;
  const role = names.errors.test(name) ? 'errors' : names.touched.test(name) ? 'touched' : undefined;
  if (!role) return undefined;
  if (!model.typescript) return role;
  return type && isByField(type, role === 'errors' ? 'TSStringKeyword' : 'TSBooleanKeyword', model, script)
    ? role
    : undefined;
}

/** Whether a flag is raised and lowered around something that takes time. */
function setsBoth(statement: NodePath): boolean {
  const declarator = childrenOf(statement, 'declarations')[0];
  const id = declarator?.isVariableDeclarator() ? declarator.node.id : undefined;
  const setter = t.isArrayPattern(id) ? id.elements[1] : undefined;
  if (!t.isIdentifier(setter)) return false;
  const references = statement.scope.getBinding(setter.name)?.referencePaths ?? [];
  const given = references.map((reference) => {
    const call = reference.parentPath;
    const [value] = call?.isCallExpression() && reference.key === 'callee' ? call.node.arguments : [];
    return t.isBooleanLiteral(value) ? value.value : undefined;
  });
  return given.includes(true) && given.includes(false) && !given.includes(undefined);
}

/** Whether a type has an optional member of one kind for fields of the form, and nothing else. */
function isByField(type: t.Node, kind: t.Node['type'], model: FormModel, script: Script): boolean {
  const fields = new Set(model.fields.map(({ name }) => name));
  const load = (): undefined => undefined;
  const keysAreFields = (of: TypeInFile): boolean => {
    const members = [...typeMembers(of, load).keys()];
    return members.length > 0 && members.every((name) => fields.has(name));
  };
  const keyedBy = (node: t.Node | null | undefined, bound: ReadonlyMap<string, t.Node>): boolean => {
    if (!t.isTSTypeOperator(node, { operator: 'keyof' })) return false;
    const of = node.typeAnnotation;
    const named = t.isTSTypeReference(of) && t.isIdentifier(of.typeName) ? (bound.get(of.typeName.name) ?? of) : of;
    return keysAreFields({ node: named, script });
  };
  const visit = (node: t.Node, bound: ReadonlyMap<string, t.Node>, depth: number): boolean => {
    if (depth > 4) return false;
    if (t.isTSMappedType(node))
      return (
        node.optional === true && node.typeAnnotation?.type === kind && keyedBy(node.typeParameter.constraint, bound)
      );
    if (t.isTSTypeReference(node) && t.isIdentifier(node.typeName)) {
      const { name } = node.typeName;
      const [first, second] = node.typeParameters?.params ?? [];
      if (name === 'Partial' && t.isTSTypeReference(first) && t.isIdentifier(first.typeName, { name: 'Record' })) {
        const [keys, values] = first.typeParameters?.params ?? [];
        return values?.type === kind && keyedBy(keys, bound);
      }
      const alias = script.ast.program.body
        .map((one) => (t.isExportNamedDeclaration(one) ? one.declaration : one))
        .find((one) => t.isTSTypeAliasDeclaration(one) && one.id.name === name);
      if (t.isTSTypeAliasDeclaration(alias)) {
        const parameter = alias.typeParameters?.params[0];
        if (second) return false;
        const inner = parameter && first ? new Map([[parameter.name, first]]) : new Map<string, t.Node>();
        return visit(alias.typeAnnotation, inner, depth + 1);
      }
    }
    const { node: body } = expandedType({ node, script }, load);
    const members = t.isTSTypeLiteral(body) ? body.members : t.isTSInterfaceBody(body) ? body.body : [];
    return (
      members.length > 0 &&
      members.every(
        (member) =>
          t.isTSPropertySignature(member) &&
          member.optional === true &&
          t.isIdentifier(member.key) &&
          fields.has(member.key.name) &&
          member.typeAnnotation?.typeAnnotation.type === kind,
      )
    );
  };
  return visit(type, new Map(), 0);
}

/** Whether a comment stands above a statement or behind it. */
function isCommented(statement: NodePath, script: Script): boolean {
  const start = statement.node.start ?? 0;
  const end = statement.node.end ?? 0;
  const lineStart = script.lines.lineStart(start);
  const above = script.text.slice(0, lineStart).trimEnd();
  const before =
    /\/\/[^\n]*$|\*\/$/.test(above.slice(above.lastIndexOf('\n') + 1)) &&
    !/\n[ \t]*\r?\n[ \t]*$/.test(script.text.slice(0, lineStart));
  return before || /^[ \t]*(\/\/|\/\*)/.test(script.text.slice(end));
}

/** The members of a hook that a component takes for its status: `errors: problems`. */
export function statusTaken(
  status: readonly StatusVariable[],
  members: Record<StatusRole, { value: string; setter: string }>,
): string[] {
  const pair = (member: string, local: string): string => (member === local ? member : `${member}: ${local}`);
  return status.flatMap(({ role, value, setter }) => [
    pair(members[role].value, value),
    ...(setter === undefined ? [] : [pair(members[role].setter, setter)]),
  ]);
}

/** The names under which a component takes the members of a hook: member to name. */
export function takenMembers(call: NodePath<t.CallExpression>): Map<string, string> {
  const pattern = call.parentPath.isVariableDeclarator() ? call.parentPath.node.id : undefined;
  if (!t.isObjectPattern(pattern)) return new Map();
  return new Map(
    pattern.properties.flatMap((one): [string, string][] =>
      t.isObjectProperty(one) && t.isIdentifier(one.key) && t.isIdentifier(one.value)
        ? [[one.key.name, one.value.name]]
        : [],
    ),
  );
}

/** State variables in the place of the status that a generated hook gave to a component. */
export function statusDeclarations(
  call: NodePath<t.CallExpression>,
  model: FormModel,
  { style }: WriteContext,
  needed: readonly string[] = [],
): string[] {
  const locals = takenMembers(call);
  const type = model.typescript ? model.holder?.type : undefined;
  return Object.entries(statusMembers).flatMap(([role, { value, setter }]): string[] => {
    const own = locals.get(value) ?? (needed.includes(value) ? value : undefined);
    const change = locals.get(setter) ?? (needed.includes(setter) ? setter : undefined);
    if (own === undefined && change === undefined) return [];
    const flag = role === 'submitting';
    const generic =
      flag || type === undefined ? '' : `<Partial<Record<keyof ${type}, ${role === 'errors' ? 'string' : 'boolean'}>>>`;
    const parts = [own ?? '', ...(change === undefined ? [] : [change])].join(', ');
    return [`const [${parts}] = useState${generic}(${flag ? 'false' : '{}'})${style.semicolon}`];
  });
}

/** What becomes of the status variables, for the account. */
export function statusEntries(status: readonly StatusVariable[]): LedgerEntry[] {
  return status.map(({ role, value, edit }) => ({
    entry: 'carried',
    span: edit,
    what: `state variable ${value}`,
    why: `the hook keeps it as ${role}`,
    takenOver: true,
  }));
}
