import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { objectBehind } from '../source/behind-names.js';
import type { Script } from '../source/script.js';
import type { FormSite } from './approach.js';
import {
  functionSource,
  sampledKey,
  sampledMembers,
  samplerWith,
  sampleText,
  spySource,
} from '../source/sample-values.js';
import { exportedAs } from './exported-names.js';
import { componentsOf, type FunctionPath } from './components.js';
import { walk } from '../source/traverse.js';

/** What a component's file exports it as, and values for its properties, as JavaScript source. */
export interface SampleComponent {
  exported: string | undefined;
  props: { name: string; source: string }[];
}

function typeOfProps(fn: FunctionPath): t.Node | undefined {
  const parameter = fn.node.params[0];
  const pattern = t.isAssignmentPattern(parameter) ? parameter.left : parameter;
  if (pattern && 'typeAnnotation' in pattern && t.isTSTypeAnnotation(pattern.typeAnnotation))
    return pattern.typeAnnotation.typeAnnotation;
  let holder: NodePath | null = fn.parentPath;
  while (holder?.isCallExpression()) {
    const given = holder.node.typeParameters?.params;
    if (given?.length) return given.at(-1);
    holder = holder.parentPath;
  }
  const id = holder?.isVariableDeclarator() ? holder.node.id : undefined;
  const written =
    t.isIdentifier(id) && t.isTSTypeAnnotation(id.typeAnnotation) ? id.typeAnnotation.typeAnnotation : undefined;
  return t.isTSTypeReference(written) ? written.typeParameters?.params[0] : undefined;
}

function typeOfClassProps(path: NodePath<t.Class>): t.Node | undefined {
  const given = path.node.superTypeParameters;
  return t.isTSTypeParameterInstantiation(given) ? given.params[0] : undefined;
}

/** Properties that a class gives a value by itself. */
function defaultKeys(path: NodePath<t.Class>): string[] {
  return path.node.body.body.flatMap((member) => {
    if (!t.isClassProperty(member) || !t.isIdentifier(member.key, { name: 'defaultProps' })) return [];
    const value = t.isTSAsExpression(member.value) ? member.value.expression : member.value;
    return t.isObjectExpression(value)
      ? value.properties.flatMap((one) => (t.isObjectProperty(one) && t.isIdentifier(one.key) ? [one.key.name] : []))
      : [];
  });
}

/** Properties of a class without types: what it asks of `this.props`. */
function classProps(path: NodePath<t.Class>): SampleComponent['props'] {
  const uses = new Map<string, PropUse>();
  const add = (name: string, use: PropUse): void => {
    const known = uses.get(name);
    uses.set(name, {
      called: use.called || known?.called === true,
      listed: use.listed || known?.listed === true,
      optional: use.optional || known?.optional === true,
    });
  };
  walk(path, {
    MemberExpression(member) {
      const { object, property } = member.node;
      if (!t.isThisExpression(object) || !t.isIdentifier(property, { name: 'props' })) return;
      const outer = member.parentPath;
      if (outer.isMemberExpression() && t.isIdentifier(outer.node.property) && !outer.node.computed)
        add(outer.node.property.name, { ...useOfProp(outer), optional: false });
      const pattern = outer.isVariableDeclarator() ? outer.node.id : undefined;
      if (!t.isObjectPattern(pattern)) return;
      for (const one of pattern.properties) {
        if (!t.isObjectProperty(one) || !t.isIdentifier(one.key)) continue;
        const local = t.isAssignmentPattern(one.value) ? one.value.left : one.value;
        const references = t.isIdentifier(local) ? (outer.scope.getBinding(local.name)?.referencePaths ?? []) : [];
        const found = references.map((reference) => useOfProp(reference));
        add(one.key.name, {
          called: found.some(({ called }) => called),
          listed: found.some(({ listed }) => listed),
          optional: t.isAssignmentPattern(one.value),
        });
      }
    },
  });
  const given = defaultKeys(path);
  return [...uses]
    .filter(([name, { optional }]) => !optional && name !== 'children' && !given.includes(name))
    .map(([name, use]) => ({ name, source: untypedSource(name, use) }));
}

interface PropUse {
  called: boolean;
  listed: boolean;
  optional: boolean;
}

/** What is done with a property at one place. */
function useOfProp(path: NodePath): Omit<PropUse, 'optional'> {
  const outer = path.parentPath;
  // `(rows ?? []).map(…)`: what stands for it where it is missing is asked the same
  if (outer?.isLogicalExpression() && path.key === 'left' && t.isArrayExpression(outer.node.right))
    return { ...useOfProp(outer), listed: true };
  const isMember = outer?.isMemberExpression() === true || outer?.isOptionalMemberExpression() === true;
  const member = isMember && path.key === 'object' ? outer : undefined;
  const asked = member && t.isIdentifier(member.node.property) ? member.node.property.name : '';
  // what is handed on by the name of a handler is called there
  const handed =
    outer?.isObjectProperty() && path.key === 'value' && t.isIdentifier(outer.node.key) ? outer.node.key.name : '';
  return {
    called:
      ((outer?.isCallExpression() === true || outer?.isOptionalCallExpression() === true) && path.key === 'callee') ||
      /^(?:on|handle)[A-Z]/.test(handed),
    listed:
      member?.node.computed === true ||
      /^(map|forEach|filter|find|length|indexOf|includes|some|every|join)$/.test(asked),
  };
}

