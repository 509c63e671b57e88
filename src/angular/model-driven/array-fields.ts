import { spanOfNode } from '../../form/code.js';
import * as t from '@babel/types';
import type { Field, RowList } from '../../form/model.js';
import type { Rule } from '../../form/rules.js';
import { conditionOf, ruleKindOf } from '../../rules/native.js';
import type { LoadScript } from '../../source/project-files.js';
import { expandedType, typeMembers } from '../../source/type-members.js';
import { typeOfValue } from '../class-reading.js';
import { attributeOf, kindOfElement, plainText, type AngularSite } from '../form-site.js';
import type { Loop } from '../rows.js';
import type { TemplateElement } from '../template-model.js';
import type { BuiltControl } from './structure.js';
import { type FoundArray, placingAttributes } from './array-links.js';

/** The list's own field and the fields of its rows. */
export function arrayFields(
  found: FoundArray,
  elements: ReadonlyMap<string, TemplateElement>,
  load: LoadScript,
): Field[] {
  const { array, field, controls } = found;
  const declared = spanOfNode(array.script.file, array.node);
  const items = array.items && { ...spanOfNode(array.script.file, array.items), holes: [] };
  const common = { role: 'field' as const, commentsBefore: [], commentBehind: undefined };
  const list: Field = {
    ...common,
    name: field,
    kind: 'list of rows',
    type: undefined,
    typeWritten: false,
    initial: {
      code: items,
      text: items ? array.script.text.slice(items.start, items.end) : '[]',
      when: 'constant',
    },
    names: { value: field },
    declared,
    resets: 'initial',
  };
  const rows = [...controls].map(([key, control]): Field => {
    const element = elements.get(`${field}[].${key}`);
    const inferred =
      control.type ??
      typeOfValue(control.initial) ??
      parameterType(control, found, load) ??
      (element && (!control.initial || t.isNullLiteral(control.initial)) ? ofElement(element) : undefined);
    const { script } = control;
    return {
      ...common,
      name: `${field}[].${key}`,
      kind: (element && kindOfElement(element)) ?? 'other',
      type: inferred,
      typeWritten: control.type !== undefined,
      initial: {
        code: control.initial ? { ...spanOfNode(script.file, control.initial), holes: [] } : undefined,
        text: control.initial ? script.text.slice(control.initial.start ?? 0, control.initial.end ?? 0) : 'null',
        when: 'constant',
      },
      names: { value: key },
      declared: spanOfNode(script.file, control.node),
      resets: control.nonNullable ? 'initial' : 'null',
    };
  });
  return [list, ...rows];
}

/** The type of `post.id` where a row is built from a parameter `post` whose type is written. */
function parameterType({ initial, script }: BuiltControl, array: FoundArray, load: LoadScript): string | undefined {
  const member = t.isMemberExpression(initial) && !initial.computed ? initial : undefined;
  const name = t.isIdentifier(member?.object) ? member.object.name : t.isIdentifier(initial) ? initial.name : undefined;
  const around = array.built[0]?.path.findParent((one) => one.isFunction() || one.isClassMethod());
  const parameters = around?.isFunction() ? around.node.params : [];
  const found = parameters.find((one) =>
    t.isIdentifier(t.isAssignmentPattern(one) ? one.left : one, { name: name ?? '' }),
  );
  const parameter = t.isAssignmentPattern(found) ? found.left : found;
  const annotation = t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
  if (!t.isTSTypeAnnotation(annotation))
    return t.isAssignmentPattern(found) && !member ? typeOfValue(found.right) : undefined;
  const { typeAnnotation: type } = annotation;
  if (!member) return script.text.slice(type.start ?? 0, type.end ?? 0);
  const key = t.isIdentifier(member.property) ? member.property.name : '';
  return typeMembers({ node: type, script }, load).get(key)?.text;
}

function ofElement(element: TemplateElement): string | undefined {
  const kind = kindOfElement(element);
  if (kind === 'number' || kind === 'boolean') return kind;
  return kind === undefined || kind === 'file' || kind === 'many choices' ? undefined : 'string';
}

/** The rules of a list as a whole, and those of its rows' controls. */
export function rowRules(found: FoundArray): Rule[] {
  const { array, field } = found;
  const rule = (
    name: string,
    { constraint, start, end }: BuiltControl['rules'][number],
    file: string,
    moment: Rule['moment'],
  ): Rule => ({
    fields: [name],
    kind: ruleKindOf(constraint),
    condition: conditionOf(constraint),
    message: undefined,
    moment,
    stated: 'angular-validators',
    span: { file, start, end },
    constraint,
  });
  return [
    ...array.rules.map((one) => rule(field, one, array.script.file, 'change')),
    ...[...found.controls].flatMap(([key, control]) =>
      control.rules.map((one) => rule(`${field}[].${key}`, one, control.script.file, control.updateOn ?? 'change')),
    ),
  ];
}

/** An array as the model says it; types of results that are a row's group are among its typed places. */
export function modelArray(found: FoundArray, site: AngularSite): RowList {
  const { script, template } = site.component;
  const results = found.built.flatMap(({ path }) => {
    const around = path.findParent((one) => one.isFunction() || one.isClassMethod());
    const node = around?.node;
    const annotation = node && 'returnType' in node ? node.returnType : undefined;
    return t.isTSTypeAnnotation(annotation) && speaksOfGroups(annotation.typeAnnotation, site)
      ? [spanOfNode(script.file, annotation.typeAnnotation)]
      : [];
  });
  const typed = [...found.typed.map((place) => ({ file: script.file, ...place })), ...results];
  return {
    field: found.field,
    item: found.loops[0]?.variable.name ?? 'row',
    type: undefined,
    typed: typed.filter((one, index) => typed.findIndex(({ start }) => start === one.start) === index),
    loops: found.loops.map(({ list, index, indexAt }) => ({
      list: { file: template.place.file, ...list },
      index,
      indexAt,
    })),
    attributes: placingAttributes(found, site),
  };
}

function speaksOfGroups(type: t.TSType, { component: { script }, load }: AngularSite): boolean {
  const words = /FormGroup|AbstractControl/;
  if (words.test(script.text.slice(type.start ?? 0, type.end ?? 0))) return true;
  const { node, script: from } = expandedType({ node: type, script }, load);
  return words.test(from.text.slice(node.start ?? 0, node.end ?? 0));
}

/** The key that an element of a row binds: `formControlName="kilos"` or `[formControl]="line.controls.kilos"`. */
export function keyOfElement(element: TemplateElement, loop: Loop): string | undefined {
  const named = plainText(element, 'formControlName');
  if (named !== undefined) return named;
  const direct = attributeOf(element, 'formControl', 'property')?.value ?? '';
  const found = new RegExp(
    `^\\s*${loop.variable.name}(?:\\.controls(?:\\.(\\w+)|\\[['"]([\\w-]+)['"]\\])|\\.get\\(['"]([\\w-]+)['"]\\)!?)\\s*$`,
  ).exec(direct);
  const indexed = /\.(?:at\(\s*(\$?\w+)\s*\)|controls\[\s*(\$?\w+)\s*\])\.controls\.(\w+)\s*$/.exec(direct);
  if (indexed && (indexed[1] ?? indexed[2]) === loop.index) return indexed[3];
  return found?.[1] ?? found?.[2] ?? found?.[3];
}
