import type { NodePath } from '@babel/traverse';
import { attributesOf, type JsxAttribute } from '../jsx-controls.js';
import { pairOf, valuesWith, type Apart, type Kind } from './apart.js';
import type { Block } from './block.js';
import type { Asked, FieldComponent } from './field-components.js';
import type { FormFiles } from './form-files.js';
import { patternIn, sayPattern, sayType, sayTypeOf, type Given } from './given-props.js';
import { asAttributes, says, saysAt, stays, takeAttribute } from './leaving.js';
import { keptMember } from './nested.js';
import { elementsOf, heldBy, nameText, tiedBy, type Tied } from './ties.js';

/** Gives every element of a component what that asks for. */
function giveElements(apart: Apart, part: FieldComponent, blurs: boolean): void {
  const { asked, gone, control } = part;
  const { leaving } = apart;
  const wanted = order.filter((one) => asked.has(one));
  for (const { element, field, name } of part.drawn) {
    const attributes = attributesOf(element);
    for (const one of attributes) if (gone.has(one.name) && one.name !== name.name) takeAttribute(leaving, one.path);
    const clash = clashOf(part, attributes);
    if (clash) {
      stays(leaving, clash.path, 'what it is given for its field is told here already');
      continue;
    }
    const at = element.get('openingElement');
    const tied: Tied = { element, tag: control?.tag ?? 'input', type: control?.type, field, at };
    const texts = (): string[] | undefined =>
      part.own ? ownGiven(part.own, field, asked, wanted) : givenTo(apart, tied, asked, wanted, blurs);
    if (texts() === undefined) continue;
    if (gone.has(name.name)) says(leaving, name.path, () => asAttributes(leaving, name.path, texts() ?? []));
    else {
      const end = name.path.node.end ?? 0;
      const lead = asAttributes(leaving, name.path, ['', '']);
      saysAt(leaving, end, end, () => (texts() ?? []).map((one) => lead + one).join(''));
    }
  }
}

/** What an element says itself of what its component is given, or of a kind of control that is another one. */
function clashOf({ asked, control }: FieldComponent, attributes: readonly JsxAttribute[]): JsxAttribute | undefined {
  const names = [...asked.values()];
  const isOther = ({ name, text }: JsxAttribute): boolean =>
    name === 'type' && (text === undefined || (/^(?:checkbox|radio|file)$/.test(text) && text !== control?.type));
  return attributes.find((one) => names.includes(one.name) || isOther(one));
}

/** Gives a component its properties, with their types. */
function giveComponent(apart: Apart, part: FieldComponent, block: Block): void {
  const { component, leaving: own, asked, handed } = part;
  const wanted = order.filter((one) => asked.has(one));
  const names = wanted.map((one) => asked.get(one) ?? one);
  const taker: Given = { leaving: own, component, handed };
  const [parameter] = component.path.get('params') as NodePath[];
  if (!parameter || (!names.length && !handed.length)) return;
  const pattern = patternIn(component.path);
  if (pattern) sayPattern(taker, pattern, names);
  else if (parameter.isIdentifier()) {
    const typed = parameter.node.typeAnnotation?.start ?? parameter.node.end ?? 0;
    saysAt(own, parameter.node.start ?? 0, typed, `{ ${[...names, `...${parameter.node.name}`].join(', ')} }`);
  } else {
    stays(own, parameter, 'what it is given has no plain name');
    return;
  }
  if (!own.script.typescript) return;
  const types = wanted.map((one): [string, string | undefined] => {
    // some of its elements have nothing of it
    const mayMiss = (part.own ?? apart.errorless) && one === 'error' ? '?' : '';
    return [(asked.get(one) ?? one) + mayMiss, typeOf(apart, part, one)];
  });
  const untold = types.find(([, type]) => type === undefined);
  if (untold) {
    stays(own, component.path, `the type of ${untold[0]} is not told for all of its fields`);
    return;
  }
  const typeName = names.length ? sayType(taker, types, block) : undefined;
  const unsaid = sayTypeOf(taker, parameter, typeName);
  if (unsaid !== undefined) stays(own, component.path, unsaid);
}

const order: readonly Asked[] = ['name', 'value', 'checked', 'onChange', 'onBlur', 'setValue', 'touched', 'error'];

