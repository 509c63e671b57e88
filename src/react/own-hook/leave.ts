import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import type { WriteContext } from '../../form/writing.js';
import type { Script } from '../../source/script.js';
import { quoted } from '../../source/style.js';
import type { HeldObject } from '../held-object/held.js';
import { writeHeldObject } from '../holder-writing/write.js';
import { statusDeclarations, takenMembers } from '../status-variables.js';
import { statusMembers, submitLines, submitMember, valueMembers } from '../form-hook/hook-file.js';

/** Whether a form takes more of the project's hook than its values. */
export function takesStatus({ variable }: HeldObject): boolean {
  return [...takenMembers(variable.call).keys()].some((member) => !valueMembers.includes(member));
}

/** Takes a form off the project's hook: values, status and the handler of its submit into the component. */
export function leaveHook(model: FormModel, context: WriteContext, state: HeldObject): RewritePlan {
  const { call } = state.variable;
  const taken = takenMembers(call);
  const submits = taken.has(submitMember);
  const needed = submits ? [statusMembers.errors.setter, statusMembers.submitting.setter] : [];
  const lines = statusDeclarations(call, model, context, needed);
  const edits: RewritePlan['edits'] = [];
  if (submits) {
    const rules = call.get('arguments')[1] as NodePath | undefined;
    const script = context.script(model.file);
    const text = rules ? script.text.slice(rules.node.start ?? 0, rules.node.end ?? 0) : undefined;
    const values = model.holder?.name ?? 'values';
    const asked = text === undefined ? '{}' : `${t.isIdentifier(rules?.node) ? text : `(${text})`}(${values})`;
    const type = model.typescript ? model.holder?.type : undefined;
    const typed = type === undefined ? undefined : { values: type, errors: `Partial<Record<keyof ${type}, string>>` };
    lines.push(styled(named(submitLines(typed, asked), taken), context));
    if (typed) edits.push(...eventImport(script, context));
  }
  const plan = writeHeldObject(model, context, undefined, undefined, { edits: [], lines, adds: [] });
  return plan.ledger.some(({ entry }) => entry === 'by-hand') ? plan : { ...plan, edits: [...plan.edits, ...edits] };
}

/** The import of the event's type, where the file lacks it. */
function eventImport(script: Script, { style }: WriteContext): RewritePlan['edits'] {
  if (script.program.scope.getBinding('FormEvent')) return [];
  const at = script.ast.program.body.find((node) => t.isImportDeclaration(node))?.start ?? 0;
  const line = `import type { FormEvent } from ${quoted('react', style)}${style.semicolon}${style.newline}`;
  return [{ file: script.file, start: at, end: at, text: line }];
}

/** The lines with the component's own names for what the hook gave. */
function named(lines: readonly string[], taken: ReadonlyMap<string, string>): string[] {
  return lines.map((line) =>
    line.replace(/(?<!\.)\b(setErrors|setSubmitting|submit|values)\b(?=\(|\)| =)/g, (name) => taken.get(name) ?? name),
  );
}

function styled(lines: readonly string[], { style }: WriteContext): string {
  return lines
    .map((line, index) => {
      const depth = /^ */.exec(line)?.[0].length ?? 0;
      const text = style.semicolon === '' ? line.trim().replace(/;$/, '') : line.trim();
      // the first line stands where the state stood
      return index === 0 ? text : style.indent + style.indent.repeat(depth / 2) + text;
    })
    .join(style.newline);
}
