import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import type { FormSite } from '../approach.js';
import { functionOf } from '../components.js';
import { calledImport } from '../hook-calls.js';
import { apartOf } from '../package-leaving/apart.js';
import {
  isLeft,
  leavingFrom,
  nameIn,
  referencesTo,
  sayName,
  says,
  stays,
  takenApart,
  textIn,
  type Leaving,
} from '../package-leaving/leaving.js';
import { newBlock } from '../package-leaving/block.js';
import { forgetNames, planByHook, refuseUnknown, targetsOf } from '../package-leaving/hook-form.js';
import { refuseLate } from '../package-leaving/turns.js';
import { membersTaken } from '../package-leaving/members.js';
import { startedAs, typeOfValues } from '../package-leaving/starts.js';
import { addBlock, type Stated } from './block.js';
import { partOf, sayField, saySubscribed } from './drawn.js';
import { giveAllFields } from '../package-leaving/field-giving.js';
import { formFiles } from '../package-leaving/form-files.js';
import { sayHandedFields } from './handed-fields.js';
import { noteField } from './noted.js';
import { selectedBy } from './state.js';
import type { StoreForm } from './found.js';
import type { FormNames, TakenApart } from './form.js';
import { sayMember } from './places.js';
import { walk } from '../../source/traverse.js';

const known = new Set(['defaultValues', 'onSubmit', 'onSubmitInvalid']);

/** Takes a form off the package: values, errors and status into state variables, and its events into functions. */
export function leaveStoreForm(model: FormModel, context: WriteContext, site: FormSite, form: StoreForm): RewritePlan {
  const leaving = leavingFrom(site, context);
  const apart = apartFrom(leaving, form);
  if (!apart) return leftByHand(leaving.ledger);
  refuseUnknown(leaving, form, known);
  sayAll(apart, site);
  const block = newBlock();
  const files = formFiles(leaving, block);
  giveAllFields(apart, sayHandedFields(apart, files), files, false);
  saySender(apart);
  refuseLate(leaving, rulesOf(apart));
  if (!apart.needs.has('submit')) stays(leaving, form.hook, 'nothing of the page sends it');
  // a button that cannot be pressed while something is wrong keeps the first try from it
  if (!apart.needs.has('canSubmit') && !apart.needs.has('valid')) apart.needs.add('firstTry').add('attempts');
  const stated = statedIn(apart);
  if (!stated || isLeft(leaving)) return leftByHand(leaving.ledger);
  const plan = planByHook(leaving, model, form, ['defaultValues', 'onSubmit'], block, () => {
    addBlock(apart, stated, block);
  });
  return plan.edits.length ? { ...plan, edits: [...plan.edits, ...files.edits()] } : plan;
}

/** Rules and listeners, in which values stand for those that are checked. */
function rulesOf({ own, listeners }: TakenApart): t.Node[] {
  const rules = [...own.values()].flatMap((one) => [...one.rules.values()].map(({ node }) => node));
  return [...rules, ...[...listeners.values()].map(({ fn }) => fn.node)];
}

function apartFrom(leaving: Leaving, form: StoreForm): TakenApart | undefined {
  forgetNames(leaving, targetsOf(form));
  const start = form.options.get('defaultValues');
  const plain = apartOf(leaving, start, form.call, new Map());
  if (!plain) return undefined;
  const names: FormNames = {
    ...plain.names,
    leftErrors: nameIn(leaving, 'leftErrors', 'errorsOnLeaving'),
    setLeftErrors: nameIn(leaving, 'setLeftErrors', 'setErrorsOnLeaving'),
    changed: nameIn(leaving, 'isDirty', 'isChanged'),
    setChanged: nameIn(leaving, 'setIsDirty', 'setIsChanged'),
    canSubmit: nameIn(leaving, 'canSubmit', 'canSend'),
    submit: nameIn(leaving, 'submitForm', 'sendForm'),
    recheck: nameIn(leaving, 'recheck', 'checkAgain'),
    checkLeft: nameIn(leaving, 'checkOnLeaving', 'checkLeft'),
  };
  const given = form.options.get('onSubmit');
  return {
    ...plain,
    form,
    names,
    type: leaving.script.typescript ? typeOfValues(leaving, undefined, start, []) : undefined,
    own: new Map(),
    watched: new Map(),
    handed: [],
    ruleFunctions: [],
    listeners: new Map(),
    send: given && { given, fn: given.isObjectMethod() ? undefined : functionOf(given) },
    changes: (next, name) => `${names.change}(${next}, ${name})`,
    numberOf: () => undefined,
    listWith: () => undefined,
  };
}

