import path from 'node:path';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { applyEdits } from '../../source/edits.js';
import type { LoadScript } from '../../source/project-files.js';
import { declarationNamed } from '../../source/type-members.js';
import { wholeLines } from '../../source/removal.js';
import { parseScript, type Script } from '../../source/script.js';
import { indentAt } from '../../source/style.js';
import { initialNode, partAt, signalArgument } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import { interfaceText } from '../values-text.js';
import { sitesOf } from '../form-site.js';
import { boundFields, foundForm, leavesOf, signalForms, type FoundForm } from '../signal-model/found-form.js';
import { templateChain } from '../chains.js';
import { importEdits, memberIndent, moduleEdits, specifierFrom, type FileEdit } from '../writing.js';
import { bindEdits } from './bindings.js';
import { groupOf, rowMakers } from './group-text.js';
import { unusableText, unusableWhile } from '../unusable-while.js';
import { helpersFile, helpersText } from './helpers-file.js';
import { keysOf, leave, leaveNode, rowTypeOf, textAt, typeFrom, type Leaving, type ListOfRows } from './leaving.js';
import { recomputed } from './recomputed.js';
import { plainIdentifiers } from './rule-texts.js';
import { stateRules } from './schemas.js';
import { apartText, membersText, saySubmits, submissionAction } from './sending.js';
import { sayUses } from './tree-uses.js';

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
  const free = (...wished: string[]): string => {
    const taken = (name: string): boolean =>
      component.members.has(name) || component.template.variables.some((one) => one.name === name);
    return wished.find((name) => !taken(name)) ?? context.freeName(wished[0] ?? 'member');
  };
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
  recomputed(leaving);
  if (leaving.byHand.length) return leftByHand(leaving.byHand);
  const creates = supportEdits(leaving);
  if (leaving.byHand.length) return leftByHand(leaving.byHand);
  return { edits: leaving.edits, creates, deletes: [], dependencies: [], ledger: leaving.ledger };
}

interface TypeText {
  text: string;
  script: Script;
}

/** Text of the values' type: what the signal is given, or what the start it begins as is typed with. */
function typeOfValues(
  { type, model }: FoundForm,
  { script }: AngularComponent,
  load: LoadScript,
): TypeText | undefined {
  if (type) return { text: textAt(script, type), script };
  const value = signalArgument(model)?.value;
  const named = t.isIdentifier(value)
    ? value.name
    : t.isCallExpression(value) && t.isIdentifier(value.callee)
      ? value.callee.name
      : undefined;
  if (named === undefined) return undefined;
  return new RegExp(`\\b${named}\\b`).test(script.text) ? typeOfStart(named, script, load) : undefined;
}

function typeOfStart(name: string, script: Script, load: LoadScript): TypeText | undefined {
  const found = declarationNamed(name, script, load);
  if (!found) return undefined;
  const { node } = found;
  const fn = t.isVariableDeclarator(node) ? node.init : node;
  const annotation =
    t.isArrowFunctionExpression(fn) || t.isFunctionDeclaration(fn) || t.isFunctionExpression(fn)
      ? fn.returnType
      : t.isVariableDeclarator(node) && t.isIdentifier(node.id)
        ? node.id.typeAnnotation
        : undefined;
  const text = t.isTSTypeAnnotation(annotation) ? textAt(found.script, annotation.typeAnnotation) : undefined;
  return text !== undefined && /^\w+$/.test(text) ? { text, script: found.script } : undefined;
}

