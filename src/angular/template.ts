import {
  ASTWithSource,
  BindingType,
  TmplAstBoundEvent,
  ImplicitReceiver,
  ParsedEventType,
  parseTemplate,
  PropertyRead,
  RecursiveAstVisitor,
  ThisReceiver,
  TmplAstBoundText,
  TmplAstElement,
  TmplAstForLoopBlock,
  TmplAstIfBlock,
  TmplAstLetDeclaration,
  TmplAstReference,
  TmplAstTemplate,
  TmplAstVariable,
  type AST,
  type TmplAstNode,
} from '@angular/compiler';
import type {
  TemplatePlace,
  Place,
  TemplateAttribute,
  TemplateVariable,
  TemplateView,
  TemplateElement,
  Template,
  TemplateResult,
} from './template-model.js';

interface Walk {
  place: TemplatePlace;
  found: Template;
}

/**
 * Parses a template.
 * @param place its text and where that stands
 */
export function parseAngularTemplate(place: TemplatePlace): TemplateResult {
  const parsed = parseTemplate(place.text, place.file, {
    preserveWhitespaces: true,
    preserveLineEndings: true,
    collectCommentNodes: true,
  });
  const [error] = parsed.errors ?? [];
  if (error) return { ok: false, problem: { offset: place.base + error.span.start.offset, reason: error.msg } };
  const root: TemplateView = {
    parent: undefined,
    kind: 'root',
    expression: undefined,
    negated: false,
    variables: [],
    index: undefined,
    start: place.base,
    end: place.base + place.text.length,
  };
  const found: Template = {
    place,
    elements: [],
    names: [],
    views: [root],
    variables: [],
    comments: (parsed.commentNodes ?? []).map(({ value }) => value.trim()),
  };
  const walk: Walk = { place, found };
  declare(parsed.nodes, root, walk, undefined);
  visitAll(parsed.nodes, root, undefined, walk);
  return { ok: true, template: found };
}

function moved(walk: Walk, span: { start: { offset: number }; end: { offset: number } }): Place {
  return { start: walk.place.base + span.start.offset, end: walk.place.base + span.end.offset };
}

/** A part of a template that makes its own names, empty at first. */
export function view(
  walk: Walk,
  parent: TemplateView,
  span: { start: { offset: number }; end: { offset: number } },
  kind: TemplateView['kind'],
  expression?: AST | null,
  negated = false,
): TemplateView {
  const made: TemplateView = {
    ...moved(walk, span),
    parent,
    kind,
    expression: expression ?? undefined,
    negated,
    variables: [],
    index: undefined,
  };
  walk.found.views.push(made);
  return made;
}

function addVariable(
  walk: Walk,
  owner: TemplateView,
  node: TmplAstReference | TmplAstVariable | TmplAstLetDeclaration,
  kind: TemplateVariable['kind'],
  over?: AST,
): TemplateVariable {
  const variable: TemplateVariable = {
    ...moved(walk, node.sourceSpan),
    name: node.name,
    kind,
    exportAs: node instanceof TmplAstReference ? node.value : '',
    element: undefined,
    over,
    view: owner,
  };
  owner.variables.push(variable);
  walk.found.variables.push(variable);
  return variable;
}

/** References and `@let`s are visible in their whole view, so they are declared before anything in it is read. */
function declare(nodes: readonly TmplAstNode[], owner: TemplateView, walk: Walk, within: undefined): void {
  for (const node of nodes) {
    if (node instanceof TmplAstElement) {
      for (const reference of node.references) addVariable(walk, owner, reference, 'reference');
      declare(node.children, owner, walk, within);
    } else if (node instanceof TmplAstLetDeclaration) addVariable(walk, owner, node, 'let');
    else if (node instanceof TmplAstTemplate && node.tagName === 'ng-template')
      for (const reference of node.references) addVariable(walk, owner, reference, 'reference');
    else if ('children' in node && node.constructor.name.startsWith('Content'))
      declare(node.children as TmplAstNode[], owner, walk, within);
  }
}

function visitAll(
  nodes: readonly TmplAstNode[],
  owner: TemplateView,
  parent: TemplateElement | undefined,
  walk: Walk,
): void {
  for (const node of nodes) visit(node, owner, parent, walk);
}

