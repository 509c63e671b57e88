import { codeText, type CodePrinter } from '../form/code-text.js';
import type { Field, FormModel } from '../form/model.js';
import type { WriteContext } from '../form/writing.js';
import type { Item } from '../source/layout.js';

/** A field's initial value as an expression: a function called once is called, or gives way to what it returns. */
export function valueOf(field: Field, printer: CodePrinter): string {
  const { code, text, callable } = field.initial;
  if (callable !== true || !code) return code ? codeText(code, printer) : text;
  const arrow = /^\(\)\s*=>\s*([^{][\s\S]*)$/.exec(text)?.[1];
  if (arrow !== undefined)
    return arrow.replace(/^\(([\s\S]*)\)$/, (whole, inner: string) => (/^[^()]*$/.test(inner) ? inner : whole));
  return /^[\w.$]+$/.test(text) ? `${text}()` : `(${text})()`;
}

/** Whether every value begins as something that is the same at any time. */
export function startsAsConstants(model: FormModel): boolean {
  return model.fields.every((field) => field.initial.when === 'constant');
}

/** The initial values as the properties of one object, with the comments of their declarations. */
export function initialItems(model: FormModel, printer: CodePrinter): Item[] {
  const [place] = model.declarations.map(({ span }) => span).sort((a, b) => a.start - b.start);
  return model.fields.flatMap((field) => {
    if (field.absent) return [];
    const value = valueOf(field, printer);
    const near = field.declared.file === (place?.file ?? '') && field.declared.start - (place?.start ?? 0) < 8;
    const first = near && field === model.fields[0];
    return {
      lead: value === field.name ? '' : `${field.name}: `,
      value,
      commentsBefore: first ? [] : field.commentsBefore,
      commentBehind: field.commentBehind,
    };
  });
}

/** The type of the values, as the file writes its types. */
export function membersText(model: FormModel, name: string, context: WriteContext): string {
  const { indent, semicolon, newline } = context.style;
  const asInterface = /^(export )?interface /m.test(context.text(model.file));
  const members = model.fields
    .map((field) => `${indent}${field.name}${field.absent ? '?' : ''}: ${field.type ?? 'unknown'}${semicolon}`)
    .join(newline);
  return asInterface
    ? `interface ${name} {${newline}${members}${newline}}`
    : `type ${name} = {${newline}${members}${newline}}${semicolon}`;
}
