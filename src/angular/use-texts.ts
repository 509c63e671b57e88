import { codeText, type CodePrinter } from '../form/code-text.js';
import type { Use } from '../form/uses.js';
import type { AngularComponent } from './component.js';
import { isInTemplate } from './use-edits.js';

type Of<Kind extends Use['kind']> = Extract<Use, { kind: Kind }>;
type TextOf<Kind extends Use['kind']> = (use: Of<Kind>, inTemplate: boolean) => string | undefined;

/** Uses that every form of the framework has, and those of rows; the others are of frameworks with setters. */
type Plain = 'read' | 'read-all' | 'set' | 'set-all' | 'reset' | 'ask';
type OfRows = 'rows' | 'change-rows' | 'make-row';

/** What a writer puts in the place of each kind of use; undefined leaves its text, or says that it cannot be said. */
export type UseTexts = { [Kind in Plain]: TextOf<Kind> } & { [Kind in OfRows]?: TextOf<Kind> };

/** What takes the place of a use, by the texts of its writer; undefined for kinds that these do not have. */
export function textOfUse(
  use: Use,
  texts: UseTexts,
  component: AngularComponent,
  inTemplate = isInTemplate(use.span, component),
): string | undefined {
  const byKind: { [Kind in Use['kind']]?: TextOf<Kind> } = texts;
  const write = byKind[use.kind] as ((use: Use, inTemplate: boolean) => string | undefined) | undefined;
  return write?.(use, inTemplate);
}

/** A use whose own text stays, with the uses inside of it written anew. */
export function aroundUses(use: Use, printer: CodePrinter): string {
  return codeText({ ...use.span, holes: [] }, { ...printer, uses: printer.uses.filter((one) => one !== use) });
}

/** A value with the key of the property whose shorthand the use is. */
export function keyed(key: string | undefined, text: string): string {
  return key === undefined ? text : `${key}: ${text}`;
}
