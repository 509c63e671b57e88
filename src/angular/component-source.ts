import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { LoadScript } from '../source/project-files.js';
import { samplerWith } from '../source/sample-values.js';
import { parseScript, type Script } from '../source/script.js';
import { walk } from '../source/traverse.js';
import { decoratorNamed, literalText as textOf, memberDecorator, propertyOf } from './decorators.js';
import { applyEdits, type Edit } from '../source/edits.js';

/** An Angular component class as its source declares it. */
export interface ComponentSource {
  className: string;
  selector: string;
  standalone: boolean;
  inputs: { name: string; source: string }[];
  outputs: string[];
  exported: boolean;
  line: number;
}

const signalCalls = /^(input|output|outputFromObservable|model|viewChild|viewChildren|contentChild|contentChildren)$/;

/** The call that makes a member a signal input, output, model or query. */
function signalCall(member: t.Node): { call: t.CallExpression; kind: string; required: boolean } | undefined {
  if (!t.isClassProperty(member) || !t.isCallExpression(member.value)) return undefined;
  const { callee } = member.value;
  if (t.isIdentifier(callee) && signalCalls.test(callee.name))
    return { call: member.value, kind: callee.name.replace('FromObservable', ''), required: false };
  if (
    t.isMemberExpression(callee) &&
    t.isIdentifier(callee.object) &&
    signalCalls.test(callee.object.name) &&
    t.isIdentifier(callee.property, { name: 'required' })
  ) {
    return { call: member.value, kind: callee.object.name, required: true };
  }
  return undefined;
}

function memberName(member: t.Node): string {
  return (t.isClassProperty(member) || t.isClassMethod(member)) && t.isIdentifier(member.key) ? member.key.name : '';
}

function hasDecorator(member: t.Node, name: string): boolean {
  return memberDecorator(member, name) !== undefined;
}

/** A value of the type that is written for an input: the member's own, or that of its signal. */
function sampleFor(member: t.Node, script: Script, load: LoadScript): string {
  const call = signalCall(member)?.call;
  const annotation = t.isClassProperty(member) ? member.typeAnnotation : undefined;
  const type = call ? call.typeParameters?.params[0] : t.isTSTypeAnnotation(annotation) ? annotation : undefined;
  return type ? samplerWith(load).valueOf({ node: type, script }, memberName(member), 0) : 'undefined';
}

/**
 * The components that a file declares.
 * @param load parses another file of the project
 */
export function angularComponents(script: Script, load: LoadScript): ComponentSource[] {
  const found: ComponentSource[] = [];
  walk(script.program, {
    Class(path) {
      const metadata = decoratorNamed(path.node, 'Component');
      if (!metadata || !path.node.id) return;
      const standalone = propertyOf(metadata, 'standalone');
      const inputs: ComponentSource['inputs'] = [];
      const outputs: string[] = [];
      for (const member of path.node.body.body) {
        const signal = signalCall(member);
        const text = script.text.slice(member.start ?? 0, member.end ?? 0);
        if (hasDecorator(member, 'Output') || signal?.kind === 'output') outputs.push(memberName(member));
        const required = signal?.required === true || /required:\s*true|!\s*:/.test(text);
        if ((hasDecorator(member, 'Input') || signal?.kind === 'input') && required) {
          const source = sampleFor(member, script, load);
          if (source !== 'undefined') inputs.push({ name: memberName(member), source });
        }
      }
      found.push({
        className: path.node.id.name,
        selector: textOf(propertyOf(metadata, 'selector')) ?? '',
        standalone: standalone
          ? !t.isBooleanLiteral(standalone, { value: false })
          : !/standalone:\s*false/.test(script.text),
        inputs,
        outputs,
        exported: path.parentPath.isExportDeclaration(),
        line: script.lines.lineAt(path.node.start ?? 0),
      });
    },
  });
  return found;
}

/**
 * Makes a file with Angular classes ready to be compiled when it runs: templates are put in, styles left out,
 * constructor parameters and signal members described the way the ahead-of-time compiler would.
 * @param readTemplate reads a template's file
 */
export function runnableAngular(
  file: string,
  text: string,
  readTemplate: (specifier: string) => string | undefined,
): { ok: true; code: string } | { ok: false; reason: string } {
  const parsed = parseScript(file, text);
  if (!parsed.ok) return { ok: false, reason: `line ${parsed.problem.line}: ${parsed.problem.reason}` };
  const edits: Edit[] = [];
  const wanted = new Set<string>();
  let problem: string | undefined;
  walk(parsed.script.program, {
    Class(path) {
      for (const name of ['Component', 'Directive', 'Injectable', 'NgModule', 'Pipe']) {
        const metadata = decoratorNamed(path.node, name);
        if (!metadata) continue;
        if (name === 'Component') problem ??= inlineTemplate(metadata, text, edits, readTemplate);
        describeParameters(path, text, edits);
      }
      for (const member of path.node.body.body) describeSignal(member, edits, wanted);
    },
  });
  if (problem !== undefined) return { ok: false, reason: problem };
  const names = [...wanted].map((name) => `${name} as graft${name}`).join(', ');
  const head = names ? `import { ${names} } from '@angular/core';\n` : '';
  return { ok: true, code: head + applyEdits(text, edits) };
}

