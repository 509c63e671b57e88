import * as t from '@babel/types';
import type { Constraint } from '../../form/rules.js';
import { readValidators } from '../../rules/angular-validators.js';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { initialNode } from '../class-reading.js';
import type { Member } from '../component.js';
import { propertyOf, literalText } from '../decorators.js';
import type { AngularSite } from '../form-site.js';

/** A control as the class builds it. */
export interface BuiltControl {
  kind: 'control';
  name: string;
  initial: t.Expression | undefined;
  script: Script;
  node: t.Node;
  type: string | undefined;
  nonNullable: boolean;
  disabled: boolean;
  rules: { constraint: Constraint; start: number; end: number }[];
  updateOn: 'blur' | 'submit' | undefined;
}

/** A group of controls as the class builds it. */
export interface BuiltGroup {
  kind: 'group';
  name: string;
  children: (BuiltControl | BuiltGroup | BuiltArray | BuiltOther)[];
  script: Script;
  node: t.Node;
  rules: { constraint: Constraint; start: number; end: number }[];
  updateOn: 'blur' | 'submit' | undefined;
}

/** An array of rows. */
export interface BuiltArray {
  kind: 'array';
  name: string;
  script: Script;
  node: t.Node;
  /** What it starts with: an array of groups, or code that gives one. */
  items: t.Expression | undefined;
  /** Rules about the rows as a whole: how many they are. */
  rules: { constraint: Constraint; start: number; end: number }[];
  /** Its options hold more than rules that are understood. */
  otherOptions: boolean;
}

/** Something in a group that is built elsewhere. */
export interface BuiltOther {
  kind: 'unknown';
  name: string;
  script: Script;
  node: t.Node;
}

type Built = BuiltControl | BuiltGroup | BuiltArray | BuiltOther;

/** How a builder makes controls: whether a reset brings them back to their start. */
interface Builder {
  nonNullable: boolean;
}

function builderOf(callee: t.Node, site: AngularSite): { builder: Builder; method: string } | undefined {
  if (!t.isMemberExpression(callee) || !t.isIdentifier(callee.property)) return undefined;
  const method = callee.property.name;
  if (!/^(group|control|array|record)$/.test(method)) return undefined;
  let target: t.Node = callee.object;
  let nonNullable = false;
  if (t.isMemberExpression(target) && t.isIdentifier(target.property, { name: 'nonNullable' })) {
    nonNullable = true;
    target = target.object;
  }
  const member = t.isMemberExpression(target) && t.isThisExpression(target.object) ? target.property : target;
  const name = t.isIdentifier(member) ? member.name : t.isPrivateName(member) ? `#${member.id.name}` : undefined;
  const { script } = site.component;
  if (t.isCallExpression(target) && t.isIdentifier(target.callee, { name: 'inject' }))
    return {
      builder: { nonNullable: nonNullable || t.isIdentifier(target.arguments[0], { name: 'NonNullableFormBuilder' }) },
      method,
    };
  if (name === undefined) return undefined;
  const declared = new RegExp(
    `(?<![\\w#])${name}\\b\\s*(?::\\s*|=\\s*inject\\(\\s*)(NonNullable|Untyped)?FormBuilder\\b(\\s*\\)\\s*\\.nonNullable\\b)?`,
  ).exec(script.text);
  if (!declared) return undefined;
  return {
    builder: { nonNullable: nonNullable || declared[1] === 'NonNullable' || declared[2] !== undefined },
    method,
  };
}

function bareNode(node: t.Node | null | undefined): t.Node | undefined {
  if (!node) return undefined;
  if (t.isTSAsExpression(node) || t.isTSSatisfiesExpression(node) || t.isTSNonNullExpression(node))
    return bareNode(node.expression);
  return node;
}

function updateOnOf(options: t.Node | undefined): 'blur' | 'submit' | undefined {
  const value = t.isObjectExpression(options) ? literalText(propertyOf(options, 'updateOn')) : undefined;
  return value === 'blur' || value === 'submit' ? value : undefined;
}

/** What stands behind a control's initial value: validators, or an object of options. */
function optionsOf(
  second: t.Node | undefined,
  third: t.Node | undefined,
  script: Script,
): Pick<BuiltControl, 'rules' | 'updateOn'> & { nonNullable: boolean } {
  const options = bareNode(second);
  if (t.isObjectExpression(options)) {
    const flag = propertyOf(options, 'nonNullable') ?? propertyOf(options, 'initialValueIsDefault');
    return {
      rules: [
        ...readValidators(propertyOf(options, 'validators'), script, false),
        ...readValidators(propertyOf(options, 'asyncValidators'), script, true),
      ],
      updateOn: updateOnOf(options),
      nonNullable: t.isBooleanLiteral(flag, { value: true }),
    };
  }
  return {
    rules: [...readValidators(options, script, false), ...readValidators(bareNode(third), script, true)],
    updateOn: undefined,
    nonNullable: false,
  };
}

function controlFrom(
  name: string,
  parts: (t.Node | undefined)[],
  typeNode: t.Node | undefined,
  node: t.Node,
  script: Script,
  builder: Builder,
): BuiltControl {
  const [first, second, third] = parts.map(bareNode);
  const options = optionsOf(second, third, script);
  let initial = t.isExpression(first) ? first : undefined;
  let disabled = false;
  if (t.isObjectExpression(initial) && propertyOf(initial, 'value') && propertyOf(initial, 'disabled')) {
    const flag = propertyOf(initial, 'disabled');
    disabled = t.isBooleanLiteral(flag, { value: true });
    const value = bareNode(propertyOf(initial, 'value'));
    initial = t.isExpression(value) ? value : undefined;
  }
  const original = parts[0];
  const asserted = t.isTSAsExpression(original) ? original.typeAnnotation : undefined;
  const written = typeNode ?? asserted;
  return {
    kind: 'control',
    name,
    initial,
    script,
    node,
    type: written ? script.text.slice(written.start ?? 0, written.end ?? 0) : undefined,
    nonNullable: builder.nonNullable || options.nonNullable,
    disabled,
    rules: options.rules,
    updateOn: options.updateOn,
  };
}

