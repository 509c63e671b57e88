import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FormSite } from '../approach.js';
import { functionAround, functionOf, type FunctionPath } from '../components.js';
import { isReactHook } from '../hook-calls.js';
import type { PageField } from './page-fields.js';
import { walk } from '../../source/traverse.js';

/** A place that asks the page for a value, sets one, or puts the form back. */
export type PageUse =
  | { kind: 'read'; field: PageField; path: NodePath; as: 'value' | 'checked' | 'number' | 'sent' | 'has' | 'some' }
  | { kind: 'set'; field: PageField; path: NodePath; value: NodePath }
  | { kind: 'all'; path: NodePath }
  | { kind: 'reset'; path: NodePath }
  | { kind: 'unclear'; path: NodePath; why: string };

/** What is known of the names in a form's functions. */
interface Known {
  site: FormSite;
  fields: readonly PageField[];
  uses: PageUse[];
  /** Declarations that only take the page's objects: they go. */
  gone: NodePath[];
}

function bare(path: NodePath): NodePath {
  if (path.isTSAsExpression() || path.isTSNonNullExpression() || path.isParenthesizedExpression())
    return bare(path.get('expression') as NodePath);
  return path;
}

/** The path around casts and assertions. */
function outermost(path: NodePath, isSpare: (type: t.TSType) => boolean = () => true): NodePath {
  let at = path;
  while (
    at.parentPath &&
    ((at.parentPath.isTSAsExpression() && isSpare(at.parentPath.node.typeAnnotation)) ||
      at.parentPath.isTSNonNullExpression() ||
      at.parentPath.isParenthesizedExpression())
  )
    at = at.parentPath;
  return at;
}

/** Whether a type says no more of a value than that the page keeps texts. */
function isPageType(type: t.TSType): boolean {
  if (t.isTSUnionType(type)) return type.types.every(isPageType);
  if (t.isTSStringKeyword(type) || t.isTSNullKeyword(type) || t.isTSUndefinedKeyword(type)) return true;
  if (t.isTSArrayType(type)) return isPageType(type.elementType);
  return (
    t.isTSTypeReference(type) &&
    t.isIdentifier(type.typeName) &&
    /^(?:FormDataEntryValue|HTML\w*|RadioNodeList)$/.test(type.typeName.name)
  );
}

/** Whether an expression is the form's element, as its submit's event tells it. */
function isForm(path: NodePath, handlers: readonly FunctionPath[], formRef: string | undefined, depth = 0): boolean {
  const node = bare(path);
  if (node.isIdentifier()) {
    const binding = node.scope.getBinding(node.node.name);
    const init = binding?.path.isVariableDeclarator() ? (binding.path.get('init') as NodePath) : undefined;
    return depth < 3 &&
      binding?.constant === true &&
      init?.node !== undefined &&
      init.node !== null &&
      t.isIdentifier((binding.path.node as t.VariableDeclarator).id)
      ? isForm(init, handlers, formRef, depth + 1)
      : false;
  }
  if (!node.isMemberExpression() && !node.isOptionalMemberExpression()) return false;
  const { object, property } = node.node;
  if (!t.isIdentifier(property)) return false;
  if (property.name === 'current') return t.isIdentifier(object) && object.name === formRef;
  if (!/^(target|currentTarget)$/.test(property.name) || !t.isIdentifier(object)) return false;
  const fn = functionAround(node);
  const binding = node.scope.getBinding(object.name);
  return (
    binding?.kind === 'param' &&
    handlers.some((handler) => handler.node === binding.scope.path.node || handler.node === fn?.node)
  );
}

/** Every place of the component that asks the page for a value of the form. */
export function pageUses(
  site: FormSite,
  fields: readonly PageField[],
  handlers: readonly FunctionPath[],
): { uses: PageUse[]; gone: NodePath[] } {
  const known: Known = { site, fields, uses: [], gone: [] };
  const formRef = refVariable(site);
  const component = site.component.path as NodePath;
  walk(component, {
    NewExpression(path) {
      if (!t.isIdentifier(path.node.callee, { name: 'FormData' })) return;
      const [given] = path.get('arguments') as (NodePath | undefined)[];
      if (given && isForm(given, handlers, formRef)) formDataUses(path, known);
    },
    'MemberExpression|OptionalMemberExpression'(path: NodePath) {
      if (!path.isMemberExpression() && !path.isOptionalMemberExpression()) return;
      const object = path.get('object') as NodePath;
      if (isForm(object, handlers, formRef)) formMember(path, known);
    },
  });
  for (const field of fields) if (field.ref !== undefined) refUses(field, known);
  const first = known.uses.find(({ kind }) => kind === 'all' || kind === 'read' || kind === 'reset');
  if (!first) known.uses.push({ kind: 'unclear', path: component, why: 'nothing in it asks the page for its values' });
  return { uses: known.uses, gone: known.gone };
}