/** Says every place of the component that speaks of the package. */
function sayAll(apart: TakenApart, site: FormSite): void {
  const elements: { part: string; element: NodePath<t.JSXElement> }[] = [];
  walk(site.component.path, {
    JSXElement(element) {
      const part = partOf(apart, element);
      if (part !== undefined) elements.push({ part, element });
    },
  });
  sayFollowed(apart, site);
  for (const { part, element } of elements) if (part === 'Field') noteField(apart, element);
  for (const place of apart.form.taken.places) sayMember(apart, place);
  for (const { part, element } of elements) {
    if (part === 'Field') sayField(apart, element);
    else if (part === 'Subscribe') saySubscribed(apart, element);
    else stays(apart.leaving, element.get('openingElement'), `<form.${part}> is not drawn without the package yet`);
  }
}

/** `useStore(form.store, (state) => state.values.town)`. */
function sayFollowed(apart: TakenApart, { component }: FormSite): void {
  const { leaving } = apart;
  walk(component.path, {
    CallExpression(call) {
      const made = calledImport(call);
      if (made?.module !== '@tanstack/react-form' || made.name === 'useForm') return;
      const selector = call.get('arguments')[1] as NodePath | undefined;
      const texts = made.name === 'useStore' && selector ? selectedBy(apart, selector) : undefined;
      const text = texts?.size === 1 ? texts.get(0) : undefined;
      if (text === undefined) {
        stays(leaving, call, `${made.name} of the package is not said here without it yet`);
        return;
      }
      const declared = call.parentPath;
      const field = new RegExp(`^${apart.names.values}\\.(\\w+)$`).exec(text)?.[1];
      if (declared.isVariableDeclarator() && t.isIdentifier(declared.node.id) && field !== undefined)
        apart.watched.set(declared.node.id.name, field);
      says(leaving, call, text);
    },
  });
}

/** The function that sends takes the values by the component’s name, and resets the form as the component does. */
function saySender(apart: TakenApart): void {
  const { leaving, send, names } = apart;
  const fn = send?.fn;
  if (!send || !fn || fn.node !== send.given.node) {
    stays(leaving, send?.given ?? apart.form.call, 'what it sends with is not told');
    return;
  }
  const [given, ...more] = fn.get('params') as NodePath[];
  if (more.length || (given && !given.isObjectPattern())) {
    stays(leaving, fn, 'what it takes is not told');
    return;
  }
  for (const [key, local] of given?.isObjectPattern() ? takenApart(given) : []) {
    if (!local.isIdentifier() || !/^(value|formApi)$/.test(key ?? '')) {
      stays(leaving, local, 'what it takes is not said without the package yet');
      continue;
    }
    const references = referencesTo(leaving, local);
    if (key === 'value') {
      for (const reference of references) sayName(leaving, reference, names.values);
      continue;
    }
    const taken = membersTaken(local);
    for (const one of taken.unclear) stays(leaving, one, 'the form is handed on as a whole');
    for (const place of taken.places) sayMember(apart, place);
  }
  if (given) says(leaving, given, names.values);
}

function statedIn(apart: TakenApart): Stated | undefined {
  const { leaving, form } = apart;
  const start = form.options.get('defaultValues');
  if (!start) return undefined;
  const started = startedAs(leaving, start, apart.type, false);
  if (!started) return undefined;
  apart.type = started.type;
  return {
    ...started,
    invalid: invalidLines(apart),
  };
}

/** What is done where a send was tried in vain. */
function invalidLines({ form, leaving }: TakenApart): string[] {
  const given = form.options.get('onSubmitInvalid');
  if (!given) return [];
  const body =
    given.isArrowFunctionExpression() && !given.node.params.length ? (given.get('body') as NodePath) : undefined;
  if (!body || body.isBlockStatement()) {
    stays(leaving, given, 'what it does is not said without the package yet');
    return [];
  }
  return [`${textIn(leaving, body)};`];
}