function keyOf(property: t.ObjectProperty): string {
  if (t.isIdentifier(property.key)) return property.key.name;
  return t.isStringLiteral(property.key) ? property.key.value : '';
}

function groupFrom(
  name: string,
  object: t.ObjectExpression,
  options: t.Node | undefined,
  node: t.Node,
  site: AngularSite,
  builder: Builder | undefined,
): BuiltGroup {
  const { script } = site.component;
  const children = object.properties.map((property): Built => {
    if (!t.isObjectProperty(property)) return { kind: 'unknown', name: '', script, node: property };
    return (
      builtFrom(keyOf(property), property.value, site, builder) ?? {
        kind: 'unknown',
        name: keyOf(property),
        script,
        node: property,
      }
    );
  });
  const found = bareNode(options);
  return { kind: 'group', name, children, script, node, rules: rulesAbove(found, script), updateOn: updateOnOf(found) };
}

/** The rules of a group or an array: its options are validators, or an object that holds them. */
function rulesAbove(options: t.Node | undefined, script: Script): BuiltGroup['rules'] {
  if (!t.isObjectExpression(options)) return readValidators(options, script, false);
  return [
    ...readValidators(propertyOf(options, 'validators') ?? propertyOf(options, 'validator'), script, false),
    ...readValidators(propertyOf(options, 'asyncValidators'), script, true),
  ];
}

function arrayFrom(
  name: string,
  items: t.Node | undefined,
  options: t.Node | undefined,
  node: t.Node,
  script: Script,
): BuiltArray {
  const found = bareNode(items);
  const given = bareNode(options);
  const rules = rulesAbove(given, script);
  return {
    kind: 'array',
    name,
    script,
    node,
    items: t.isExpression(found) ? found : undefined,
    rules,
    otherOptions: options !== undefined && (!rules.length || updateOnOf(given) !== undefined),
  };
}

/** What an expression builds; `builder` is the form builder around it, where one is. */
export function builtFrom(
  name: string,
  value: t.Node | undefined,
  site: AngularSite,
  builder?: Builder,
): Built | undefined {
  const { script } = site.component;
  const node = bareNode(value);
  if (!node) return undefined;
  if (t.isNewExpression(node) && t.isIdentifier(node.callee)) {
    const [first, second, third] = node.arguments;
    if (/^(FormControl|UntypedFormControl)$/.test(node.callee.name))
      return controlFrom(name, [first, second, third], node.typeParameters?.params[0], node, script, {
        nonNullable: false,
      });
    if (/^(FormGroup|UntypedFormGroup)$/.test(node.callee.name) && t.isObjectExpression(first))
      return groupFrom(name, first, second, node, site, undefined);
    if (/^(FormArray|UntypedFormArray)$/.test(node.callee.name)) return arrayFrom(name, first, second, node, script);
    return { kind: 'unknown', name, script, node };
  }
  if (t.isCallExpression(node)) {
    const made = builderOf(node.callee, site);
    if (!made) return { kind: 'unknown', name, script, node };
    const [first, second, third] = node.arguments;
    if (made.method === 'group' && t.isObjectExpression(first))
      return groupFrom(name, first, second, node, site, made.builder);
    if (made.method === 'control')
      return controlFrom(name, [first, second, third], node.typeParameters?.params[0], node, script, made.builder);
    if (made.method === 'array') return arrayFrom(name, first, second, node, script);
    return { kind: 'unknown', name, script, node };
  }
  if (!builder) return { kind: 'unknown', name, script, node };
  if (t.isArrayExpression(node))
    return controlFrom(
      name,
      node.elements.map((one) => one ?? undefined),
      undefined,
      node,
      script,
      builder,
    );
  return controlFrom(name, [value], undefined, node, script, builder);
}

/** Where a member gets its group: at its declaration, or in an assignment of the constructor or an early hook. */
export interface BuiltForm {
  member: Member;
  group: BuiltGroup;
  /** The statement that builds it, where it is not the declaration. */
  assignment: { start: number; end: number } | undefined;
}

/** The group that a member of the class holds. */
export function builtForm(name: string, site: AngularSite): BuiltForm | undefined {
  const member = site.component.members.get(name);
  if (!member) return undefined;
  const own = initialNode(member);
  const built = own && builtFrom(name, own, site);
  if (built?.kind === 'group') return { member, group: built, assignment: undefined };
  if (own) return undefined;
  const assigned = member.references.filter(
    ({ parentPath, key }) => parentPath?.isAssignmentExpression() === true && key === 'left',
  );
  const [only] = assigned;
  const assignment = only?.parentPath;
  if (assigned.length !== 1 || !assignment?.isAssignmentExpression()) return undefined;
  const later = builtFrom(name, assignment.node.right, site);
  const statement = assignment.parentPath;
  if (later?.kind !== 'group' || !statement.isExpressionStatement()) return undefined;
  return { member, group: later, assignment: { start: statement.node.start ?? 0, end: statement.node.end ?? 0 } };
}

/** Whether a name of custom code stands for a function that the class's file can reach. */
export function declaredRule(code: string, site: AngularSite): boolean {
  const name = /^(\w+)/.exec(code)?.[1];
  if (name === undefined) return false;
  return (
    declarationNamed(name, site.component.script, site.load) !== undefined ||
    new RegExp(`\\b${name}\\b`).test(site.component.script.text)
  );
}
