import { childOf } from '../../source/child-path.js';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code } from '../../form/code.js';
import type { SetAllUse } from '../../form/uses.js';
import { declarationNamed, typeMembers, type TypeInFile } from '../../source/type-members.js';
import type { AngularSite } from '../form-site.js';
import { walk } from '../../source/traverse.js';

type GivenKeys = NonNullable<SetAllUse['gives']>;

/** The keys of the values that a form is given at a place of its class; undefined where nothing tells them. */
export function givenKeys(code: Code, site: AngularSite): GivenKeys | undefined {
  const path = expressionAt(code, site);
  if (!path) return undefined;
  if (path.isObjectExpression()) return keysWritten(path.node);
  const type = typeOf(path, site);
  const members = type ? [...typeMembers(type, site.load)] : [];
  return members.length ? members.map(([key, { optional }]) => ({ key, optional })) : undefined;
}

function expressionAt({ file, start, end }: Code, { component }: AngularSite): NodePath | undefined {
  if (file !== component.script.file) return undefined;
  let found: NodePath | undefined;
  walk(component.path, {
    Expression(path) {
      if (path.node.start === start && path.node.end === end) found ??= path;
    },
  });
  return found;
}

function keysWritten({ properties }: t.ObjectExpression): GivenKeys | undefined {
  const keys = properties.flatMap((property) => {
    if (t.isSpreadElement(property) || property.computed) return [];
    const key = t.isStringLiteral(property.key) ? property.key.value : nameOf(property.key);
    return key === '' ? [] : [{ key, optional: false }];
  });
  return keys.length === properties.length ? keys : undefined;
}

/** The type that is written for what an expression gives. */
function typeOf(path: NodePath, site: AngularSite): TypeInFile | undefined {
  const { script, members } = site.component;
  const { node } = path;
  if (t.isTSAsExpression(node)) return { node: node.typeAnnotation, script };
  if (t.isTSNonNullExpression(node)) return typeOf(childOf(path, 'expression'), site);
  if (t.isAwaitExpression(node)) return typeOf(childOf(path, 'argument'), site);
  if (t.isCallExpression(node)) return answerOf(path as NodePath<t.CallExpression>, site);
  if (t.isMemberExpression(node) && t.isThisExpression(node.object) && t.isIdentifier(node.property)) {
    const member = members.get(node.property.name)?.node;
    return annotated(t.isClassProperty(member) ? member.typeAnnotation : undefined, site);
  }
  if (!t.isIdentifier(node)) return undefined;
  const declared = path.scope.getBinding(node.name)?.path;
  const own = annotated(t.isIdentifier(declared?.node) ? declared.node.typeAnnotation : undefined, site);
  if (own || !declared) return own;
  if (declared.isVariableDeclarator()) {
    const written = t.isIdentifier(declared.node.id) ? annotated(declared.node.id.typeAnnotation, site) : undefined;
    return written ?? (declared.node.init ? typeOf(declared.get('init') as NodePath, site) : undefined);
  }
  return handedTo(declared, site);
}

function annotated(annotation: t.Node | null | undefined, { component }: AngularSite): TypeInFile | undefined {
  return t.isTSTypeAnnotation(annotation) ? { node: annotation.typeAnnotation, script: component.script } : undefined;
}

/** What the only parameter of a function is given that waits for an answer: `….subscribe((plot) => …)`. */
function handedTo(parameter: NodePath, site: AngularSite): TypeInFile | undefined {
  const fn = parameter.parentPath;
  const call = fn?.parentPath;
  // what waits for a failure is handed over second
  if (!fn?.isFunction() || parameter.key !== 0 || fn.key !== 0 || !call?.isCallExpression()) return undefined;
  const callee = call.get('callee');
  if (!callee.isMemberExpression() || !/^(?:subscribe|then)$/.test(nameOf(callee.node.property))) return undefined;
  let asked = callee.get('object');
  // what only ends a subscription leaves its values as they are
  const piped = asked.isCallExpression() ? asked.get('callee') : undefined;
  const operators = asked.isCallExpression() ? asked.node.arguments : [];
  const onlyEnds = operators.every(
    (one) => t.isCallExpression(one) && /^(?:takeUntil(?:Destroyed)?|take|first)$/.test(nameOf(one.callee)),
  );
  if (piped?.isMemberExpression() && nameOf(piped.node.property) === 'pipe' && onlyEnds) asked = piped.get('object');
  return asked.isCallExpression() ? answerOf(asked, site) : undefined;
}

/** What a method of something injected answers with, by its written result. */
function answerOf(call: NodePath<t.CallExpression>, site: AngularSite): TypeInFile | undefined {
  const { script, members } = site.component;
  const { callee } = call.node;
  if (!t.isMemberExpression(callee)) return undefined;
  const { object } = callee;
  const own = t.isThisExpression(object) ? members.get(nameOf(callee.property))?.node : undefined;
  if (t.isClassMethod(own)) return unwrapped(own.returnType, { node: own, script });
  if (!t.isMemberExpression(object) || !t.isThisExpression(object.object)) return undefined;
  const service = classOf(nameOf(object.property), site);
  const declared = service === undefined ? undefined : declarationNamed(service, script, site.load);
  if (!declared || !t.isClassDeclaration(declared.node)) return undefined;
  const method = declared.node.body.body.find(
    (member): member is t.ClassMethod | t.TSDeclareMethod =>
      (t.isClassMethod(member) || t.isTSDeclareMethod(member)) && nameOf(member.key) === nameOf(callee.property),
  );
  return method && unwrapped(method.returnType, declared);
}

/** The class that a member holds: by its type, or by what is injected. */
function classOf(name: string, { component }: AngularSite): string | undefined {
  const node = component.members.get(name)?.node;
  if (t.isTSParameterProperty(node)) {
    const { parameter } = node;
    const type = t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
    return t.isTSTypeAnnotation(type) ? typeName(type.typeAnnotation) : undefined;
  }
  if (!t.isClassProperty(node)) return undefined;
  if (t.isTSTypeAnnotation(node.typeAnnotation)) return typeName(node.typeAnnotation.typeAnnotation);
  const { value } = node;
  const token =
    t.isCallExpression(value) && t.isIdentifier(value.callee, { name: 'inject' }) ? value.arguments[0] : null;
  return t.isIdentifier(token) ? token.name : undefined;
}

function typeName(type: t.Node): string | undefined {
  return t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
}

/** A written result without the promise or the stream around it. */
function unwrapped(annotation: t.Node | null | undefined, { script }: TypeInFile): TypeInFile | undefined {
  const type = t.isTSTypeAnnotation(annotation) ? annotation.typeAnnotation : undefined;
  if (!type) return undefined;
  const inner =
    t.isTSTypeReference(type) && /^(?:Promise|Observable|Signal)$/.test(typeName(type) ?? '')
      ? type.typeParameters?.params[0]
      : type;
  return inner && { node: inner, script };
}

function nameOf(node: t.Node): string {
  return t.isIdentifier(node) ? node.name : '';
}
