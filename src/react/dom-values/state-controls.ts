import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { expressionTypes } from '../../source/expression-types.js';
import type { RewritePlan } from '../../form/ledger.js';
import { quoted } from '../../source/style.js';
import { spanOf } from '../code.js';
import { attribute, type JsxControl } from '../jsx-controls.js';
import type { PageField } from './page-fields.js';
import { type Draft, namesOf } from './state-draft.js';

/** A control shows the state and reports what a person types. */
export function controlEdits(field: PageField, control: JsxControl, draft: Draft): void {
  const { site, context } = draft;
  const { script } = site;
  if (field.kind === 'list') return listEdits(field, control, draft);
  const { value, setter } = namesOf(field, draft);
  const { file } = script;
  const given = attribute(control, field.kind === 'text' ? 'defaultValue' : 'defaultChecked');
  const own = attribute(control, 'onChange');
  const radio = attribute(control, 'value');
  const radioText =
    radio?.text === undefined
      ? radio?.value
        ? script.text.slice(radio.value.node.start ?? 0, radio.value.node.end ?? 0)
        : quoted('on', context.style)
      : quoted(radio.text, context.style);
  const shows =
    field.kind === 'text'
      ? `value={${value}}`
      : `checked={${field.kind === 'checked' ? value : `${value} === ${radioText}`}}`;
  const event = 'event';
  const taken = field.kind === 'checked' ? `${event}.target.checked` : `${event}.target.value`;
  const change = `${setter}(${taken})`;
  const handler = own ? undefined : `onChange={(${event}) => ${change}}`;
  const parts = [shows, ...(handler === undefined ? [] : [handler])].join(' ');
  if (given) draft.edits.push({ ...spanOf(file, given.path), text: parts });
  else {
    const { openingElement } = control.element.node;
    const last = control.attributes.find(({ name }) => name === 'name') ?? control.attributes.at(-1);
    const at = last?.path.node.end ?? openingElement.name.end ?? 0;
    draft.edits.push({ file, start: at, end: at, text: ` ${parts}` });
  }
  if (own?.value) {
    const composed = withChange(own.value, setter, field.kind === 'checked' ? 'checked' : 'value', draft);
    if (composed) draft.edits.push(...composed);
    else
      draft.ledger.push({
        entry: 'by-hand',
        span: spanOf(file, own.path),
        what: 'onChange',
        why: 'what runs when it changes is written in a way that is not followed',
      });
  }
  draft.ledger.push({
    entry: 'carried',
    span: spanOf(file, control.element),
    what: `control of ${field.name}`,
    why: `it shows ${value} and ${setter} takes what is typed`,
  });
}

/** A handler that was there already runs behind the change of the state. */
function withChange(
  handler: NodePath<t.Expression>,
  setter: string,
  member: string,
  draft: Draft,
): RewritePlan['edits'] | undefined {
  const { script } = draft.site;
  const { style } = draft.context;
  const { file } = script;
  if (handler.isIdentifier())
    return [
      {
        ...spanOf(file, handler),
        text: `(event) => { ${setter}(event.target.${member})${style.semicolon || ';'} ${handler.node.name}(event)${style.semicolon} }`,
      },
    ];
  if (!handler.isArrowFunctionExpression()) return undefined;
  const [parameter, ...more] = handler.node.params;
  if (more.length || (parameter && !t.isIdentifier(parameter))) return undefined;
  const name = t.isIdentifier(parameter) ? parameter.name : 'event';
  const edits: RewritePlan['edits'] = [];
  if (!parameter) {
    const open = script.text.indexOf('(', handler.node.start ?? 0) + 1;
    edits.push({ file, start: open, end: open, text: name });
  }
  const body = handler.get('body') as NodePath;
  const start = body.node.start ?? 0;
  if (body.isBlockStatement())
    edits.push({
      file,
      start: start + 1,
      end: start + 1,
      text: ` ${setter}(${name}.target.${member})${style.semicolon || ';'}`,
    });
  else {
    edits.push({ file, start, end: start, text: `{ ${setter}(${name}.target.${member})${style.semicolon || ';'} ` });
    edits.push({ file, start: body.node.end ?? 0, end: body.node.end ?? 0, text: `${style.semicolon} }` });
  }
  return edits;
}

