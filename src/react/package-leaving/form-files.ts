import type { RewritePlan } from '../../form/ledger.js';
import { styleOf } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { newBlock, planOf, type Block } from './block.js';
import type { Leaving } from './leaving.js';

/** The files in which something is said of a form, each once: what is said there, and what comes in besides. */
export interface FormFiles {
  /** The leaving of a component, whose places are said in its own file. */
  leavingOf(site: FormSite): Leaving;
  /** What comes into the file of a leaving. */
  blockOf(own: Leaving): Block;
  /** The edits of all files but the form’s own. */
  edits(): RewritePlan['edits'];
}

/**
 * The files of a form.
 * @param outer the leaving of its own component
 * @param block what comes into that one’s file
 */
export function formFiles(outer: Leaving, block: Block): FormFiles {
  const others = new Map<string, { leaving: Leaving; block: Block }>();
  return {
    leavingOf(site) {
      const { script } = site;
      if (script.file === outer.script.file) return { ...outer, site, outer };
      const context = { ...outer.context, style: styleOf(script.text) };
      const known = others.get(script.file) ?? {
        leaving: { ...outer, site, script, context, said: [], outer },
        block: newBlock(),
      };
      others.set(script.file, known);
      return { ...known.leaving, site };
    },
    blockOf: (own) => others.get(own.script.file)?.block ?? block,
    edits: () => [...others.values()].flatMap((one) => planOf(one.leaving, one.block).edits),
  };
}
