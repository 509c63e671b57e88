import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
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
