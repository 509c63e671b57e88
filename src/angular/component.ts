import path from 'node:path';
import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Script } from '../source/script.js';
import { walk } from '../source/traverse.js';
import type { Workspace } from '../source/workspace.js';
import { decoratorNamed, literalText, propertyOf } from './decorators.js';
import { listIn, moduleDeclaring, type ImportsHome } from './module.js';
import { parseAngularTemplate } from './template.js';
import { unfollowedEscape } from './plain-templates.js';
import { type Template, type TemplatePlace } from './template-model.js';

/** A member of a component's class. */
export interface Member {
  name: string;
  kind: 'property' | 'method' | 'getter' | 'setter' | 'parameter';
  node: t.ClassProperty | t.ClassPrivateProperty | t.ClassMethod | t.TSParameterProperty | t.ClassAccessorProperty;
  path: NodePath;
  /** References in the class: `this.name`, in order. */
  references: NodePath<t.MemberExpression>[];
  /** Names that stand for it after `const { name } = this`. */
  aliases: NodePath[];
}

/** A component with its class and its template. */
export interface AngularComponent {
  script: Script;
  path: NodePath<t.Class>;
  name: string;
  metadata: t.ObjectExpression;
  template: Template;
  members: Map<string, Member>;
  home: ImportsHome | undefined;
}

/** Why a component could not be read, with the place. */
export interface ComponentProblem {
  className: string;
  file: string;
  line: number;
  column: number;
  reason: string;
}

export type ComponentResult = { ok: true; component: AngularComponent } | { ok: false; problem: ComponentProblem };

/** A template that stands in the class's file, or what keeps it from being read. */
function inlinePlace(node: t.Node, script: Script): TemplatePlace | string {
  const told = literalText(node);
  if (told === undefined) return 'its template is put together when it runs';
  const base = (node.start ?? 0) + 1;
  const text = script.text.slice(base, (node.end ?? 0) - 1);
  // backslashes that are left are the template's own
  const isPlain = t.isTemplateLiteral(node) ? !text.includes(unfollowedEscape) : text === told;
  return isPlain
    ? { file: script.file, base, text, inline: true }
    : 'its template has escapes in it other than of backslashes, which are not followed';
}

function problemAt(script: Script, className: string, node: t.Node, reason: string): ComponentResult {
  const { line, column } = script.lines.placeAt(node.start ?? 0);
  return { ok: false, problem: { className, file: script.file, line, column, reason } };
}

/** Finds the components of a file and reads their templates. */
export function componentsOfScript(script: Script, workspace: Workspace): ComponentResult[] {
  const found: ComponentResult[] = [];
  walk(script.program, {
    Class(classPath) {
      const metadata = decoratorNamed(classPath.node, 'Component');
      if (metadata) found.push(readComponent(classPath, metadata, script, workspace));
    },
  });
  return found;
}

function readComponent(
  classPath: NodePath<t.Class>,
  metadata: t.ObjectExpression,
  script: Script,
  workspace: Workspace,
): ComponentResult {
  const name = classPath.node.id?.name ?? 'Component';
  const inline = propertyOf(metadata, 'template');
  const url = propertyOf(metadata, 'templateUrl');
  let place: TemplatePlace | undefined;
  if (inline) {
    const found = inlinePlace(inline, script);
    if (typeof found === 'string') return problemAt(script, name, inline, found);
    place = found;
  } else if (url) {
    const specifier = literalText(url);
    if (specifier === undefined) return problemAt(script, name, url, 'its templateUrl is no plain text');
    const file = path.resolve(path.dirname(script.file), specifier);
    const read = workspace.read(file);
    if (!read.ok) return problemAt(script, name, url, `its template ${specifier} cannot be read: ${read.reason}`);
    place = { file, base: 0, text: read.text, inline: false };
  } else return problemAt(script, name, classPath.node, 'it has no template');
  const parsed = parseAngularTemplate(place);
  if (!parsed.ok) {
    const { line, column } = placeIn(place, script, parsed.problem.offset);
    return {
      ok: false,
      problem: {
        className: name,
        file: place.file,
        line,
        column,
        reason: `its template does not parse: ${parsed.problem.reason.split('\n')[0] ?? ''}`,
      },
    };
  }
  return {
    ok: true,
    component: {
      script,
      path: classPath,
      name,
      metadata,
      template: parsed.template,
      members: membersOf(classPath),
      home: homeOf(classPath, metadata, script, workspace),
    },
  };
}