/** The component's variable that refers to the form's element. */
function refVariable(site: FormSite): string | undefined {
  const attributes = site.region.element?.node.openingElement.attributes ?? [];
  for (const one of attributes)
    if (
      t.isJSXAttribute(one) &&
      one.name.name === 'ref' &&
      t.isJSXExpressionContainer(one.value) &&
      t.isIdentifier(one.value.expression)
    )
      return one.value.expression.name;
  return undefined;
}

function fieldNamed(name: string, { fields }: Known): PageField | undefined {
  return (
    fields.find((field) => field.name === name) ??
    fields.find(({ controls }) =>
      controls.some((one) => one.attributes.some((a) => a.name === 'id' && a.text === name)),
    )
  );
}

/** What is asked of a `FormData` of the form. */
function formDataUses(path: NodePath<t.NewExpression>, known: Known): void {
  const holder = path.parentPath;
  if (fromEntries(path, known)) return;
  if (!holder.isVariableDeclarator() || !t.isIdentifier(holder.node.id)) {
    if (holder.isMemberExpression()) dataMember(path, known);
    else known.uses.push({ kind: 'unclear', path, why: 'the form’s data is handed on as a whole' });
    return;
  }
  known.gone.push(holder);
  for (const reference of holder.scope.getBinding(holder.node.id.name)?.referencePaths ?? [])
    dataMember(reference, known);
}

function fromEntries(path: NodePath, known: Known): boolean {
  let at: NodePath = path;
  const member = at.parentPath;
  if (
    member?.isMemberExpression() &&
    at.key === 'object' &&
    t.isIdentifier(member.node.property, { name: 'entries' }) &&
    member.parentPath.isCallExpression()
  )
    at = member.parentPath;
  const call = at.parentPath;
  if (!call?.isCallExpression() || at.listKey !== 'arguments') return false;
  const { callee } = call.node;
  const isIt =
    t.isMemberExpression(callee) &&
    t.isIdentifier(callee.object, { name: 'Object' }) &&
    t.isIdentifier(callee.property, { name: 'fromEntries' });
  if (isIt) known.uses.push({ kind: 'all', path: outermost(call) });
  return isIt;
}

/** `data.get('town')`, `data.has('waxed')`, `Object.fromEntries(data)`. */
function dataMember(reference: NodePath, known: Known): void {
  if (fromEntries(reference, known)) return;
  const member = reference.parentPath;
  const call = member?.parentPath;
  const method = member?.isMemberExpression() && t.isIdentifier(member.node.property) ? member.node.property.name : '';
  const [name] = call?.isCallExpression() && member?.key === 'callee' ? call.node.arguments : [];
  const field = t.isStringLiteral(name) ? fieldNamed(name.value, known) : undefined;
  const together = field?.kind === 'list';
  if (!call || !field || !(together ? /^(getAll|has)$/ : /^(get|has)$/).test(method)) {
    known.uses.push({ kind: 'unclear', path: call ?? reference, why: 'what is asked of the form’s data is not clear' });
    return;
  }
  if (method === 'has') {
    known.uses.push({ kind: 'read', field, path: call, as: together ? 'some' : 'has' });
    return;
  }
  // a cast to a type of the author's stays
  const whole = outermost(call, isPageType);
  const outer = whole.parentPath;
  // a checked control sends its value, an unchecked one nothing
  if (field.kind === 'checked') {
    if (outer?.isBinaryExpression() && whole.key === 'left' && /^[!=]==?$/.test(outer.node.operator)) {
      const { right, operator } = outer.node;
      const isSent = t.isStringLiteral(right, { value: field.sent });
      const isNull = t.isNullLiteral(right);
      if ((isSent && operator.startsWith('=')) || (isNull && operator.startsWith('!'))) {
        known.uses.push({ kind: 'read', field, path: outer, as: 'checked' });
        return;
      }
    }
    if (
      (outer?.isCallExpression() && t.isIdentifier(outer.node.callee, { name: 'Boolean' })) ||
      doubleNegation(outer)
    ) {
      const place = outer?.isCallExpression() ? outer : (outer?.parentPath as NodePath);
      known.uses.push({ kind: 'read', field, path: place, as: 'checked' });
      return;
    }
    known.uses.push({ kind: 'read', field, path: whole, as: 'sent' });
    return;
  }
  known.uses.push({ kind: 'read', field, path: whole, as: 'value' });
}