/** The lists whose rows the template repeats. */
function listsOf(leaving: Leaving): ListOfRows[] {
  const { component, found, leaves, load, context } = leaving;
  const { template } = component;
  const paths = new Set<string>();
  for (const name of template.names) {
    if (name.name !== found.form.name || name.variable) continue;
    const repeats = template.views.some(
      (view) => view.kind === 'row' && name.around.some((node) => node === view.expression),
    );
    const chain = templateChain(name, template.place);
    if (repeats && chain.links.every(({ call }) => !call))
      paths.add(
        chain.links
          .slice(1)
          .map(({ key }) => key)
          .join('.'),
      );
  }
  return [...paths].flatMap((one): ListOfRows[] => {
    const leaf = leaves.find(({ path: at }) => at === one);
    const part = partAt(component, found.start, one.split('.'), load);
    const row = rowTypeOf(part?.written?.node);
    const keys = row && part?.written ? keysOf({ node: row, script: part.written.script }, load) : [];
    if (!leaf || !row || !part?.written || !keys.length) {
      leaveNode(leaving, component.script, found.model.node, `the type of the rows of ${one} is not told`);
      return [];
    }
    const type = textAt(part.written.script, row);
    typeFrom(leaving, type, part.written.script);
    const last = one.split('.').at(-1) ?? 'rows';
    const single = /^[A-Z]\w*$/.test(type) ? type.charAt(0).toLowerCase() + type.slice(1) : last.replace(/s$/, '');
    return [
      {
        path: one,
        keys,
        type,
        make: context.freeName(`${single}Controls`),
        change: context.freeName(`set${last.charAt(0).toUpperCase()}${last.slice(1)}`),
      },
    ];
  });
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
  const model = found.model.node;
  let from = model.start ?? 0;
  while (/[ \t]/.test(script.text[from - 1] ?? '')) from -= 1;
  const to = (model.end ?? 0) + (/^[ \t]*\r?\n/.exec(script.text.slice(model.end ?? 0))?.[0].length ?? 0);
  leaving.edits.push({ file, start: from, end: to, text: '' });
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

/** Imports of every file that is touched, and the file of helpers. */
function supportEdits(leaving: Leaving): RewritePlan['creates'] {
  const { component, supports, context, ledger } = leaving;
  const { script } = component;
  const helpers = path.join(path.dirname(script.file), helpersFile);
  const directives =
    component.home?.list?.elements.filter(
      (one) => t.isIdentifier(one) && /^(FormField|FormRoot|Field|Control)$/.test(one.name),
    ) ?? [];
  const [first, ...others] = directives.map((one) => (t.isIdentifier(one) ? one.name : ''));
  const unusable = leaving.needs.has('unusable');
  const directive = path.join(path.dirname(script.file), unusableWhile.fileName);
  const listing = ['ReactiveFormsModule', ...(unusable ? [unusableWhile.className] : [])];
  const listed = moduleEdits(component, listing, first);
  leaving.edits.push(...(listed?.edits ?? []));
  for (const name of others) leaving.edits.push(...(moduleEdits(component, [], name)?.edits ?? []));
  if (listed)
    ledger.push({
      entry: 'retired',
      span: { file: listed.file, start: listed.edits[0]?.start ?? 0, end: listed.edits[0]?.end ?? 0 },
      what: first ?? 'FormField',
      why: 'ReactiveFormsModule takes its place',
    });
  const scripts = new Map<string, Script>(
    [script, ...supports.keys(), ...(listed ? [listed.script] : [])].map((one) => [one.file, one]),
  );
  for (const one of scripts.values()) {
    const own = leaving.edits.filter(({ file }) => file === one.file);
    const names = [...(supports.get(one) ?? [])].sort();
    const wanted = {
      '@angular/forms': ['FormArray', 'FormControl', 'FormGroup', 'ReactiveFormsModule', 'Validators'],
      [specifierFrom(path.dirname(one.file), helpers)]: names,
      ...(unusable ? { [specifierFrom(path.dirname(one.file), directive)]: [unusableWhile.className] } : {}),
      ...(one === script ? typesWanted(leaving) : {}),
    };
    const gone = packageImports(one);
    const within = (edit: { start: number; end: number }): boolean =>
      gone.some(({ start, end }) => edit.start >= (start ?? 0) && edit.end <= (end ?? 0));
    const made = importEdits(one, own, wanted);
    const imports = made.filter((edit) => !within(edit));
    // what takes the place of the package’s import stands where that stood
    const coming = made.flatMap((edit) => (within(edit) && edit.text.includes('import ') ? [edit.text.trim()] : []));
    const [first, ...others] = gone;
    if (first && coming.length)
      imports.push({ ...spanOfNode(one.file, first), text: coming.join(context.style.newline) });
    else if (first) others.unshift(first);
    for (const declaration of others)
      imports.push({ ...wholeLines(one.text, spanOfNode(one.file, declaration)), text: '' });
    leaving.edits.push(...imports.map((edit): FileEdit => ({ file: one.file, ...edit })));
    leftWords(one, gone, leaving);
  }
  const creates: RewritePlan['creates'] = [];
  if ([...supports.values()].some((names) => names.size > 0))
    creates.push({ file: helpers, text: helpersText(context) });
  if (unusable) creates.push({ file: directive, text: unusableText(context) });
  return creates.filter(({ file, text }) => {
    if (!context.exists(file)) return true;
    if (context.text(file) !== text)
      leave(leaving, { file: script.file, start: 0, end: 0 }, `a file ${path.basename(file)} stands there already`);
    return false;
  });
}

/** Types of other files, by the file as the class's file calls it. */
function typesWanted({ types, component }: Leaving): Record<string, string[]> {
  const wanted: Record<string, string[]> = {};
  for (const [name, { file }] of types) {
    const own = component.script.ast.program.body.find(
      (node) => t.isImportDeclaration(node) && isFile(node.source.value, component.script.file, file),
    );
    const specifier = t.isImportDeclaration(own)
      ? own.source.value
      : specifierFrom(path.dirname(component.script.file), file);
    (wanted[specifier] ??= []).push(name);
  }
  return wanted;
}

/** Whether a module's name in one file means another file. */
function isFile(module: string, from: string, file: string): boolean {
  return (
    module.startsWith('.') &&
    path.resolve(path.dirname(from), module).replace(/\.[jt]s$/, '') === file.replace(/\.ts$/, '')
  );
}

/** Where a script imports from the package of signal forms. */
function packageImports({ ast }: Script): t.ImportDeclaration[] {
  return ast.program.body.filter(
    (node): node is t.ImportDeclaration => t.isImportDeclaration(node) && node.source.value === signalForms,
  );
}

/** What the result still speaks of, though its import is gone, is left by hand. */
function leftWords(script: Script, gone: readonly t.ImportDeclaration[], leaving: Leaving): void {
  const edits = leaving.edits.filter(({ file }) => file === script.file);
  const result = parseScript(script.file, applyEdits(script.text, edits));
  if (!result.ok) return void leave(leaving, { file: script.file, start: 0, end: 0 }, result.problem.reason);
  const names = new Set(gone.flatMap(({ specifiers }) => specifiers.map(({ local }) => local.name)));
  for (const { name } of plainIdentifiers(result.script.ast.program)) {
    if (!names.delete(name) || result.script.program.scope.hasOwnBinding(name)) continue;
    const [, found] = plainIdentifiers(script.ast.program).filter((one) => one.name === name);
    const span = found ? spanOfNode(script.file, found) : { file: script.file, start: 0, end: 0 };
    leave(leaving, span, `${name} of the package is still spoken of`);
  }
}