function placeIn(place: TemplatePlace, script: Script, offset: number): { line: number; column: number } {
  if (place.inline) return script.lines.placeAt(offset);
  const before = place.text.slice(0, offset).split('\n');
  return { line: before.length, column: (before.at(-1)?.length ?? 0) + 1 };
}

function keyName(node: t.Node): string | undefined {
  if (t.isIdentifier(node)) return node.name;
  if (t.isStringLiteral(node)) return node.value;
  return t.isPrivateName(node) ? `#${node.id.name}` : undefined;
}

function membersOf(classPath: NodePath<t.Class>): Map<string, Member> {
  const members = new Map<string, Member>();
  const add = (name: string | undefined, kind: Member['kind'], memberPath: NodePath): void => {
    if (name === undefined || (kind === 'setter' && members.has(name))) return;
    members.set(name, {
      name,
      kind,
      node: memberPath.node as Member['node'],
      path: memberPath,
      references: [],
      aliases: [],
    });
  };
  for (const member of classPath.get('body').get('body')) {
    if ((member.isClassProperty() || member.isClassPrivateProperty()) && !member.node.static)
      add(keyName(member.node.key), 'property', member);
    else if (member.isClassMethod() && !member.node.static) {
      if (member.node.kind === 'constructor') {
        for (const parameter of member.get('params')) {
          if (!parameter.isTSParameterProperty()) continue;
          const inner = parameter.node.parameter;
          add(keyName(t.isAssignmentPattern(inner) ? inner.left : inner), 'parameter', parameter);
        }
      } else {
        const kinds = { get: 'getter', set: 'setter', method: 'method' } as const;
        add(keyName(member.node.key), kinds[member.node.kind], member);
      }
    }
  }
  walk(classPath, {
    ThisExpression(self) {
      const parent = self.parentPath;
      if (parent.isMemberExpression() && self.key === 'object') {
        const { property, computed } = parent.node;
        const name = computed ? literalText(property) : keyName(property);
        if (name !== undefined) members.get(name)?.references.push(parent);
      } else if (parent.isVariableDeclarator() && self.key === 'init') {
        const pattern = parent.get('id');
        if (!pattern.isObjectPattern()) return;
        for (const property of pattern.get('properties')) {
          if (!property.isObjectProperty()) continue;
          const value = property.get('value') as NodePath;
          const name = keyName(property.node.key);
          if (name !== undefined && value.isIdentifier()) members.get(name)?.aliases.push(value);
        }
      }
    },
  });
  for (const member of members.values()) member.references.sort((a, b) => (a.node.start ?? 0) - (b.node.start ?? 0));
  return members;
}

function homeOf(
  classPath: NodePath<t.Class>,
  metadata: t.ObjectExpression,
  script: Script,
  workspace: Workspace,
): ImportsHome | undefined {
  const standalone = propertyOf(metadata, 'standalone');
  const saysNo = t.isBooleanLiteral(standalone, { value: false });
  const list = propertyOf(metadata, 'imports');
  if (!saysNo && (list || t.isBooleanLiteral(standalone, { value: true })))
    return { script, className: classPath.node.id?.name ?? '', metadata, list: listIn(metadata), others: '' };
  const module = moduleDeclaring(classPath.node.id?.name ?? '', script.file, workspace);
  if (module) return module;
  return saysNo
    ? undefined
    : { script, className: classPath.node.id?.name ?? '', metadata, list: undefined, others: '' };
}

/** Whether a list of imports names something, or a template of a component without a list could rely on it. */
export function importsName(home: ImportsHome | undefined, name: string): boolean {
  return home?.list?.elements.some((element) => t.isIdentifier(element, { name })) ?? false;
}
