import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { applyEdits } from '../../source/edits.js';
import type { LoadScript } from '../../source/project-files.js';
import { wholeLines } from '../../source/removal.js';
import { indentAt } from '../../source/style.js';
import { initialNode } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { freeMember } from '../free-member.js';
import { followerEdits, followersOf } from '../followers.js';
import { sitesOf } from '../form-site.js';
import { boundFields, foundForm, leavesOf } from '../signal-model/found-form.js';
import { interfaceText } from '../values-text.js';
import { memberIndent } from '../writing.js';
import { bindEdits } from './bindings.js';
import { groupOf, rowMakers } from './group-text.js';
import { supportEdits } from './imports.js';
import { leaveNode, typeFrom, type Leaving } from './leaving.js';
import { stateRules } from './schemas.js';
import { apartText, membersText, saySubmits, submissionAction } from './sending.js';
import { sayUses } from './tree-uses.js';
import { typeOfValues, listsOf } from './values-type.js';

/** Builds the controls of a form over a model signal in the class: its rules are said with the values they look at. */
export function leaveSignalModel(
  model: FormModel,
  context: WriteContext,
  component: AngularComponent,
  load: LoadScript,
): RewritePlan {
  const site = sitesOf(component, load).find(({ name }) => name === model.name);
  const bound = site ? boundFields(site) : [];
  const found = site && foundForm(site, bound);
  const whole = { ...model.span, end: model.span.start };
  const none = (what: string, why: string): RewritePlan => leftByHand([{ entry: 'by-hand', span: whole, what, why }]);
  if (!site || !found) return none(model.name, 'how the form is made over its signal is not clear');
  const leaves = leavesOf(found, bound, site);
  const written = typeOfValues(found, component, load);
  const untold = leaves.find((leaf) => leaf.type === undefined);
  if (!written && untold) return none(untold.path, 'the type of its values is not told');
  const type = written ?? {
    text: context.freeName(`${component.name.replace(/Component$/, '')}Values`),
    script: undefined,
  };
  const free = (...wished: string[]): string => freeMember(component, context, ...wished);
  const leaving: Leaving = {
    model,
    context,
    component,
    site,
    load,
    found,
    leaves,
    lists: [],
    type: type.text,
    types: new Map(),
    hidden: new Map(),
    disabled: new Map(),
    stated: new Map(),
    contexts: new Set(),
    given: new Map(),
    attributes: new Map(),
    needs: new Set(),
    names: {
      errorsOf: free('errorsOf', 'fieldErrors'),
      sender: free('sender', 'formSender'),
      restart: free('startAnew', 'restart'),
      send: free('send', 'sendForm', 'submitted'),
    },
    supports: new Map(),
    edits: [],
    byHand: [],
    ledger: [],
  };
  leaving.lists = listsOf(leaving);
  if (type.script) typeFrom(leaving, type.text, type.script);
  const declared = type.script ? undefined : interfaceText(type.text, model.fields, context);
  const rules = stateRules(leaving);
  saySubmits(leaving);
  sayUses(leaving);
  leaving.edits.push(...bindEdits(leaving));
  formEdits(leaving, rules, declared);
  const followers = followersOf([found.form.name, found.model.name], leaving);
  leaving.byHand.push(...followers.byHand);
  leaving.edits.push(...followerEdits(followers.found, leaving.ledger));
  if (leaving.byHand.length) return leftByHand(leaving.byHand);
  const creates = supportEdits(leaving);
  if (leaving.byHand.length) return leftByHand(leaving.byHand);
  return { edits: leaving.edits, creates, deletes: [], dependencies: [], ledger: leaving.ledger };
}

/** The members that held the model and the form make room for the group. */
function formEdits(
  leaving: Leaving,
  rules: { before: string; behind: string } | undefined,
  declared: string | undefined,
): void {
  const { component, found, ledger, context } = leaving;
  const { script } = component;
  const form = found.form.node;
  const call = initialNode(found.form);
  if (!t.isCallExpression(call)) return void leaveNode(leaving, script, form, 'how it is made is not clear');
  const [, schema, options] = call.arguments;
  const indent = indentAt(script.text, form.start ?? 0);
  const group = groupOf(leaving, indent);
  if (group === undefined) return;
  const { semicolon, newline } = context.style;
  const file = script.file;
  const end = call.end ?? 0;
  const start = call.start ?? 0;
  const members = membersText(leaving);
  const behind = members.fields.map((one) => `${semicolon}${newline}${indent}${one}`).join('');
  const sends = options ? submissionText(options, leaving, indent) : '';
  if (!schema) leaving.edits.push({ file, start, end, text: `${group})${behind}` });
  else {
    leaving.edits.push({ file, start, end: schema.start ?? 0, text: `${group}, ${rules?.before ?? ''}` });
    leaving.edits.push({ file, start: schema.end ?? 0, end, text: `${rules?.behind ?? ''})${behind}${sends ?? ''}` });
  }
  const annotation = t.isClassProperty(form) ? form.typeAnnotation : undefined;
  if (annotation) leaveNode(leaving, script, annotation, 'the form’s type is written');
  ledger.push({
    entry: 'carried',
    span: spanOfNode(file, form),
    what: `member ${found.form.name}`,
    why: 'it is a group of controls now',
  });
  ledger.push({
    entry: 'retired',
    span: spanOfNode(file, found.model.node),
    what: `member ${found.model.name}`,
    why: 'the controls hold the values',
  });
  const gone = wholeLines(script.text, spanOfNode(file, found.model.node));
  leaving.edits.push({ file, ...gone, text: '' });
  const makers = (declared === undefined ? '' : declared + newline + newline) + rowMakers(leaving);
  if (makers) leaving.edits.push({ file, start: leaving.model.before, end: leaving.model.before, text: makers });
  if (members.methods.length) {
    const close = (component.path.node.body.end ?? 1) - 1;
    const own = memberIndent(component);
    const text = members.methods.map((one) => newline + one.replace(/^(?=.)/gm, own) + newline).join('');
    leaving.edits.push({ file, start: close, end: close, text });
  }
}

/** What the form does when it is sent, as a member of its own. */
function submissionText(options: t.Node, leaving: Leaving, indent: string): string | undefined {
  const { component, names, context, found } = leaving;
  const { script } = component;
  const action = submissionAction(options);
  if (!action) return leaveNode(leaving, script, options, 'what the form is given besides its rules is not clear');
  const { semicolon, newline, indent: tab } = context.style;
  const [start, end] = [action.start ?? 0, action.end ?? 0];
  const inner = leaving.edits.filter((edit) => edit.file === script.file && edit.start >= start && edit.end <= end);
  leaving.edits = leaving.edits.filter((edit) => !inner.includes(edit));
  const text = applyEdits(
    script.text.slice(start, end),
    inner.map((edit) => ({ ...edit, start: edit.start - start, end: edit.end - start })),
  );
  const deep = indentAt(script.text, start);
  const shallow = text.replace(new RegExp(`\\n${deep}`, 'g'), `\n${indent}${tab}`);
  return `${semicolon}${newline}${indent}protected readonly ${names.send} = () =>${newline}${indent}${tab}this.${names.sender}.send(this.${found.form.name}, ${shallow}${apartText(leaving)})`;
}
