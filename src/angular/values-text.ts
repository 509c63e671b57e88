import { isRowField, rowFieldParts, type Field } from '../form/model.js';
import type { WriteContext } from '../form/writing.js';
import { laidOut, type Group, type Item } from '../source/layout.js';
import { fieldTree, keyText, type FieldTree } from './writing.js';

function itemsOf(tree: FieldTree, textOf: (field: Field) => Item['value'], context: WriteContext): Item[] {
  return [...tree.children].map(([key, child]): Item => {
    const lead = `${keyText(key, context)}: `;
    if (!child.field) return { lead, value: { open: '{', close: '}', items: itemsOf(child, textOf, context) } };
    return {
      lead,
      value: textOf(child.field),
      commentsBefore: child.field.commentsBefore,
      commentBehind: child.field.commentBehind,
    };
  });
}

/** An object of values as source text. */
export function valuesText(
  fields: readonly Field[],
  textOf: (field: Field) => string,
  context: WriteContext,
  indent: string,
  used: number,
): string {
  const group: Group = { open: '{', close: '}', items: itemsOf(fieldTree(fields), textOf, context) };
  return laidOut(group, context.style, indent, used);
}

/** The interface of a form's values. */
export function interfaceText(name: string, fields: readonly Field[], context: WriteContext): string {
  const { style } = context;
  const own = fields.filter(({ name }) => !isRowField(name));
  const rowsOf = (list: string): Field[] =>
    fields
      .filter(({ name }) => isRowField(name) && rowFieldParts(name).list === list)
      .map((field) => ({ ...field, name: rowFieldParts(field.name).key }));
  const lines = (tree: FieldTree, indent: string): string[] =>
    [...tree.children].flatMap(([key, child]) => {
      const rows = child.field?.kind === 'list of rows' ? rowsOf(child.field.name) : [];
      if (rows.length)
        return [
          `${indent}${keyText(key, context)}: {`,
          ...lines(fieldTree(rows), indent + style.indent),
          `${indent}}[]${style.semicolon || ';'}`,
        ];
      if (child.field) return [`${indent}${keyText(key, context)}: ${typeOf(child.field)}${style.semicolon || ';'}`];
      return [
        `${indent}${keyText(key, context)}: {`,
        ...lines(child, indent + style.indent),
        `${indent}}${style.semicolon || ';'}`,
      ];
    });
  return [`interface ${name} {`, ...lines(fieldTree(own), style.indent), '}'].join(style.newline);
}

/** A field's type as the model's interface says it. */
export function typeOf(field: Field): string {
  const type = field.type ?? { number: 'number', boolean: 'boolean' }[field.kind as string] ?? 'string';
  if (field.initial.text === 'null' && !/\bnull\b/.test(type)) return `${type} | null`;
  if (field.loose === true) return type;
  return field.resets === 'null' && !/\bnull\b/.test(type) && type !== 'any' ? `${type} | null` : type;
}

/** Whether the initial values alone tell every type. */
export function typesAreTold(fields: readonly Field[]): boolean {
  const literal = /^(['"`][\s\S]*['"`]|-?\d[\d_.]*|true|false)$/;
  const named: Record<string, RegExp> = { string: /^['"`]/, number: /^-?\d/, boolean: /^(true|false)$/ };
  return fields.every((field) => {
    const type = typeOf(field);
    return literal.test(field.initial.text) && (named[type]?.test(field.initial.text) ?? false);
  });
}

/**
 * The constant a form starts with and goes back to; a function where parts of it would be shared otherwise.
 * @param start its name, the name of its type, whether the values tell that, and whether a copy of them shares nothing
 * @param values the object at an indent, behind so many columns
 */
export function startDeclaration(
  start: { startName: string; typeName: string; told: boolean; flat: boolean; context: WriteContext },
  values: (indent: string, used: number) => string,
): string {
  const { startName, typeName, told, flat, context } = start;
  const { semicolon } = context.style;
  if (flat) {
    const lead = `const ${startName}${told ? '' : `: ${typeName}`} = `;
    return `${lead}${values('', lead.length + 1)}${semicolon}`;
  }
  const lead = `const ${startName} = ()${told ? '' : `: ${typeName}`} => (`;
  return `${lead}${values('', lead.length + 2)})${semicolon}`;
}