function untypedSource(name: string, { called, listed }: Omit<PropUse, 'optional'>): string {
  if (called || /^(on|set|handle)[A-Z]/.test(name)) return spySource(name);
  const word = sampleText(name.replace(/s$/, ''));
  return listed ? JSON.stringify([`${word} one`, `${word} two`]) : JSON.stringify(sampleText(name));
}

/** Properties of a component without types: names it takes out of its parameter, and what it does with them. */
function untypedProps(fn: FunctionPath, script: Script, load: FormSite['load']): SampleComponent['props'] {
  const pattern = fn.node.params[0];
  const names = new Map<string, { local: string | undefined; optional: boolean; use?: Omit<PropUse, 'optional'> }>();
  const take = (taken: t.Node | undefined): void => {
    for (const property of t.isObjectPattern(taken) ? taken.properties : []) {
      if (!t.isObjectProperty(property) || !t.isIdentifier(property.key)) continue;
      const value = t.isAssignmentPattern(property.value) ? property.value.left : property.value;
      names.set(property.key.name, {
        local: t.isIdentifier(value) ? value.name : undefined,
        optional: t.isAssignmentPattern(property.value),
      });
    }
  };
  if (t.isObjectPattern(pattern)) take(pattern);
  else if (t.isIdentifier(pattern)) {
    for (const reference of fn.scope.getBinding(pattern.name)?.referencePaths ?? []) {
      const member = reference.parentPath;
      if (member?.isVariableDeclarator() && reference.key === 'init') take(member.node.id);
      if (member?.isMemberExpression() && t.isIdentifier(member.node.property) && !member.node.computed) {
        const { name } = member.node.property;
        const use = useOfProp(member);
        const before = names.get(name)?.use;
        names.set(name, {
          local: undefined,
          optional: false,
          use: { called: use.called || before?.called === true, listed: use.listed || before?.listed === true },
        });
      }
    }
  }
  return [...names]
    .filter(([name, { optional }]) => !optional && name !== 'children')
    .map(([name, { local, use: seen }]) => {
      if (seen) return { name, source: untypedSource(name, seen) };
      const references = local === undefined ? [] : (fn.scope.getBinding(local)?.referencePaths ?? []);
      const object = objectBeside(references, script, load);
      if (object !== undefined) return { name, source: object };
      const found = references.map((reference) => useOfProp(reference));
      const called = found.some((use) => use.called);
      return { name, source: untypedSource(name, { called, listed: found.some((use) => use.listed) }) };
    });
}

/** A constant object over which a property is laid: `{ ...blank, ...crate }`. What is laid over it has its members. */
function objectBeside(references: readonly NodePath[], script: Script, load: FormSite['load']): string | undefined {
  for (const reference of references) {
    const spread = reference.parentPath;
    const object = spread?.isSpreadElement() ? spread.parentPath : undefined;
    for (const other of object?.isObjectExpression() ? object.get('properties') : []) {
      if (!other.isSpreadElement() || other === spread) continue;
      const found = objectBehind({ path: other.get('argument'), script }, load);
      const text = found?.script.text.slice(found.path.node.start ?? 0, found.path.node.end ?? 0);
      if (
        text !== undefined &&
        /^\{(?:\s*[\w'"]+:\s*(?:'[^']*'|"[^"]*"|[-\d.]+|true|false|null|\[\]),?)*\s*\}$/.test(text)
      )
        return text;
    }
  }
  return undefined;
}

/** What is needed to show a component by itself: how it is exported, and plain values for what it is given. */
export function sampleComponent(script: Script, name: string, load: FormSite['load']): SampleComponent {
  const exported = exportedAs(script, name);
  const component = componentsOf(script).find((candidate) => candidate.name === name);
  if (!component) return { exported, props: [] };
  const isClass = component.kind === 'class';
  const type = isClass ? typeOfClassProps(component.path) : typeOfProps(component.path);
  if (!type)
    return { exported, props: isClass ? classProps(component.path) : untypedProps(component.path, script, load) };
  const given = isClass ? defaultKeys(component.path) : [];
  const sampler = samplerWith(load);
  const props = sampledMembers({ node: type, script }, load).flatMap(({ member, script: home }) => {
    const key = sampledKey(member);
    if (key === 'children' || key === 'ref' || given.includes(key)) return [];
    const sampleOf = (next: t.Node): string => sampler.valueOf({ node: next, script: home }, key, 0);
    const source = t.isTSMethodSignature(member)
      ? functionSource(member, key, sampleOf)
      : member.typeAnnotation
        ? sampleOf(member.typeAnnotation)
        : 'undefined';
    const optional = member.optional === true && !/^\(?spy\(|^\(\(\.\.\.values/.test(source);
    return optional || source === 'undefined' ? [] : [{ name: key, source }];
  });
  return { exported, props };
}