function inlineTemplate(
  metadata: t.ObjectExpression,
  text: string,
  edits: Edit[],
  readTemplate: (specifier: string) => string | undefined,
): string | undefined {
  for (const property of metadata.properties) {
    if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) continue;
    const place = { start: property.start ?? 0, end: property.end ?? 0 };
    if (property.key.name === 'templateUrl') {
      const specifier = textOf(property.value);
      const template = specifier === undefined ? undefined : readTemplate(specifier);
      if (template === undefined)
        return `the template ${specifier ?? text.slice(place.start, place.end)} cannot be read`;
      edits.push({ ...place, text: `template: ${JSON.stringify(template)}` });
    }
    if (/^(styleUrls?|styles)$/.test(property.key.name)) edits.push({ ...place, text: `styles: []` });
  }
  return undefined;
}

/** The types of a constructor's parameters, which decorators cannot see when a file is compiled by itself. */
function describeParameters(path: NodePath<t.Class>, text: string, edits: Edit[]): void {
  const constructor = path.node.body.body.find((member) => t.isClassMethod(member) && member.kind === 'constructor');
  if (!t.isClassMethod(constructor) || !constructor.params.length) return;
  const types = constructor.params.map((parameter) => {
    const inner = t.isTSParameterProperty(parameter) ? parameter.parameter : parameter;
    const annotation =
      t.isIdentifier(inner) && t.isTSTypeAnnotation(inner.typeAnnotation)
        ? inner.typeAnnotation.typeAnnotation
        : undefined;
    const name = t.isTSTypeReference(annotation)
      ? text.slice(annotation.typeName.start ?? 0, annotation.typeName.end ?? 0)
      : 'undefined';
    const marks = (('decorators' in parameter ? parameter.decorators : undefined) ?? []).flatMap(({ expression }) =>
      t.isCallExpression(expression) && t.isIdentifier(expression.callee)
        ? [
            `{ type: ${expression.callee.name}, args: [${expression.arguments.map((one) => text.slice(one.start ?? 0, one.end ?? 0)).join(', ')}] }`,
          ]
        : [],
    );
    // what a token stands for may have a type that is not there when the code runs
    const asked = marks.some((mark) => mark.startsWith('{ type: Inject,')) ? 'undefined' : name;
    return `{ type: ${asked}${marks.length ? `, decorators: [${marks.join(', ')}]` : ''} }`;
  });
  const at = (path.node.body.start ?? 0) + 1;
  edits.push({ start: at, end: at, text: ` static ctorParameters = () => [${types.join(', ')}]; ` });
}

/** Signal inputs, outputs, models and queries are only known to the compiler through decorators. */
function describeSignal(member: t.Node, edits: Edit[], wanted: Set<string>): void {
  const signal = signalCall(member);
  if (!signal || hasDecorator(member, 'Input') || hasDecorator(member, 'Output')) return;
  const at = member.start ?? 0;
  const name = memberName(member);
  const put = (decorator: string, argument: string): void => {
    wanted.add(decorator);
    edits.push({ start: at, end: at, text: `@graft${decorator}(${argument}) ` });
  };
  const options = signal.call.arguments.at(-1);
  const aliasNode = t.isObjectExpression(options) ? propertyOf(options, 'alias') : undefined;
  const alias = textOf(aliasNode) ?? name;
  if (signal.kind === 'input')
    put('Input', `{ isSignal: true, alias: '${alias}', required: ${signal.required}, transform: undefined } as never`);
  if (signal.kind === 'output') put('Output', `'${alias}'`);
  if (signal.kind === 'model') {
    put('Input', `{ isSignal: true, alias: '${alias}', required: ${signal.required} } as never`);
    put('Output', `'${alias}Change'`);
  }
  if (/^(view|content)Child/.test(signal.kind)) {
    const decorator = signal.kind.charAt(0).toUpperCase() + signal.kind.slice(1);
    const [first] = signal.call.arguments;
    const selector = t.isStringLiteral(first) ? `'${first.value}'` : t.isIdentifier(first) ? first.name : 'undefined';
    put(decorator, `${selector}, { isSignal: true } as never`);
  }
}
