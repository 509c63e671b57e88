import type { Code, Hole, Span } from '../../form/code.js';
import { codeText, type CodePrinter } from '../../form/code-text.js';
import type { FormModel } from '../../form/model.js';
import type { Assignment } from '../../form/uses.js';

/** What a form's changes give its fields, one by one, with the place of the change. */
export function assignmentsOf(model: FormModel): (Assignment & { span: Span })[] {
  return model.uses.flatMap((use) => {
    const assignments =
      use.kind === 'set' || use.kind === 'made-handler'
        ? use.assignments
        : use.kind === 'set-named'
          ? [...use.choices, ...use.rest]
          : [];
    return assignments.map((one) => ({ ...one, span: use.span }));
  });
}

/** Prints code of a model so that reads of fields look the same in every approach: `§kilos`. */
export function printerOf(
  model: FormModel,
  textOf: (file: string) => string,
  named: (name: string) => string,
): CodePrinter {
  const printer: CodePrinter = {
    textOf,
    uses: model.uses,
    use: (use) => (use.kind === 'read' ? `§${named(use.field)}` : undefined),
    hole: (hole) => holeText(hole, named, (code) => codeText(code, printer)),
  };
  return printer;
}

function holeText(hole: Hole, named: (name: string) => string, print: (code: Code) => string): string | undefined {
  const key = 'shorthand' in hole && hole.shorthand !== undefined ? `${hole.shorthand}: ` : '';
  switch (hole.kind) {
    case 'previous':
      return `${key}§${named(hole.field)}`;
    case 'text':
      return key + hole.text;
    case 'given':
      return key + print({ ...hole.code, holes: hole.code.holes.filter((inner) => inner !== hole) }) + hole.suffix;
    default:
      return undefined;
  }
}