/** One of several controls of a name: the state is the list of their values, in the order of the page. */
function listEdits(field: PageField, control: JsxControl, draft: Draft): void {
  const { script } = draft.site;
  const { value, setter } = namesOf(field, draft);
  const byHand = (path: NodePath, what: string, why: string): void => {
    draft.ledger.push({ entry: 'by-hand', span: spanOf(script.file, path), what, why });
  };
  const own = attribute(control, 'onChange');
  if (own) return byHand(own.path, 'onChange', 'it runs beside a change of a list');
  const told = control.tag === 'select' ? undefined : placeInList(field, control, draft);
  if (control.tag !== 'select' && !told)
    return byHand(control.element, field.name, 'in which order the page sends its values is not told');
  const parts = told
    ? [
        `checked={${value}.includes(${told.item})}`,
        `onChange={(event) => ${setter}((before) => ${told.all}.filter((one) => (one === ${told.item} ? event.target.checked : before.includes(one))))}`,
      ]
    : [
        `value={${value}}`,
        `onChange={(event) => ${setter}(Array.from(event.target.selectedOptions, (option) => option.value))}`,
      ];
  const { openingElement } = control.element.node;
  const given = attribute(control, 'defaultChecked');
  const at = control.attributes.at(-1)?.path.node.end ?? openingElement.name.end ?? 0;
  if (given) draft.edits.push({ ...spanOf(script.file, given.path), text: parts.join(' ') });
  else draft.edits.push({ file: script.file, start: at, end: at, text: ` ${parts.join(' ')}` });
  draft.ledger.push({
    entry: 'carried',
    span: spanOf(script.file, control.element),
    what: `control of ${field.name}`,
    why: `it shows whether ${value} holds its value, and ${setter} puts that in or takes it out`,
  });
}

/** The value of a tick box as code, and the values of all of its name in the page's order. */
function placeInList(
  field: PageField,
  control: JsxControl,
  { site, context }: Draft,
): { item: string; all: string } | undefined {
  const { script } = site;
  const textOf = ({ node }: NodePath): string => script.text.slice(node.start ?? 0, node.end ?? 0);
  const texts = field.controls.map((one) => attribute(one, 'value')?.text);
  const own = attribute(control, 'value');
  if (texts.every((text) => text !== undefined))
    return {
      item: quoted(own?.text ?? '', context.style),
      all: `[${texts.map((text) => quoted(text, context.style)).join(', ')}]`,
    };
  const rows = control.element.findParent((parent) => parent.isArrowFunctionExpression());
  const call = rows?.parentPath;
  if (field.controls.length > 1 || !own?.value || !rows?.isArrowFunctionExpression()) return undefined;
  if (!call?.isCallExpression() || rows.listKey !== 'arguments' || rows.node.params.length > 1) return undefined;
  const callee = call.get('callee') as NodePath;
  const [parameter] = rows.get('params');
  if (!callee.isMemberExpression() || !t.isIdentifier(callee.node.property, { name: 'map' }) || !parameter)
    return undefined;
  const type = expressionTypes(script).typeOf(own.value);
  const plain = textOf(own.value);
  const isText =
    type === 'string' || (type === undefined && (script.typescript || isListOfTexts(callee.get('object'))));
  const item = isText ? plain : `String(${plain})`;
  const values = textOf(callee.get('object'));
  const isItself = parameter.isIdentifier() && textOf(parameter) === item;
  return { item, all: isItself ? values : `${values}.map((${textOf(parameter)}) => ${item})` };
}

function isListOfTexts(path: NodePath): boolean {
  return path.isArrayExpression() && path.node.elements.every((one) => t.isStringLiteral(one));
}