function visit(node: TmplAstNode, owner: TemplateView, parent: TemplateElement | undefined, walk: Walk): void {
  if (node instanceof TmplAstElement) return visitElement(node, owner, parent, walk);
  if (node instanceof TmplAstTemplate) return visitTemplate(node, owner, parent, walk);
  if (node instanceof TmplAstBoundText) return namesIn(node.value, owner, walk, { element: parent });
  if (node instanceof TmplAstIfBlock) {
    const before: AST[] = [];
    for (const branch of node.branches) {
      if (branch.expression) namesIn(branch.expression, owner, walk, { element: parent });
      // an `@else` alone is the negation of what came before it
      const [only] = before;
      const shown = branch.expression ?? (before.length === 1 ? only : undefined);
      const inner = view(walk, owner, branch.sourceSpan, 'condition', shown, !branch.expression && before.length === 1);
      if (branch.expression && before.length) inner.kind = 'other';
      if (branch.expressionAlias)
        addVariable(walk, inner, branch.expressionAlias, 'alias', branch.expression ?? undefined);
      if (branch.expression) before.push(branch.expression);
      declare(branch.children, inner, walk, undefined);
      visitAll(branch.children, inner, parent, walk);
    }
    return undefined;
  }
  if (node instanceof TmplAstForLoopBlock) {
    const list = node.expression.ast;
    namesIn(node.expression, owner, walk, { element: parent });
    const inner = view(walk, owner, node.sourceSpan, 'row', list);
    addVariable(walk, inner, node.item, 'loop', list);
    for (const variable of node.contextVariables) {
      addVariable(walk, inner, variable, 'let');
      if (variable.value === '$index') inner.index = variable.name;
    }
    namesIn(node.trackBy, inner, walk, { element: parent });
    declare(node.children, inner, walk, undefined);
    visitAll(node.children, inner, parent, walk);
    if (node.empty) {
      const other = view(walk, owner, node.empty.sourceSpan, 'other');
      declare(node.empty.children, other, walk, undefined);
      visitAll(node.empty.children, other, parent, walk);
    }
    return undefined;
  }
  if (node instanceof TmplAstLetDeclaration) return namesIn(node.value, owner, walk, { element: parent });
  visitOther(node, owner, parent, walk);
  return undefined;
}

/** Blocks whose parts are views of their own: switches, deferred blocks, projected content. */
function visitOther(node: TmplAstNode, owner: TemplateView, parent: TemplateElement | undefined, walk: Walk): void {
  const parts = node as unknown as Record<string, unknown>;
  if (isAst(parts['expression'])) namesIn(parts['expression'], owner, walk, { element: parent });
  for (const key of ['cases', 'groups', 'children', 'placeholder', 'loading', 'error']) {
    const value = parts[key];
    for (const child of Array.isArray(value) ? (value as TmplAstNode[]) : value ? [value as TmplAstNode] : []) {
      if (key === 'children') visit(child, owner, parent, walk);
      else {
        const inner = view(walk, owner, child.sourceSpan, 'other');
        const children = (child as unknown as { children?: TmplAstNode[] }).children ?? [];
        if (isAst((child as unknown as { expression?: unknown }).expression))
          namesIn((child as unknown as { expression: AST }).expression, owner, walk, { element: parent });
        declare(children, inner, walk, undefined);
        visitAll(children, inner, parent, walk);
        if (key === 'groups') visitOther(child, owner, parent, walk);
      }
    }
  }
}

function isAst(value: unknown): value is AST {
  return typeof value === 'object' && value !== null && 'visit' in value && 'sourceSpan' in value && 'span' in value;
}

function visitTemplate(
  node: TmplAstTemplate,
  owner: TemplateView,
  parent: TemplateElement | undefined,
  walk: Walk,
): void {
  const bound = node.templateAttrs.filter((attribute) => 'keySpan' in attribute && isAst(attribute.value));
  const condition = bound.find(({ name }) => name === 'ngIf')?.value as ASTWithSource | undefined;
  const list = bound.find(({ name }) => name === 'ngForOf')?.value as ASTWithSource | undefined;
  for (const attribute of [...bound, ...node.inputs]) {
    if (node.tagName !== 'ng-template' && !bound.some((one) => one === attribute)) continue;
    namesIn(attribute.value as AST, owner, walk, { element: parent });
  }
  const kind = condition ? 'condition' : list ? 'row' : 'other';
  const inner = view(walk, owner, node.sourceSpan, kind, condition?.ast ?? list?.ast);
  for (const variable of node.variables) {
    const item = variable.value === '$implicit' && list !== undefined;
    addVariable(walk, inner, variable, item ? 'loop' : 'let', item ? list.ast : undefined);
    if (variable.value === 'index') inner.index = variable.name;
  }
  declare(node.children, inner, walk, undefined);
  visitAll(node.children, inner, parent, walk);
}

