import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { behindName } from '../../source/behind-names.js';
import type { Script } from '../../source/script.js';
import type { FormSite } from '../approach.js';
import { importedFunction } from '../exports.js';
import { importOf } from '../hook-calls.js';
import type { HeldObject } from '../held-object/held.js';
import { untoldPart, type Slot } from '../held-object/held-starts.js';
import { schemaHookMark } from '../form-hook/hook-file.js';
import { hookStateOf, madeHook, type HookStart } from '../form-hook/state.js';
import { schemaExports } from './hook-file.js';
import { walk } from '../../source/traverse.js';

/** The schema of a form: its file, parsed, and the object that it is. */
export interface SchemaFile {
  script: Script;
  object: NodePath<t.ObjectExpression>;
}

/** The schema that an expression of a component stands for. */
export function schemaBehind(path: NodePath, site: Pick<FormSite, 'script' | 'load'>): SchemaFile | undefined {
  const from = importOf(path);
  const script = from && /\.json$/.test(from.module) ? site.load(site.script.file, from.module) : undefined;
  const [statement] = script?.program.get('body') ?? [];
  const object = statement?.isExpressionStatement() ? (statement.get('expression') as NodePath) : undefined;
  return script && object?.isObjectExpression() ? { script, object } : undefined;
}

/** The value of a member that is written out in an object. */
export function memberAt(object: NodePath, name: string): NodePath | undefined {
  if (!object.isObjectExpression()) return undefined;
  for (const property of object.get('properties')) {
    if (!property.isObjectProperty()) continue;
    const { key } = property.node;
    if (t.isStringLiteral(key, { value: name }) || t.isIdentifier(key, { name }))
      return property.get('value') as NodePath;
  }
  return undefined;
}

/** The values that a schema declares, with their defaults; values that only the page knows take their place. */
export function slotsOfSchema({ script, object }: SchemaFile, given: NodePath | undefined, site: FormSite): Slot[] {
  const properties = memberAt(object, 'properties');
  if (!properties?.isObjectExpression()) return [];
  const own = given ? objectGiven(given, site) : undefined;
  return properties.get('properties').flatMap((property): Slot[] => {
    if (!property.isObjectProperty()) return [];
    const { key } = property.node;
    const name = t.isStringLiteral(key) ? key.value : t.isIdentifier(key) ? key.name : undefined;
    if (name === undefined) return [];
    const fromPage = own ? memberAt(own.path, name) : undefined;
    const fallback = memberAt(property.get('value') as NodePath, 'default');
    const initial =
      fromPage && own ? { path: fromPage, script: own.script } : fallback ? { path: fallback, script } : undefined;
    const open = given !== undefined && (own === undefined || untoldPart(own, site.load) !== undefined);
    return [{ name, alias: undefined, initial, ...(initial ? {} : open ? { untold: true } : { absent: true }) }];
  });
}

/** The object that a hook is given beside its schema: written out, behind a name, or given by a function. */
function objectGiven(path: NodePath, site: FormSite): { path: NodePath; script: Script } | undefined {
  const found = behindName({ path, script: site.script }, site.load);
  if (found.path.isObjectExpression()) return found;
  const body = found.path.isArrowFunctionExpression() ? (found.path.get('body') as NodePath) : undefined;
  return body?.isObjectExpression() ? { path: body, script: found.script } : undefined;
}

/** The schema that a component's hook is given and that cannot be read, as its import names it. */
export function unreadableSchema(site: FormSite): string | undefined {
  let found: string | undefined;
  walk(site.component.path, {
    CallExpression(call) {
      const callee = call.get('callee') as NodePath;
      const from = importOf(callee);
      const hook = from && importedFunction(from, site.script, site.load)?.script;
      if (!hook?.text.includes(schemaHookMark) || !t.isIdentifier(callee.node) || !/^use[A-Z]/.test(callee.node.name))
        return;
      const first = call.get('arguments')[0] as NodePath | undefined;
      const schema = first ? importOf(first) : undefined;
      if (first && schema?.module.endsWith('.json') && !schemaBehind(first, site)) found = schema.module;
    },
  });
  return found;
}

/** Finds the values that a form keeps by its schema. */
export function schemaStateOf(site: FormSite): HeldObject | undefined {
  const start = (call: NodePath<t.CallExpression>): HookStart | undefined => {
    const [first, second] = call.get('arguments') as (NodePath | undefined)[];
    const schema = first ? schemaBehind(first, site) : undefined;
    if (!schema) return undefined;
    const written = call.node.typeParameters?.params[0];
    const given = second && objectGiven(second, site);
    const untold = given ? untoldPart(given, site.load) : second;
    return {
      object: undefined,
      once: second?.isFunction() ?? false,
      ...(untold ? { untold } : {}),
      value: undefined,
      type: written && !isByDefaults(written, site) ? { node: written, script: site.script } : undefined,
      slots: slotsOfSchema(schema, second, site),
    };
  };
  return hookStateOf(site, { ...madeHook(schemaHookMark, start), isStart: isMadeStart });
}

/** Whether a name stands for the values that a schema’s defaults make: `const BLANK = schemaStart(plotSchema)`. */
function isMadeStart(path: NodePath): boolean {
  const declared = path.isIdentifier() ? path.scope.getBinding(path.node.name)?.path : undefined;
  const made = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : path;
  if (!made.isCallExpression() || made.node.arguments.length !== 1) return false;
  return importOf(made.get('callee') as NodePath)?.name === schemaExports.start;
}

/** Whether a type is nothing but that of the schema's defaults. */
function isByDefaults(type: t.Node, { script }: Pick<FormSite, 'script'>): boolean {
  if (!t.isTSTypeReference(type) || !t.isIdentifier(type.typeName)) return false;
  const { name } = type.typeName;
  if (name === schemaExports.values) return true;
  return script.ast.program.body.some(
    (node) =>
      t.isTSTypeAliasDeclaration(node) && node.id.name === name && isByDefaults(node.typeAnnotation, { script }),
  );
}