function doubleNegation(path: NodePath | null | undefined): boolean {
  return path?.isUnaryExpression({ operator: '!' }) === true && path.parentPath.isUnaryExpression({ operator: '!' });
}

/** `form.elements.town.value`, `form.town.value`, `form[0].value`, `form.reset()`. */
function formMember(path: NodePath<t.MemberExpression> | NodePath<t.OptionalMemberExpression>, known: Known): void {
  const { property, computed } = path.node;
  const key = keyOf(property, computed);
  if (key === 'reset' && (path.parentPath?.isCallExpression() || path.parentPath?.isOptionalCallExpression())) {
    known.uses.push({ kind: 'reset', path: path.parentPath });
    return;
  }
  if (key === 'elements') return elementsUse(path, known);
  if (
    key !== undefined &&
    /^(checkValidity|reportValidity|requestSubmit|querySelector|contains|closest|dataset|id|className|scrollIntoView)$/.test(
      key,
    )
  ) {
    if (/^(querySelector)$/.test(key)) known.uses.push({ kind: 'unclear', path, why: 'the page is searched here' });
    return;
  }
  controlUse(path, key, known);
}

function keyOf(property: t.Node, computed: boolean): string | undefined {
  if (!computed && t.isIdentifier(property)) return property.name;
  if (t.isStringLiteral(property)) return property.value;
  return t.isNumericLiteral(property) ? String(property.value) : undefined;
}

/** What is taken out of `form.elements`. */
function elementsUse(path: NodePath, known: Known): void {
  const whole = outermost(path);
  const outer = whole.parentPath;
  if (outer?.isVariableDeclarator()) {
    const { id } = outer.node;
    if (t.isObjectPattern(id)) {
      known.gone.push(outer);
      for (const property of id.properties) {
        if (!t.isObjectProperty(property) || !t.isIdentifier(property.value)) continue;
        const name = keyOf(property.key, property.computed);
        for (const reference of outer.scope.getBinding(property.value.name)?.referencePaths ?? [])
          controlUse(reference, name, known);
      }
      return;
    }
    if (t.isIdentifier(id)) {
      known.gone.push(outer);
      for (const reference of outer.scope.getBinding(id.name)?.referencePaths ?? []) elementsUse(reference, known);
      return;
    }
  }
  if (outer?.isMemberExpression() && whole.key === 'object') {
    const { property, computed } = outer.node;
    const call = outer.parentPath;
    if (t.isIdentifier(property, { name: 'namedItem' }) && call.isCallExpression()) {
      const [name] = call.node.arguments;
      controlUse(call, t.isStringLiteral(name) ? name.value : undefined, known);
    } else controlUse(outer, keyOf(property, computed), known);
    return;
  }
  known.uses.push({ kind: 'unclear', path, why: 'all controls are handed on together' });
}

/** What is asked of one control: its value, its checked state, or something that only the page knows. */
function controlUse(path: NodePath, key: string | undefined, known: Known): void {
  const index = key !== undefined && /^\d+$/.test(key) ? Number(key) : undefined;
  const field =
    index === undefined
      ? fieldNamed(key ?? '', known)
      : known.fields.find(({ controls }) => controls.includes(allControls(known)[index] as never));
  const whole = outermost(path);
  if (!field) {
    known.uses.push({ kind: 'unclear', path: whole, why: 'which control is meant is not clear' });
    return;
  }
  valueUse(whole, field, known);
}

