import type { NodePath } from '@babel/traverse';
import { classChain, templateChain, type Chain } from './chains.js';
import type { AngularComponent } from './component.js';
import {
  isIdentity,
  isToldApart,
  parameterAt,
  rowParameter,
  trackMethods,
  type Loop,
  type RowParameter,
} from './rows.js';
import type { TemplateName } from './template-model.js';

/** A list with the loops that repeat its rows, and the types that are written where a row is a parameter. */
export interface NamedRows {
  loops: Loop[];
  typed: { start: number; end: number }[];
}

/** What is made of the places that speak of a row by a name. */
export interface RowNames<List extends NamedRows> {
  /** Whether a name only places a control, or ties it to its row. */
  isBinding(name: TemplateName): boolean;
  /** A chain that begins with the name of a row. */
  use(chain: Chain, list: List, path?: NodePath): void;
  /** A row that is handed on to code that cannot be followed. */
  lost(chain: Chain, list: List): void;
}

/** Finds every place that speaks of a row by a name: a loop's variable, or a parameter that is given one. */
export function eachRowName<List extends NamedRows>(
  component: AngularComponent,
  lists: readonly List[],
  { isBinding, use, lost }: RowNames<List>,
): void {
  const { script } = component;
  const { names, place } = component.template;
  const followed = new Set<string>();
  const isAlone = ({ links }: Chain): boolean => links.length === 1 && !links[0]?.call;
  for (const list of lists) {
    const follow = (given: RowParameter | undefined, tracks = false): boolean => {
      if (!given) return false;
      const id = `${given.member.name}:${given.name}`;
      if (followed.has(id)) return true;
      followed.add(id);
      if (given.type) list.typed.push(given.type);
      for (const path of given.references) {
        const chain = classChain(script.file, path, given.name);
        if (!isAlone(chain) || !isIdentity(path, tracks)) use(chain, list, path);
      }
      return true;
    };
    for (const name of names) {
      if (!list.loops.some(({ variable }) => variable === name.variable) || isBinding(name)) continue;
      if (isToldApart({ start: name.start - place.base, end: name.end - place.base }, place.text)) continue;
      const chain = templateChain(name, place);
      if (!isAlone(chain)) use(chain, list);
      else if (!follow(rowParameter(name, component))) lost(chain, list);
    }
    for (const { method } of trackMethods(component, list.loops)) follow(parameterAt(method, 1, component), true);
  }
}
