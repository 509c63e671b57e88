import type { NodePath } from '@babel/traverse';
import type * as t from '@babel/types';
import { quoted } from '../../source/style.js';
import { functionOf } from '../components.js';
import type { Block } from '../package-leaving/block.js';
import { depthOf, reindented, stays, textIn } from '../package-leaving/leaving.js';
import { addSchemaCheck } from '../package-leaving/schema-check.js';
import { groupsOf, keptMember, nestedFields } from '../package-leaving/nested.js';
import { schemaRules } from '../package-leaving/schemas.js';
import { relative } from '../package-leaving/sending.js';
import type { Stated } from './block.js';
import type { TakenApart } from './form.js';

/** How all values are checked: by the author’s function, and by those that controls bring along. */
export function checkOf(
  apart: TakenApart,
  type: string | undefined,
  errors: string | undefined,
  block: Block,
): Pick<Stated, 'check' | 'checkLines'> {
  const { leaving, form, ownRules, names } = apart;
  const given = form.options.get('validate');
  const nothing = { check: undefined, checkLines: [] };
  const schema = form.options.get('validationSchema');
  if (schema) {
    if (given ?? ownRules[0]) stays(leaving, schema, 'a function checks beside the schema');
    return askedSchema(apart, schema, type, errors, block) ?? nothing;
  }
  if (!given && !ownRules.length) return nothing;
  if (apart.rows.size && given)
    stays(leaving, given, 'it tells errors of rows inside of lists, which are kept by their names here');
  if (nestedFields(apart).length && given)
    stays(leaving, given, 'it tells errors inside of others, which are kept by the names of their fields here');
  const fn = given && (given.isObjectMethod() ? given : functionOf(given));
  if (given && (!fn || fn.node.async || fn.node.params.length > 1)) {
    stays(leaving, given, 'how it checks is not told, or takes time');
    return nothing;
  }
  const isNamed = given?.isIdentifier() === true;
  if (isNamed && !ownRules.length) return { check: (values) => `${given.node.name}(${values})`, checkLines: [] };
  const own =
    fn && !isNamed ? declaredCheck(apart, fn, ownRules.length ? `${names.check}All` : names.check, type, errors) : [];
  if (!ownRules.length) return { check: (values) => `${names.check}(${values})`, checkLines: own };
  const whole = given ? `{ ...${isNamed ? given.node.name : `${names.check}All`}(${names.values}) }` : '{}';
  const lines = ownRules.flatMap(({ field, fn: rule, shownWhen }, index) => {
    const called = rule.isIdentifier() ? rule.node.name : `(${textIn(leaving, rule)})`;
    const wrong = ownRules.length > 1 ? `wrong${index + 1}` : 'wrong';
    const when = shownWhen.map((text) => (shownWhen.length > 1 ? `(${text()})` : text())).join(' && ');
    const call = `${called}(${names.values}.${field})`;
    return [
      `  const ${wrong} = ${when === '' ? call : `${when} ? ${call} : undefined`};`,
      `  if (${wrong} && !errors${keptMember(apart, field)}) errors${keptMember(apart, field)} = ${wrong};`,
    ];
  });
  return {
    check: (values) => `${names.check}(${values})`,
    checkLines: [
      ...own,
      '',
      `function ${names.check}(${names.values}${type === undefined ? '' : `: ${type}`}) {`,
      `  const errors${errors === undefined ? '' : `: ${errors}`} = ${whole};`,
      ...lines,
      '  return errors;',
      '}',
      '',
    ],
  };
}

/** The schema asked as the package asks it: an empty text counts as none. */
function askedSchema(
  apart: TakenApart,
  given: NodePath,
  type: string | undefined,
  errors: string | undefined,
  block: Block,
): Pick<Stated, 'check' | 'checkLines'> | undefined {
  const { leaving, names, fields, kinds } = apart;
  const groups = groupsOf(apart);
  const schema = schemaRules(leaving, given, fields, apart.rows.size + groups.length);
  if (!schema) return undefined;
  if (schema.library !== 'yup') stays(leaving, given, 'the package asks schemas of yup alone');
  if (schema.asksAll) stays(leaving, given, 'what its schema asks of all values together reaches no field');
  if ([...kinds].some(([name, kind]) => kind === 'other' && !groups.includes(name)))
    stays(leaving, given, 'a schema of values inside of values is not asked here yet');
  const filled = `.filter(([, value]) => value !== ${quoted('', leaving.context.style)})`;
  const typed = leaving.script.typescript ? ': object' : '';
  const lists = [...apart.rows.keys()].map((list) => `, ${list}: ${names.values}.${list}.map(filled)`);
  lists.push(...groups.map((group) => `, ${group}: filled(${names.values}.${group})`));
  const lines = [
    '// an empty text counts as none',
    ...(lists.length
      ? [
          `const filled = (some${typed}) => Object.fromEntries(Object.entries(some)${filled});`,
          `const given = { ...filled(${names.values})${lists.join('')} };`,
        ]
      : [`const given = Object.fromEntries(Object.entries(${names.values})${filled});`]),
  ];
  const before = block.lines.length;
  addSchemaCheck(apart, schema, { type, errors }, block, { lines, name: 'given', options: ', context: given' });
  return { check: (values) => `${names.check}(${values})`, checkLines: [...block.lines.splice(before), ''] };
}

/** The author’s function that stood in the option, as one of the component: what it gives was typed by the option. */
function declaredCheck(
  apart: TakenApart,
  fn: NodePath<t.Function>,
  name: string,
  type: string | undefined,
  errors: string | undefined,
): string[] {
  const { leaving } = apart;
  const [values] = fn.get('params') as NodePath[];
  const body = fn.get('body') as NodePath;
  const typed = values?.isIdentifier() && !values.node.typeAnnotation && type !== undefined ? `: ${type}` : '';
  const parameter = values ? textIn(leaving, values) + typed : '';
  const gives = errors === undefined ? '' : `: ${errors}`;
  const text = reindented(textIn(leaving, body), depthOf(leaving, fn), '');
  if (!body.isBlockStatement()) return [`const ${name} = (${parameter})${gives} => ${text};`];
  return [
    '',
    `function ${name}(${parameter})${gives} {`,
    ...relative(text, leaving.context.style.indent).map((line) => (line === '' ? '' : `  ${line}`)),
    '}',
    '',
  ];
}