function allControls({ fields }: Known): PageField['controls'] {
  return fields
    .flatMap(({ controls }) => controls)
    .sort((a, b) => (a.element.node.start ?? 0) - (b.element.node.start ?? 0));
}

function valueUse(control: NodePath, field: PageField, known: Known): void {
  const member = control.parentPath;
  const asked =
    (member?.isMemberExpression() || member?.isOptionalMemberExpression()) &&
    control.key === 'object' &&
    t.isIdentifier(member.node.property)
      ? member.node.property.name
      : undefined;
  if (member?.isVariableDeclarator() && t.isObjectPattern(member.node.id)) {
    known.uses.push({ kind: 'unclear', path: member, why: 'members of the control are taken apart' });
    return;
  }
  if (!member || asked === undefined) {
    // comparing with null or handing the element on needs the page
    known.uses.push({ kind: 'unclear', path: control, why: 'the control itself is handed on' });
    return;
  }
  if (asked === 'value' || asked === 'checked' || asked === 'valueAsNumber') {
    const place = outermost(member, isPageType);
    const outer = place.parentPath;
    if (outer?.isAssignmentExpression({ operator: '=' }) && place.key === 'left') {
      known.uses.push({ kind: 'set', field, path: outer, value: outer.get('right') });
      return;
    }
    const fallback =
      outer?.isLogicalExpression({ operator: '??' }) && place.key === 'left' && member.isOptionalMemberExpression()
        ? outer
        : place;
    if (field.kind === 'list')
      known.uses.push({ kind: 'unclear', path: place, why: 'several controls have this name' });
    else if (asked === 'value' && field.kind === 'checked')
      known.uses.push({ kind: 'unclear', path: place, why: 'the value of a checkbox does not change' });
    else known.uses.push({ kind: 'read', field, path: fallback, as: asked === 'valueAsNumber' ? 'number' : asked });
    return;
  }
  if (!/^(focus|blur|select|scrollIntoView|setCustomValidity|reportValidity|checkValidity|validity)$/.test(asked))
    known.uses.push({ kind: 'unclear', path: member, why: `${asked} is asked of the page’s control` });
  // asked straight of the form, the control is there as before
  else if (field.ref === undefined && control.isIdentifier())
    known.uses.push({
      kind: 'unclear',
      path: member,
      why: `${asked} is asked of the page’s control, which has no ref`,
    });
}

/** What is asked of a control by the component's own reference to it. */
function refUses(field: PageField, known: Known): void {
  const { component } = known.site;
  const binding = component.path.scope.getBinding(field.ref ?? '');
  const call = binding?.path.isVariableDeclarator() ? (binding.path.get('init') as NodePath) : undefined;
  if (!binding || !call?.isCallExpression() || !isReactHook(call, 'useRef')) return;
  let others = 0;
  for (const reference of binding.referencePaths) {
    const member = reference.parentPath;
    if (member?.isJSXExpressionContainer()) continue;
    const isCurrent =
      (member?.isMemberExpression() || member?.isOptionalMemberExpression()) &&
      t.isIdentifier(member.node.property, { name: 'current' });
    if (!isCurrent || !member) {
      known.uses.push({ kind: 'unclear', path: reference, why: 'the reference is handed on' });
      continue;
    }
    const before = known.uses.length;
    const next = outermost(member).parentPath;
    const asked = next?.isMemberExpression() || next?.isOptionalMemberExpression() ? next.node.property : undefined;
    if (t.isIdentifier(asked) && /^(value|checked|valueAsNumber)$/.test(asked.name))
      valueUse(outermost(member), field, known);
    if (known.uses.length === before) others += 1;
  }
  if (!others) known.gone.push(binding.path);
}

/** The functions that a form's events call. */
export function formHandlers(site: FormSite): FunctionPath[] {
  const found: FunctionPath[] = [];
  for (const attribute of site.region.element?.get('openingElement').get('attributes') ?? []) {
    if (!attribute.isJSXAttribute()) continue;
    const value = attribute.get('value');
    const inner = value.isJSXExpressionContainer() ? (value.get('expression') as NodePath) : undefined;
    const fn = inner && functionOf(inner);
    if (fn && /^on(Submit|Reset|Change|Input)$/.test(String(attribute.node.name.name))) found.push(fn);
  }
  return found;
}
