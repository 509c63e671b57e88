import { CssSelector, SelectorMatcher } from '@angular/compiler';
import * as t from '@babel/types';
import { spanOfNode, type Span } from '../form/code.js';
import type { LoadScript } from '../source/project-files.js';
import { declarationNamed } from '../source/type-members.js';
import { importsName, type AngularComponent } from './component.js';
import { decoratorNamed, literalText, propertyOf } from './decorators.js';
import type { TemplateElement } from './template-model.js';

/** A directive of the project, with the literal of its selector. */
export interface ProjectDirective {
  name: string;
  selector: string;
  place: Span;
}

/**
 * Directives of the project that no longer apply to some element of a template, as their selectors ask for what the old
 * approach wrote there; and what is left of that approach without the module that knows it.
 */
export function lostDirectives(
  before: AngularComponent,
  after: AngularComponent,
  load: LoadScript,
): { name: string; why: string }[] {
  const lost = directivesOf(before, load).flatMap(({ name, selector }) => {
    const [old, now] = [before, after].map(({ template }) => matched(selector, template.elements));
    return (old ?? 0) > (now ?? 0)
      ? [{ name, why: `${name} applies to ${selector}, which would not be there any more` }]
      : [];
  });
  return [
    ...lost,
    ...orphans(before, after).map((name) => ({ name, why: `${name} would be left without its module` })),
  ];
}

/** The directives of the project that a component, or the module that declares it, brings in. */
export function directivesOf({ home }: AngularComponent, load: LoadScript): ProjectDirective[] {
  if (!home) return [];
  const declared = propertyOf(home.metadata, 'declarations');
  const lists = [home.list, t.isArrayExpression(declared) ? declared : undefined];
  const names = lists.flatMap((list) =>
    (list?.elements ?? []).flatMap((one) => (t.isIdentifier(one) ? [one.name] : [])),
  );
  return names.flatMap((name) => {
    const found = declarationNamed(name, home.script, load);
    const metadata = t.isClassDeclaration(found?.node) ? decoratorNamed(found.node, 'Directive') : undefined;
    const literal = metadata && propertyOf(metadata, 'selector');
    const selector = literalText(literal);
    return !found || !literal || selector === undefined
      ? []
      : [{ name, selector, place: spanOfNode(found.script.file, literal) }];
  });
}

function matched(selector: string, elements: readonly TemplateElement[]): number {
  return matching(selector, elements).length;
}

/** The elements to which a directive of a selector applies. */
export function matching(selector: string, elements: readonly TemplateElement[]): TemplateElement[] {
  const matcher = new SelectorMatcher<string>();
  matcher.addSelectables(CssSelector.parse(selector), selector);
  return elements.filter((element) => {
    const own = new CssSelector();
    own.setElement(element.tag);
    for (const { name, kind, value } of element.attributes) {
      if (kind === 'event') continue;
      own.addAttribute(name, kind === 'plain' ? (value ?? '') : '');
      if (name === 'class' && kind === 'plain') for (const one of (value ?? '').split(/\s+/)) own.addClassName(one);
    }
    return matcher.match(own, null);
  });
}

const modules: [string, RegExp][] = [
  ['FormsModule', /^(?:ngModel|ngModelGroup|ngModelOptions|ngFormOptions|ngForm)$/],
  ['ReactiveFormsModule', /^(?:formControl|formControlName|formGroup|formGroupName|formArrayName)$/],
];

/** Attributes of forms directives whose module was imported by its name, and is no more. */
function orphans(before: AngularComponent, { home, template }: AngularComponent): string[] {
  const names = template.elements.flatMap(({ attributes }) => attributes.map(({ name }) => name));
  const isGone = (module: string): boolean => importsName(before.home, module) && !importsName(home, module);
  const missing = modules.flatMap(([module, own]) => (isGone(module) ? [own] : []));
  return [...new Set(names.filter((name) => missing.some((own) => own.test(name))))];
}
