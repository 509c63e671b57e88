import type { Use } from '../../form/uses.js';
import type { TemplateDraft } from './draft.js';

/** The method that code which follows a field hands its value on to, where it does nothing else. */
export function calledMethod(
  use: Extract<Use, { kind: 'watch' }>,
  { context }: TemplateDraft,
): { name: string; takes: boolean } | undefined {
  const text = context.text(use.code.file).slice(use.code.start, use.code.end);
  const found = /^\(?\s*(\w*)\s*\)?\s*=>\s*this\.(\w+)\(\s*(\w*)\s*\)$/.exec(text);
  if (!found || found[2] === undefined || (found[3] !== '' && found[3] !== found[1])) return undefined;
  return { name: found[2], takes: found[3] !== '' };
}

/** Whether code that follows a field takes its value. */
export function takesValue(use: Extract<Use, { kind: 'watch' }>, { context }: TemplateDraft): boolean {
  return !/^(async\s*)?\(\s*\)/.test(context.text(use.code.file).slice(use.code.start, use.code.end));
}

/** The method that runs when a person changes a field. */
export function watchName(field: string, draft: TemplateDraft): string {
  const last = (field.split('.').at(-1) ?? field).replace(/\W+(\w)/g, (_, letter: string) => letter.toUpperCase());
  const taken = (name: string): boolean => draft.component.members.has(name);
  return (
    [`${last}Changed`, `on${last.charAt(0).toUpperCase()}${last.slice(1)}Change`].find((name) => !taken(name)) ??
    `${last}WasChanged`
  );
}