function visitElement(
  node: TmplAstElement,
  owner: TemplateView,
  parent: TemplateElement | undefined,
  walk: Walk,
): void {
  const { text, base } = walk.place;
  const open = node.startSourceSpan.end.offset - 1;
  let openEnd = text[open - 1] === '/' ? open - 1 : open;
  while (/\s/.test(text[openEnd - 1] ?? '')) openEnd--;
  const element: TemplateElement = {
    ...moved(walk, node.sourceSpan),
    tag: node.name,
    openEnd: base + openEnd,
    nameEnd: base + node.startSourceSpan.start.offset + 1 + node.name.length,
    attributes: [],
    references: [],
    parent,
    view: owner,
  };
  walk.found.elements.push(element);
  for (const reference of node.references) {
    const variable = owner.variables.find(
      (known) => known.name === reference.name && known.start === base + reference.sourceSpan.start.offset,
    );
    if (!variable) continue;
    variable.element = element;
    element.references.push(variable);
  }
  for (const attribute of node.attributes) {
    const valuePlace = attribute.valueSpan ? moved(walk, attribute.valueSpan) : undefined;
    element.attributes.push({
      ...moved(walk, attribute.sourceSpan),
      kind: 'plain',
      name: attribute.name,
      value: valuePlace ? attribute.value : undefined,
      valuePlace,
      expression: undefined,
    });
  }
  const kinds = { [BindingType.Attribute]: 'attribute', [BindingType.Class]: 'class', [BindingType.Style]: 'style' };
  for (const input of node.inputs) {
    const valuePlace = input.valueSpan ? moved(walk, input.valueSpan) : undefined;
    const attribute: TemplateAttribute = {
      ...moved(walk, input.sourceSpan),
      kind:
        input.type === BindingType.TwoWay
          ? 'two-way'
          : ((kinds[input.type as keyof typeof kinds] as 'attribute' | 'class' | 'style' | undefined) ?? 'property'),
      name: input.name,
      value: valuePlace ? walk.place.text.slice(valuePlace.start - base, valuePlace.end - base) : undefined,
      valuePlace,
      expression: input.value instanceof ASTWithSource ? input.value.ast : input.value,
    };
    element.attributes.push(attribute);
    namesIn(input.value, owner, walk, { element, attribute });
  }
  for (const output of node.outputs) {
    if (output.type === ParsedEventType.TwoWay) continue;
    const attribute = eventAttribute(output, walk);
    element.attributes.push(attribute);
    namesIn(output.handler, owner, walk, { element, attribute, inEvent: true });
  }
  element.attributes.sort((a, b) => a.start - b.start);
  visitAll(node.children, owner, element, walk);
}

function eventAttribute(output: TmplAstBoundEvent, walk: Walk): TemplateAttribute {
  const { base, text } = walk.place;
  const place = moved(walk, output.sourceSpan);
  const handler = moved(walk, output.handlerSpan);
  return {
    ...place,
    kind: 'event',
    name: output.name,
    value: text.slice(handler.start - base, handler.end - base),
    valuePlace: handler,
    expression: output.handler instanceof ASTWithSource ? output.handler.ast : output.handler,
  };
}

/** Finds a template variable that is visible in a view. */
export function variableNamed(name: string, from: TemplateView): TemplateVariable | undefined {
  for (let at: TemplateView | undefined = from; at; at = at.parent) {
    const found = at.variables.find((variable) => variable.name === name);
    if (found) return found;
  }
  return undefined;
}

/** The place of an expression in its file. */
export function placeOf(node: AST, place: TemplatePlace): Place {
  return { start: place.base + node.sourceSpan.start, end: place.base + node.sourceSpan.end };
}

function namesIn(
  expression: AST,
  owner: TemplateView,
  walk: Walk,
  where: { element?: TemplateElement | undefined; attribute?: TemplateAttribute; inEvent?: boolean },
): void {
  const stack: AST[] = [];
  const { found, place } = walk;
  class Names extends RecursiveAstVisitor {
    override visit(node: AST): unknown {
      stack.unshift(node);
      if (node instanceof PropertyRead && isImplicit(node.receiver)) {
        const start = place.base + node.nameSpan.start;
        const end = start + node.name.length;
        const variable = node.receiver instanceof ThisReceiver ? undefined : variableNamed(node.name, owner);
        found.names.push({
          name: node.name,
          start,
          end,
          variable,
          around: [...stack],
          view: owner,
          inEvent: where.inEvent ?? false,
          element: where.element,
          attribute: where.attribute,
        });
      }
      super.visit(node);
      stack.shift();
      return undefined;
    }
  }
  new Names().visit(expression instanceof ASTWithSource ? expression.ast : expression);
}

/** Whether a receiver is the component itself. */
export function isImplicit(node: AST): boolean {
  return node instanceof ImplicitReceiver || node instanceof ThisReceiver;
}
