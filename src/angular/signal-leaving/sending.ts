import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import { initialNode, ownMember } from '../class-reading.js';
import { calledOf } from './rule-texts.js';
import { leaveNode, put, support, textAt, type Leaving } from './leaving.js';
import { shortened } from './hidden-fields.js';
import { controlAt } from './places.js';
import { sayParameter } from './tree-uses.js';
import { walk } from '../../source/traverse.js';

/** Says every submit of the form by a method of the class. */
export function saySubmits(leaving: Leaving): void {
  const { component, found } = leaving;
  const { script } = component;
  const made = initialNode(found.form);
  const options = t.isCallExpression(made) ? made.arguments[2] : undefined;
  const own = submissionAction(options);
  walk(component.path, {
    ArrowFunctionExpression(fn) {
      if (fn.node === own) sayAction(fn, leaving);
    },
    CallExpression(call) {
      if (calledOf(call.node, script) !== 'submit') return;
      sayCall(call, leaving);
    },
  });
  if (own) leaving.needs.add('submit');
}

function sayCall(call: NodePath<t.CallExpression>, leaving: Leaving): void {
  const { component, names, found, ledger } = leaving;
  const { script } = component;
  const [form, given] = call.get('arguments');
  const action = given && actionIn(given);
  leaving.needs.add('submit');
  const isForm = ownMember(form?.node) === found.form.name;
  if (!isForm) return leaveNode(leaving, script, call.node, 'which form is sent is not clear');
  if (!given) {
    // what the form itself was given to do
    put(leaving, script, call.node.start ?? 0, call.node.end ?? 0, `this.${names.send}()`);
    return;
  }
  if (!action) return leaveNode(leaving, script, given.node, 'what is done when the form is sent stands elsewhere');
  put(
    leaving,
    script,
    call.node.start ?? 0,
    action.node.start ?? 0,
    `this.${names.sender}.send(this.${found.form.name}, `,
  );
  ledger.push({
    entry: 'carried',
    span: spanOfNode(script.file, call.node),
    what: textAt(script, call.node).split('\n')[0] ?? '',
    why: `a method of the class sends the form under the same conditions`,
  });
  put(leaving, script, action.node.end ?? 0, call.node.end ?? 0, `${apartText(leaving)})`);
  sayAction(action, leaving);
}

/** What is done when the form is sent: a function, or the only option of that name. */
function actionIn(given: NodePath): NodePath<t.ArrowFunctionExpression> | undefined {
  if (given.isArrowFunctionExpression()) return given;
  const [only, ...more] = given.isObjectExpression() ? given.get('properties') : [];
  if (more.length || !only?.isObjectProperty() || !t.isIdentifier(only.node.key, { name: 'action' })) return undefined;
  const value = only.get('value') as NodePath;
  return value.isArrowFunctionExpression() ? value : undefined;
}

/** The fields that do not count at the moment, as a last argument; empty where all of them always count. */
export function apartText(leaving: Leaving): string {
  const form = `this.${leaving.found.form.name}`;
  const { quote } = leaving.context.style;
  const parts = [...leaving.hidden, ...leaving.disabled].map(([path, text]) => {
    const said = shortened(text(`${form}.getRawValue()`) ?? 'false', form, leaving);
    return `${said} ? [${quote}${path}${quote}] : []`;
  });
  const [only, ...more] = parts;
  if (only === undefined) return '';
  return more.length ? `, [${parts.map((one) => `...(${one})`).join(', ')}]` : `, ${only}`;
}

/** What is done when the form is sent: its parameter is the form, and its answers name fields by their paths. */
function sayAction(fn: NodePath<t.ArrowFunctionExpression>, leaving: Leaving): void {
  const { component } = leaving;
  const { script } = component;
  sayParameter(fn, leaving);
  const [parameter] = fn.node.params;
  if (parameter) {
    const at = script.text.slice(fn.node.start ?? 0, parameter.start ?? 0);
    const bare = !at.includes('(');
    put(leaving, script, parameter.start ?? 0, parameter.end ?? 0, bare ? '()' : '');
  }
  if (fn.node.returnType) leaveNode(leaving, script, fn.node.returnType, 'the type of its answer is written');
  walk(fn, {
    ObjectProperty(property) {
      const { key, shorthand } = property.node;
      if (!t.isIdentifier(key, { name: 'fieldTree' })) return;
      if (shorthand) leaveNode(leaving, script, property.node, 'the field that it names is not clear');
      else put(leaving, script, key.start ?? 0, key.end ?? 0, 'field');
    },
  });
}

/** Members of the class that the result needs: fields, and methods as texts without indentation. */
export function membersText(leaving: Leaving): { fields: string[]; methods: string[] } {
  const { needs, names, found, component, context, lists, type } = leaving;
  const { script } = component;
  const { indent: tab, newline, semicolon: end } = context.style;
  const form = `this.${found.form.name}`;
  const fields: string[] = [];
  const methods: string[] = [];
  if (needs.has('errorsOf')) {
    const errors = support(leaving, script, 'errorsAt');
    const answer = support(leaving, script, 'FieldError');
    methods.push(
      [
        '/** What is wrong with the field at a path. */',
        `protected ${names.errorsOf}(path: string): ${answer}[] {`,
        `${tab}return ${errors}(${form}, path)${end}`,
        '}',
      ].join(newline),
    );
  }
  if (needs.has('submit'))
    fields.push(`protected readonly ${names.sender} = new ${support(leaving, script, 'Sender')}()`);
  for (const { path, change, make, type: row } of lists) {
    if (!leaving.edits.some(({ text }) => text.includes(`${change}(`)) && !needs.has('restart')) continue;
    methods.push(
      [
        '/** Gives the list new rows; one that stays keeps its controls. */',
        `private ${change}(change: (rows: ${row}[]) => ${row}[]): void {`,
        `${tab}const list = ${controlAt(form, path)}${end}`,
        `${tab}const rows = list.getRawValue()${end}`,
        `${tab}const controls = [...list.controls]${end}`,
        `${tab}list.clear()${end}`,
        `${tab}for (const row of change(rows)) list.push(controls[rows.indexOf(row)] ?? ${make}(row))${end}`,
        '}',
      ].join(newline),
    );
  }
  if (needs.has('restart'))
    methods.push(
      [
        '/** Begins anew with the given values. */',
        `private ${names.restart}(values: ${type}): void {`,
        ...lists.map(({ path, change }) => `${tab}this.${change}(() => values.${path})${end}`),
        `${tab}${form}.reset(values)${end}`,
        '}',
      ].join(newline),
    );
  return { fields, methods };
}

/** The action of a form's submission, where that is all that its options say. */
export function submissionAction(options: t.Node | undefined): t.Node | undefined {
  const only = (node: t.Node | undefined, key: string): t.Node | undefined => {
    const [property, ...more] = t.isObjectExpression(node) ? node.properties : [];
    if (more.length) return undefined;
    if (t.isObjectProperty(property) && t.isIdentifier(property.key, { name: key })) return property.value;
    return undefined;
  };
  const action = only(only(options, 'submission'), 'action');
  return t.isArrowFunctionExpression(action) ? action : undefined;
}
