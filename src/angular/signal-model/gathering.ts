import type { Span } from '../../form/code.js';
import type { Unclear } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import type { AngularSite } from '../form-site.js';
import type { Reading } from '../uses.js';
import type { FoundForm, Leaf } from './found-form.js';
import type { TreeList } from './rows.js';

/** What following a form through its class and template gathers. */
export interface Gathering {
  site: AngularSite;
  found: FoundForm;
  leaves: readonly Leaf[];
  lists: readonly TreeList[];
  submits: ReadonlySet<string>;
  uses: Use[];
  unclear: Unclear[];
  references: Map<string, Span[]>;
}

/** Notes the first links of a chain as not understood. */
export function notUnderstood({ chain }: Reading, count: number, why: string, { unclear }: Gathering): void {
  const { file, start, links } = chain;
  const end = links[count - 1]?.end ?? start;
  unclear.push({ span: { file, start, end }, what: links.map(({ key }) => key).join('.'), why });
}
