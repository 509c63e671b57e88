import type { FormModel } from '../form/model.js';
import type { FormSite } from './approach.js';
import { spanOf } from './code.js';

type Frame = Pick<
  FormModel,
  'id' | 'name' | 'component' | 'framework' | 'file' | 'files' | 'line' | 'typescript' | 'span' | 'before' | 'shared'
>;

/** The name of a form: its component's, and behind a colon its own where the component holds several. */
export function nameOfSite(site: FormSite): string {
  if (site.regions.length < 2) return site.component.name;
  const place = site.regions.indexOf(site.region) + 1;
  const hint = site.region.hint?.replace(/^(handle|on)(?=[A-Z])/, '') ?? String(place);
  const clash = site.regions.some((other) => other !== site.region && other.hint === site.region.hint);
  return `${site.component.name}:${clash ? place : hint}`;
}

/** What a model says of the form's place, whatever its approach. */
export function frameOf(site: FormSite): Frame {
  const { script, component } = site;
  const name = nameOfSite(site);
  const statement = component.statement.node;
  const leading = statement.leadingComments ?? [];
  const first = leading.find(
    (comment) =>
      script.text.slice(script.lines.lineStart(comment.start ?? 0), comment.start ?? 0).trim() === '' &&
      followsClosely(script.text, comment.end ?? 0, statement.start ?? 0),
  );
  return {
    id: name,
    name,
    component: component.name,
    framework: 'react',
    file: script.file,
    files: [script.file],
    line: script.lines.lineAt(
      site.region.element && site.regions.length > 1
        ? (site.region.element.node.start ?? 0)
        : (component.path.node.start ?? 0),
    ),
    typescript: script.typescript,
    span: spanOf(script.file, component.statement),
    before: first?.start ?? statement.start ?? 0,
    shared: site.regions.length > 1,
  };
}

/** Whether nothing but comments and single line breaks stands between a comment and what it speaks of. */
function followsClosely(text: string, from: number, to: number): boolean {
  return !/\n[ \t]*\r?\n/.test(text.slice(from, to));
}
