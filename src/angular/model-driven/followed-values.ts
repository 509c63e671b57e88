import type { NodePath } from '@babel/traverse';
import { spanOfNode } from '../../form/code.js';
import { classChain, templateChain, type Chain } from '../chains.js';
import { initialNode } from '../class-reading.js';
import { allUse, fieldUse } from '../uses.js';
import { fieldAt, reading, refer, type Draft } from './bound-controls.js';
import { spanIn } from './template-spans.js';

/** The text of a member that follows all values of a group as a signal, and whether it leaves out disabled ones. */
function followsAs(text: string, form: string): 'held' | 'shown' | undefined {
  const own = `this\\.${form.replace('$', '\\$')}`;
  const raw = `${own}\\.getRawValue\\(\\)`;
  const mapped = new RegExp(
    `^toSignal\\(${own}\\.valueChanges\\.pipe\\(map\\(\\(\\w*\\)=>${raw}\\)\\),\\{initialValue:${raw}\\}\\)$`,
  );
  if (mapped.test(text)) return 'held';
  return new RegExp(`^toSignal\\(${own}\\.valueChanges,\\{initialValue:${own}\\.value\\}\\)$`).test(text)
    ? 'shown'
    : undefined;
}

/** Finds the members that follow all values as a signal: `toSignal(this.form.valueChanges…)`. */
export function findFollowedValues(draft: Draft): void {
  const { members, script } = draft.site.component;
  for (const member of members.values()) {
    const init = initialNode(member);
    const text = init && script.text.slice(init.start ?? 0, init.end ?? 0).replace(/\s+|,(?=\s*[)}])/g, '');
    const what = text === undefined ? undefined : followsAs(text, draft.form.member.name);
    if (what) draft.follows.set(member.name, { member, what });
  }
}

/** What is asked of the signals that follow all values. */
export function followedUses(draft: Draft): void {
  const { script, template } = draft.site.component;
  for (const { member, what } of draft.follows.values()) {
    const use = (chain: Chain, path?: NodePath): void => {
      const here = reading(chain, draft, path);
      const span = { file: chain.file, start: chain.start, end: chain.links[0]?.end ?? chain.start };
      const end = chain.links[0]?.call ? countOf(chain, draft) : 0;
      if (end === 0) draft.unclear.push({ span, what: member.name, why: 'the signal of all values is handed on' });
      else if (end === 1) draft.uses.push(allUse(here, 1, what));
      else draft.uses.push(fieldUse(here, pathOf(chain, end), end));
    };
    for (const path of member.references) {
      refer(draft, member.name, spanOfNode(script.file, path.node));
      use(classChain(script.file, path, member.name), path);
    }
    for (const name of template.names)
      if (name.name === member.name && !name.variable) {
        refer(draft, member.name, spanIn(draft.site, name));
        use(templateChain(name, template.place));
      }
  }
}

function pathOf({ links }: Chain, count: number): string {
  return links
    .slice(1, count)
    .map(({ key }) => key)
    .join('.');
}

/** How many links of a chain spell a field, the call of the signal among them. */
function countOf(chain: Chain, draft: Draft): number {
  let count = 1;
  for (let at = 2; at <= chain.links.length; at += 1) {
    const link = chain.links[at - 1];
    if (!link || link.call || link.computed) break;
    const found = fieldAt(draft)(pathOf(chain, at).split('.'));
    if (!found) break;
    count = at;
    if (!found.group) break;
  }
  return count;
}
