import type { Field, FormModel } from '../../form/model.js';
import { validatorText } from '../../rules/angular-validators.js';
import { laidOut, type Group, type Item } from '../../source/layout.js';
import type { WriteContext } from '../../form/writing.js';
import { fieldTree, keyText, type FieldTree } from '../writing.js';

/** What decides how a field's control is written. */
export interface ControlFacts {
  /** Every reset gives it a value, so it never becomes null. */
  keepsType: boolean;
  initial: string;
  type: string | undefined;
  disabled: boolean;
  comments: { before: string[]; behind: string | undefined };
  /** Rules that stay attributes of the template. */
  staysInTemplate: ReadonlySet<string>;
}

const inferable: Record<string, RegExp> = {
  string: /^(['"`])[\s\S]*\1$/,
  number: /^-?\d[\d_.]*$/,
  boolean: /^(true|false)$/,
};

function withoutNull(type: string): string {
  return type.replace(/\s*\|\s*(null|undefined)\b|\b(null|undefined)\s*\|\s*/g, '').trim();
}

/** The type argument that a control needs, or nothing where its initial value tells it. */
function typeArgument(type: string | undefined, initial: string, nullable: boolean): string {
  if (type === undefined || type === 'any') {
    if (nullable && /^(null|undefined)$/.test(initial)) return '<string | null>';
    return '';
  }
  const bare = withoutNull(type);
  const told = inferable[bare]?.test(initial) ?? false;
  if (told) return '';
  if (!nullable && new RegExp(`^new ${bare}\\(`).test(initial)) return '';
  return nullable ? `<${bare} | null>` : `<${type}>`;
}

function controlGroup(field: Field, facts: ControlFacts, model: FormModel, context: WriteContext): Group | string {
  const rules = model.rules.filter(
    (rule) =>
      rule.fields.length === 1 &&
      rule.fields[0] === field.name &&
      rule.constraint &&
      !facts.staysInTemplate.has(rule.condition),
  );
  const texts = (async: boolean): string[] =>
    rules
      .filter(({ constraint }) => (constraint?.kind === 'custom' && constraint.async) === async)
      .flatMap(({ constraint }) => (constraint ? (validatorText(constraint, context.style) ?? []) : []));
  const validators = texts(false);
  const asyncValidators = texts(true);
  const updateOn = model.controls.find((control) => control.field === field.name)?.binding?.updateOn;
  const nullable = !facts.keepsType || /\bnull\b/.test(facts.type ?? '') || facts.initial === 'null';
  const start = `new FormControl${typeArgument(facts.type, facts.initial, nullable)}(`;
  const value = facts.disabled ? `{ value: ${facts.initial}, disabled: true }` : facts.initial;
  const list = (items: string[]): string | Group =>
    items.length === 1
      ? (items[0] ?? '')
      : { open: '[', close: ']', items: items.map((text) => ({ lead: '', value: text })) };
  const options: Item[] = [];
  if (!nullable) options.push({ lead: 'nonNullable: ', value: 'true' });
  if (validators.length) options.push({ lead: 'validators: ', value: list(validators) });
  if (asyncValidators.length) options.push({ lead: 'asyncValidators: ', value: list(asyncValidators) });
  if (updateOn) options.push({ lead: 'updateOn: ', value: context.style.quote + updateOn + context.style.quote });
  if (!options.length) return `${start}${value})`;
  const onlyRules = nullable && !updateOn;
  if (onlyRules && !asyncValidators.length) {
    const rest = list(validators);
    return typeof rest === 'string'
      ? `${start}${value}, ${rest})`
      : { open: `${start}${value}, [`, close: '])', items: rest.items };
  }
  return { open: `${start}${value}, {`, close: '})', items: options };
}

/**
 * The group of a form's controls as an expression: `new FormGroup({ … })`.
 * @param indent white space of the line it begins on
 * @param used characters that stand before and behind it on its first line
 */
export function groupText(
  model: FormModel,
  fields: readonly Field[],
  factsOf: (field: Field) => ControlFacts,
  context: WriteContext,
  indent: string,
  used: number,
): string {
  const build = (tree: FieldTree): Item[] =>
    [...tree.children].map(([key, child]): Item => {
      const lead = `${keyText(key, context)}: `;
      if (!child.field) return { lead, value: { open: 'new FormGroup({', close: '})', items: build(child) } };
      const facts = factsOf(child.field);
      if (model.lists?.some(({ field }) => field === child.field?.name))
        return {
          lead,
          value: facts.initial,
          commentsBefore: facts.comments.before,
          commentBehind: facts.comments.behind,
        };
      return {
        lead,
        value: controlGroup(child.field, facts, model, context),
        commentsBefore: facts.comments.before,
        commentBehind: facts.comments.behind,
      };
    });
  const updateOn = model.template?.updateOn;
  const close = updateOn ? `}, { updateOn: ${context.style.quote}${updateOn}${context.style.quote} })` : '})';
  const items = build(fieldTree(fields));
  // one control a line reads best, even where all would fit on one
  return laidOut({ open: 'new FormGroup({', close, items }, context.style, indent, items.length > 1 ? 10_000 : used);
}
