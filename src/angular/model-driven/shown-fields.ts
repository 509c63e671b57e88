import * as t from '@babel/types';
import type { AngularComponent, Member } from '../component.js';

/** A method that only enables fields while they are shown and disables them otherwise. */
export interface ShownFields {
  member: Member;
  fields: string[];
}

/** The statements that change one control, by the text of the control. */
function callOf(statement: t.Statement, text: string): { control: string; method: string } | undefined {
  const node = t.isExpressionStatement(statement) ? statement.expression : undefined;
  if (!t.isCallExpression(node) || !t.isMemberExpression(node.callee) || !t.isIdentifier(node.callee.property))
    return undefined;
  const { object, property } = node.callee;
  return { control: text.slice(object.start ?? 0, object.end ?? 0), method: property.name };
}

function statementsOf(node: t.Statement | null | undefined): t.Statement[] {
  return t.isBlockStatement(node) ? node.body : node ? [node] : [];
}

/** The control that an `if` enables in one branch and disables in the other. */
function toggled(statement: t.Statement, text: string): string | undefined {
  if (!t.isIfStatement(statement)) return undefined;
  const [enables, disables] = [statementsOf(statement.consequent), statementsOf(statement.alternate)].map((list) =>
    list.map((one) => callOf(one, text)),
  );
  const all = [...(enables ?? []), ...(disables ?? [])];
  const control = all[0]?.control;
  if (
    control === undefined ||
    !all.every((one) => one?.control === control && /^(enable|disable|reset)$/.test(one.method))
  )
    return undefined;
  const last = disables?.at(-1)?.method;
  return enables?.at(-1)?.method === 'enable' && last === 'disable' ? control : undefined;
}

/**
 * Finds a method that does nothing but enable and disable controls by conditions.
 * @param pathOf the field that a control's text stands for
 */
export function shownFields(
  component: AngularComponent,
  pathOf: (text: string) => string | undefined,
): ShownFields | undefined {
  const { text } = component.script;
  for (const member of component.members.values()) {
    if (!t.isClassMethod(member.node) || member.kind !== 'method' || !member.node.body.body.length) continue;
    const fields = member.node.body.body.map((statement) => {
      const control = toggled(statement, text);
      return control === undefined ? undefined : pathOf(control);
    });
    if (fields.every((field) => field !== undefined)) return { member, fields };
  }
  return undefined;
}

/** The statements that call a method, alone or whenever a field changes. */
export function callsOf(member: Member): { start: number; end: number }[] {
  return member.references.flatMap((path) => {
    const call = path.parentPath;
    if (!call.isCallExpression()) return [];
    const arrow = call.parentPath;
    const outer = arrow.isArrowFunctionExpression() ? arrow.parentPath.parentPath : arrow;
    const statement = outer?.isExpressionStatement() ? outer : undefined;
    return statement ? [{ start: statement.node.start ?? 0, end: statement.node.end ?? 0 }] : [];
  });
}
