import * as t from '@babel/types';
import { memberName, type ClassDraft, type ClassMember } from './class-draft.js';
import { byHand, textWithin } from './function-text.js';

/** The parameter of the function, and a line that fills props in where the class named defaults. */
export interface GivenProps {
  parameter: string;
  line: string | undefined;
}

/** How the function takes its props. */
export function givenProps(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>, used: boolean): GivenProps {
  const { path, script, names } = draft;
  const parameters = path.node.superTypeParameters;
  const written = t.isTSTypeParameterInstantiation(parameters) ? parameters.params[0] : undefined;
  const type = written ? script.text.slice(written.start ?? 0, written.end ?? 0) : undefined;
  const defaults = defaultsOf(draft, members);
  if (defaults.length) {
    const local = (key: string): string => (isNamed(key, draft) ? `${key}Given` : key);
    const said = (key: string): string => (local(key) === key ? key : `${key}: ${local(key)}`);
    const items = defaults.map(({ key, text }) => `${said(key)} = ${text}`).join(', ');
    const keys = defaults.map(({ key }) => `'${key}'`).join(' | ');
    const optional =
      type === undefined || !script.typescript ? '' : `: Omit<${type}, ${keys}> & Partial<Pick<${type}, ${keys}>>`;
    return {
      parameter: `{ ${items}, ...rest }${optional}`,
      line: `const ${names.props} = { ${defaults.map(({ key }) => said(key)).join(', ')}, ...rest }${draft.style.semicolon}`,
    };
  }
  if (!used) return { parameter: '', line: undefined };
  return {
    parameter: type === undefined || !script.typescript ? names.props : `${names.props}: ${type}`,
    line: undefined,
  };
}

/** Whether a class calls something of its own by the name of a property. */
function isNamed(key: string, { path, script }: ClassDraft): boolean {
  const outside = path.node.body.body.filter(
    (member) => !(t.isClassProperty(member) && t.isIdentifier(member.key, { name: 'defaultProps' })),
  );
  const text = outside.map(({ start, end }) => script.text.slice(start ?? 0, end ?? 0)).join('\n');
  return new RegExp(`(?<![\\w$.])${key}\\b`).test(text);
}

function defaultsOf(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>): { key: string; text: string }[] {
  const { script } = draft;
  const member = members.get('defaultProps');
  const value = t.isClassProperty(member) && member.static ? member.value : undefined;
  const outside = outsideDefaults(draft);
  if (outside) byHand(draft, outside, 'defaults given outside of the class are not looked at by a function');
  if (!value) return [];
  const object = t.isTSAsExpression(value) ? value.expression : value;
  if (!t.isObjectExpression(object)) {
    byHand(draft, value, 'the defaults are not written here');
    return [];
  }
  return object.properties.flatMap((property) => {
    if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) {
      byHand(draft, property, 'this default is not followed');
      return [];
    }
    return [{ key: property.key.name, text: script.text.slice(property.value.start ?? 0, property.value.end ?? 0) }];
  });
}

function outsideDefaults({ script, name }: ClassDraft): t.Node | undefined {
  return script.ast.program.body.find(
    (statement) =>
      t.isExpressionStatement(statement) &&
      script.text.slice(statement.start ?? 0, statement.end ?? 0).startsWith(`${name}.defaultProps`),
  );
}

/** Static members as they stand behind the function; undefined where there are none. */
export function staticText(draft: ClassDraft, members: ReadonlyMap<string, ClassMember>): string | undefined {
  const { style } = draft;
  const lines: string[] = [];
  for (const [name, member] of members) {
    if (member.static !== true || name === 'defaultProps') continue;
    if (t.isClassProperty(member) && member.value)
      lines.push(
        `${draft.name}.${memberName(member) ?? ''} = ${textWithin(draft, member.value.start ?? 0, member.value.end ?? 0)}${style.semicolon}`,
      );
    else byHand(draft, member, 'this static member is not followed');
  }
  return lines.length ? `${style.newline}${style.newline}${lines.join(style.newline)}` : undefined;
}
