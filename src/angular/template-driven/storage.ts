import * as t from '@babel/types';
import { linksAlong, templateChain, type Chain } from '../chains.js';
import {
  initialNode,
  initialObject,
  partAt,
  signalArgument,
  writtenType,
  type InitialObject,
  type InitialPart,
} from '../class-reading.js';
import type { AngularSite } from '../form-site.js';
import type { BoundElement } from './controls.js';

/** Where the class keeps a control's value: a member, or keys below one. */
export interface Storage {
  /** Name of the member. */
  root: string;
  keys: string[];
  /** The member is a signal, read by calling it. */
  signal: boolean;
}

/** The storage that a chain spells, if nothing else is asked of it. */
function storageOf(chain: Chain, site: AngularSite): Storage | undefined {
  const [first, ...rest] = chain.links;
  if (!first || !site.component.members.has(first.key)) return undefined;
  if (rest.some(({ call, computed }) => call !== undefined || computed !== undefined)) return undefined;
  const signal = signalArgument(site.component.members.get(first.key)) !== undefined;
  return { root: first.key, keys: rest.map(({ key }) => key), signal };
}

/** The storage that a control's binding names; undefined where it names none, or computes its value. */
export function storageBehind(bound: BoundElement, site: AngularSite): Storage | undefined {
  const { names, place } = site.component.template;
  const first = names.find((name) => name.attribute === bound.model && name.variable === undefined);
  if (!first || !bound.model.valuePlace) return undefined;
  const chain = templateChain(first, place);
  const last = chain.links.at(-1);
  const text = place.text.slice(bound.model.valuePlace.start - place.base, bound.model.valuePlace.end - place.base);
  const covered = place.text.slice(chain.start - place.base, (last?.end ?? 0) - place.base);
  return text.trim().replace(/^this\./, '') === covered.trim() ? storageOf(chain, site) : undefined;
}

/** The objects and members in which a form's values live. */
export interface Stores {
  /** Members that hold an object of values, with what it starts with. */
  objects: Map<string, InitialObject>;
  partOf(storage: Storage): InitialPart | undefined;
}

/** Looks up what the storages start with. */
export function storesOf(storages: readonly Storage[], site: AngularSite): Stores {
  const { component, load } = site;
  const objects = new Map<string, InitialObject>();
  for (const { root, keys } of storages) {
    if (!keys.length || objects.has(root)) continue;
    const member = component.members.get(root);
    const signal = signalArgument(member);
    const value = signal ? signal.value : initialNode(member);
    objects.set(root, initialObject(component, value, signal ? signal.type : writtenType(member), load));
  }
  return {
    objects,
    partOf({ root, keys, signal }) {
      const object = objects.get(root);
      if (keys.length && object) return partAt(component, object, keys, load);
      const member = component.members.get(root);
      const argument = signal ? signalArgument(member) : undefined;
      const written = argument ? argument.type : writtenType(member);
      const node = argument ? argument.value : initialNode(member);
      const optional = t.isClassProperty(member?.node) && member.node.optional === true;
      const { script } = component;
      const text = written ? script.text.slice(written.start ?? 0, written.end ?? 0) : undefined;
      return {
        node,
        script,
        type: text,
        written: written ? { node: written, script } : undefined,
        optional,
      };
    },
  };
}

/** How many links of a chain spell a storage, its signal's call included; 0 where they do not. */
export function linksOf(chain: Chain, storage: Storage): number {
  const [first] = chain.links;
  if (storage.signal && !first?.call) return 0;
  if (!storage.signal && first?.call) return 0;
  return linksAlong(chain, [storage.root, ...storage.keys]);
}
