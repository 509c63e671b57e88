import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { componentsOf, type Component } from '../components.js';
import { callsOf } from '../hook-calls.js';
import { attributesOf } from '../jsx-controls.js';
import { componentOf, drawnOf, drawsOne, isUntold } from './drawn-components.js';
import { declaredBy } from './hook-form.js';
import { membersTaken, type Members } from './members.js';
import { walk } from '../../source/traverse.js';

/** How a package hands its form on to components further down. */
export interface HandsOn {
  module: string;
  /** The hook by which they take it. */
  hook: string;
  /** The element of the package inside of which they find it. */
  provider: string;
  /** Whether a component takes one field alone, which its elements name: it is given that otherwise. */
  takesField(component: Placed): boolean;
  /** Whether elements of the package find the form by themselves, so that who draws one speaks of it. */
  draws: boolean;
}

/** A member of the form, or the form itself, that a component is handed as a property. */
export interface Handed {
  attribute: NodePath;
  property: NodePath<t.ObjectProperty>;
  /** What the form’s own component names by it. */
  value: t.Node;
}

/** A component that is handed the form, by the package’s context or by properties, where it stands in the page of the form. */
export interface ContextPart {
  /** The site of the form with the component in place of its own. */
  site: FormSite;
  component: Component & { kind: 'function' };
  /** `useFormContext()`, declared as a constant. */
  made: NodePath<t.CallExpression> | undefined;
  handed: Handed[];
  taken: Members;
  drawn: NodePath<t.JSXElement>[];
}

/** The elements by which a form is handed on: `<FormProvider {...methods}>`. */
export function providersIn({ component }: FormSite, { module, provider }: HandsOn): NodePath<t.JSXElement>[] {
  return drawnOf(component.path, module).flatMap(({ element, name }) => (name === provider ? [element] : []));
}

/**
 * Components of the page that are handed the form, and elements whose components take it out of the context further down.
 */
export function contextParts(
  site: FormSite,
  form: { taken: Members },
  hands: HandsOn,
  /** An element of the package that holds the form itself. */
  holder?: NodePath<t.JSXElement>,
): { parts: ContextPart[]; deeper: NodePath<t.JSXElement>[] } {
  const parts = new Map<t.Node, ContextPart>();
  const deeper: NodePath<t.JSXElement>[] = [];
  const provided = [...providersIn(site, hands), ...(holder ? [holder] : [])];
  walk(site.component.path, {
    JSXElement(element) {
      const placed = componentOf(element, site);
      const isProvided = provided.some(({ node }) => element.findParent((one) => one.node === node));
      if (isProvided && isUntold(element, site)) deeper.push(element);
      if (!placed || placed.path.node === site.component.path.node) return;
      // it is given one field for each of its elements
      if (hands.takesField(placed)) return;
      const known = parts.get(placed.path.node);
      if (known) {
        known.drawn.push(element);
        return;
      }
      const [made, ...more] = isProvided ? contextCalls(placed, hands) : [];
      const speaks = (one: Placed): boolean =>
        contextCalls(one, hands).length > 0 || (hands.draws && drawnOf(one.path, hands.module).length > 0);
      const takes = isProvided && drawsOne(placed, site, speaks);
      const draws = isProvided && hands.draws && drawnOf(placed.path, hands.module).length > 0;
      const declared = made && declaredBy(made);
      const { handed, taken } = handedBy(element, placed, form);
      if (!made && !takes && !draws && (!handed.length || followsAlone(handed, placed, hands))) return;
      const component = componentsOf(placed.script).find(({ path }) => path.node === placed.path.node);
      if (more.length || (made && !declared) || takes || component?.kind !== 'function') {
        deeper.push(element);
        return;
      }
      parts.set(placed.path.node, {
        site: { ...site, script: placed.script, component },
        component,
        made,
        handed,
        taken: joined([...(declared ? [membersTaken(declared.target)] : []), ...taken]),
        drawn: [element],
      });
    },
  });
  return { parts: [...parts.values()], deeper };
}

function joined(all: readonly Members[]): Members {
  return {
    places: all.flatMap(({ places }) => places),
    locals: new Map(all.flatMap(({ locals }) => [...locals])),
    patterns: all.flatMap(({ patterns }) => patterns),
    unclear: all.flatMap(({ unclear }) => unclear),
  };
}

/** What an element hands its component of the form, where that takes it by names; nothing where one of them is taken otherwise. */
function handedBy(
  element: NodePath<t.JSXElement>,
  { path }: Placed,
  { taken }: { taken: Members },
): { handed: Handed[]; taken: Members[] } {
  const none = { handed: [], taken: [] };
  const [props] = path.isFunction() ? (path.get('params') as NodePath[]) : [];
  const handed: Handed[] = [];
  const members: Members[] = [];
  for (const { name, path: attribute, value } of attributesOf(element)) {
    const member = taken.places.find((one) => one.path.node === value?.node)?.member;
    const isWhole = taken.unclear.some(({ node }) => node === value?.node);
    if (!value || (member === undefined && !isWhole)) continue;
    const property = props?.isObjectPattern()
      ? props
          .get('properties')
          .find((one) => one.isObjectProperty() && t.isIdentifier(one.node.key, { name }) && !one.node.computed)
      : undefined;
    const local = property?.isObjectProperty() ? (property.get('value') as NodePath) : undefined;
    if (!property?.isObjectProperty() || !local?.isIdentifier()) return none;
    handed.push({ attribute, property, value: value.node });
    const places = local.scope.getBinding(local.node.name)?.referencePaths ?? [];
    if (member === undefined) members.push(membersTaken(local));
    else
      members.push({
        places: places.map((one) => ({ member, path: one, local: local.node.name })),
        locals: new Map([[member, local.node.name]]),
        patterns: [],
        unclear: [],
      });
  }
  return { handed, taken: members };
}

/** Whether a component only follows values by the form’s control: it is given the values, as they are. */
function followsAlone(handed: readonly Handed[], { path }: Placed, { module }: HandsOn): boolean {
  const names = new Set(callsOf(path, module).map(({ name }) => name));
  return handed.length === 1 && names.size === 1 && names.has('useWatch');
}

/** The calls by which a function takes the form out of the context. */
function contextCalls({ path }: Placed, { module, hook }: HandsOn): NodePath<t.CallExpression>[] {
  return callsOf(path, module).flatMap(({ call, name }) => (name === hook ? [call] : []));
}
