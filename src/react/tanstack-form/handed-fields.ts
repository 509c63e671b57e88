import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { attributesOf } from '../jsx-controls.js';
import {
  handedComponent,
  ownComponents,
  type Asked,
  type DrawnComponent,
  type FieldComponent,
} from '../package-leaving/field-components.js';
import { asks } from '../package-leaving/field-controls.js';
import { plainTypes } from '../package-leaving/field-giving.js';
import type { FormFiles } from '../package-leaving/form-files.js';
import { takenProperty } from '../package-leaving/given-props.js';
import { forgetNames } from '../package-leaving/hook-form.js';
import { referencesTo, says, stays, textIn } from '../package-leaving/leaving.js';
import { callOf } from '../package-leaving/members.js';
import { attributeOf, nameText } from '../package-leaving/ties.js';
import { memberType } from '../package-leaving/starts.js';
import { changedAs, sayWords, type FieldWords } from './drawn.js';
import { errorsOf, type TakenApart } from './form.js';

/** Components that are handed a field (`<FieldInfo field={field} />`) are given what they ask of it. */
export function sayHandedFields(apart: TakenApart, files: FormFiles): FieldComponent[] {
  const { leaving, handed } = apart;
  const said = new Set<t.Node>();
  const parts = ownComponents(leaving.site).flatMap((drawn): FieldComponent[] => {
    const own = drawn.drawn.map((element) => handed.find((one) => one.element.node === element.node));
    const [first] = own.filter((one) => one !== undefined);
    if (!first) return [];
    for (const one of own) if (one) said.add(one.at.node);
    const property = attributeOf(first.at)?.name ?? '';
    const part = handedComponent(apart, drawn, files, (element) => {
      const field = handed.find((one) => one.element.node === element.node)?.own.name;
      const name = attributesOf(element).find((one) => one.name === property);
      return field === undefined || !name ? undefined : { field, name };
    });
    if (!part || !sayHanded(part, drawn, property)) return [];
    part.own = ownWords(apart, part);
    return [part];
  });
  for (const { at } of handed)
    if (!said.has(at.node)) stays(leaving, at, 'the field of the package is not said here without it yet');
  return parts;
}

/** What the component does with the field that it is handed. */
function sayHanded(part: FieldComponent, { placed }: DrawnComponent, property: string): boolean {
  const { leaving } = part;
  const taken = takenProperty(placed.path, property);
  if (!taken) {
    stays(leaving, part.component.path, 'what it takes has no plain name');
    return false;
  }
  part.handed.push(taken.property);
  part.gone.add(property);
  forgetNames(leaving, [taken.local]);
  const words = wordsIn(part);
  for (const reference of referencesTo(leaving, taken.local)) sayWords(words, reference, []);
  return true;
}

/** The words of a component that is given a field: its properties. */
function wordsIn(part: FieldComponent): FieldWords {
  const { leaving } = part;
  const one = (what: Asked) => (at: NodePath) => asks(part, what, at);
  return {
    leaving,
    name: { attribute: '{name}', text: 'name' },
    value: one('value'),
    touched: one('touched'),
    errors(at) {
      const error = asks(part, 'error', at);
      return error === undefined ? undefined : [error];
    },
    left(at) {
      const left = asks(part, 'onBlur', at);
      return left === undefined ? undefined : { call: `${left}()`, handler: left };
    },
    changes(at) {
      const set = asks(part, 'setValue', at);
      const call = callOf(at);
      const [next, ...more] = (call?.get('arguments') ?? []) as NodePath[];
      if (set === undefined) return true;
      if (call && (!next || more.length || next.isFunction())) return false;
      if (call && next) {
        leaving.turns.push({ path: call, does: 'whole' });
        says(leaving, call, () => `${set}(${textIn(leaving, next)})`);
      } else says(leaving, at, set);
      return true;
    },
  };
}

/** What an element gives its component of a field, and of which type that is. */
function ownWords(apart: TakenApart, part: FieldComponent): NonNullable<FieldComponent['own']> {
  const { names, needs } = apart;
  const single = (field: string): string | undefined => {
    const texts = errorsOf(apart, field);
    if (texts.length > 1) stays(apart.leaving, part.component.path, 'a field has messages of two kinds');
    if (texts.length) needs.add('errors');
    return texts[0];
  };
  const typeOfAll = (): string | undefined => {
    const { type } = apart;
    const all = part.drawn.map(
      ({ field }) => plainTypes[apart.kinds.get(field) ?? 'other'] ?? (type && memberType(type, field, part.leaving)),
    );
    return all.every((one) => one !== undefined) ? [...new Set(all)].join(' | ') : undefined;
  };
  return {
    expression(what, field) {
      switch (what) {
        case 'value':
          return `${names.values}.${field}`;
        case 'touched':
          needs.add('touched');
          return `${names.touched}.${field}`;
        case 'error':
          return single(field);
        case 'onBlur':
          needs.add('left');
          return `() => ${names.left}(${nameText(apart, field)})`;
        case 'setValue':
          needs.add('change');
          return `(${/^\w+$/.test(field) ? field : 'value'}) => ${changedAs(apart, field, /^\w+$/.test(field) ? field : 'value')}`;
        default:
          return undefined;
      }
    },
    type(what) {
      switch (what) {
        case 'value':
          return typeOfAll();
        case 'setValue': {
          const type = typeOfAll();
          return type === undefined || type.includes('|') ? undefined : `(value: ${type}) => void`;
        }
        case 'onBlur':
          return '() => void';
        default:
          return undefined;
      }
    },
  };
}
