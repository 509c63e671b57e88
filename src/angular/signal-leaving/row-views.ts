import { templateChain } from '../chains.js';
import type { TemplateName, TemplateView } from '../template-model.js';
import type { Leaving } from './leaving.js';

/** The list whose rows a view of the template repeats; undefined where it repeats something else. */
export function listOfRow(view: TemplateView, { component, found, lists }: Leaving): string | undefined {
  const over = component.template.names.find(
    (name) => name.name === found.form.name && !name.variable && isListOf(view, name),
  );
  if (view.kind !== 'row' || !over) return undefined;
  const [, ...links] = templateChain(over, component.template.place).links;
  const path = links.map(({ key }) => key).join('.');
  return lists.find((list) => list.path === path)?.path;
}

/** Whether a name stands in the expression of the list that a view repeats. */
function isListOf({ expression, variables }: TemplateView, { around }: TemplateName): boolean {
  return around.some((node) => node === expression || variables.some(({ over }) => over === node));
}

/** The path of a row as the template says it; undefined where another loop stands between. */
export function rowPath(list: string, at: TemplateView, leaving: Leaving): string | undefined {
  let view: TemplateView | undefined = at;
  while (view && view.kind !== 'row') view = view.parent;
  if (!view || listOfRow(view, leaving) !== list) return undefined;
  return `'${list}.' + ${view.index ?? '$index'}`;
}

/** Whether a loop only tells its rows apart by a name. */
export function isTracked({ start }: TemplateName, { component }: Leaving): boolean {
  const { text, base } = component.template.place;
  return /\btrack\s+$/.test(text.slice(0, start - base));
}

/** Whether a name stands for the list that a loop runs over. */
export function isLoop(name: TemplateName, leaving: Leaving): boolean {
  const { views } = leaving.component.template;
  return views.some((view) => view.kind === 'row' && isListOf(view, name));
}