/** The attributes of one element of a component; undefined where one cannot be told, which is said. */
function givenTo(
  apart: Apart,
  tied: Tied,
  asked: ReadonlyMap<Asked, string>,
  wanted: readonly Asked[],
  blurs: boolean,
): string[] | undefined {
  const { field } = tied;
  const needsTies = wanted.some((one) => /^(?:checked|onChange|onBlur)$/.test(one));
  // what it does not ask for needs no function of the form
  const without = new Set(wanted.includes('onChange') ? [] : ['onChange']);
  const ties = needsTies ? tiedBy(apart, tied, without, blurs && wanted.includes('onBlur')) : [];
  if (!ties) return undefined;
  const { needs } = apart;
  return wanted.flatMap((one): string[] => {
    const name = asked.get(one) ?? one;
    const own = ties.find((text) => text.startsWith(`${one}=`));
    if (own !== undefined) return [name + own.slice(one.length)];
    if (one === 'name') return [`${name}="${field}"`];
    if (one === 'value') return [`${name}={${apart.shownValue?.(heldBy(apart, tied), field) ?? heldBy(apart, tied)}}`];
    if (one === 'error') {
      if (apart.errorless) return [];
      needs.add('errors');
      return [`${name}={${apart.names.errors}${keptMember(apart, field)}}`];
    }
    if (one === 'touched') {
      needs.add('touched');
      return [`${name}={${apart.names.touched}${keptMember(apart, field)}}`];
    }
    if (one !== 'setValue') return [];
    needs.add('change');
    return [`${name}={${setterOf(apart, tied)}}`];
  });
}

/** What an element gives its component in words of its own; what there is none of is left out. */
function ownGiven(
  { expression }: NonNullable<FieldComponent['own']>,
  field: string,
  asked: ReadonlyMap<Asked, string>,
  wanted: readonly Asked[],
): string[] {
  return wanted.flatMap((one) => {
    const name = asked.get(one) ?? one;
    if (one === 'name') return [`${name}="${field}"`];
    const text = expression(one, field);
    return text === undefined ? [] : [`${name}={${text}}`];
  });
}

function setterOf(apart: Apart, { field }: Tied): string {
  const local = /^[\w$]+$/.test(field) ? field : 'value';
  const next = valuesWith(apart, pairOf(field, local, apart.names.values));
  return `(${local}) => ${apart.changes(next, nameText(apart, field))}`;
}

/** The types of values by what these are. */
export const plainTypes: Readonly<Partial<Record<Kind, string>>> = {
  text: 'string',
  flag: 'boolean',
  list: 'string[]',
  number: 'number',
};

/** The type of what a component is given for its fields; undefined where it is not told for one of them. */
function typeOf(apart: Apart, { drawn, control, own }: FieldComponent, what: Asked): string | undefined {
  if (own && /^(?:value|setValue|onBlur)$/.test(what)) return own.type(what);
  const tags = new Set([control?.tag ?? 'input']);
  const values = drawn.map(({ field }) => plainTypes[apart.kinds.get(field) ?? 'other']);
  const value = values.every((one) => one !== undefined) ? [...new Set(values)].join(' | ') : undefined;
  switch (what) {
    case 'name':
      return 'string';
    case 'value':
      return value;
    case 'checked':
      return value === 'boolean' ? value : undefined;
    case 'setValue':
      return value !== undefined && !value.includes('|') ? `(value: ${value}) => void` : undefined;
    case 'onChange':
      return `(event: ChangeEvent<${elementsOf(tags)}>) => void`;
    case 'onBlur':
      return `(event: FocusEvent<${elementsOf(tags)}>) => void`;
    case 'error':
      return 'string | undefined';
    case 'touched':
      return 'boolean | undefined';
    default: {
      const never: never = what;
      return never;
    }
  }
}

/**
 * Gives all elements of components what these ask for, and each component its properties.
 * @param blurs whether the form has something to do when a field is left
 */
export function giveAllFields(apart: Apart, parts: readonly FieldComponent[], files: FormFiles, blurs: boolean): void {
  for (const part of parts) {
    giveElements(apart, part, blurs);
    giveComponent(apart, part, files.blockOf(part.leaving));
  }
}
