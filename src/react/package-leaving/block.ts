import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { reactImportEdits } from '../import-edits.js';
import { namedReferences } from '../references.js';
import { retirementOf } from '../retirement.js';
import type { Edit } from '../../source/edits.js';
import { quoted } from '../../source/style.js';
import { pascal } from '../form-names.js';
import { resolved, type Leaving } from './leaving.js';

/** Lines of code, one step of indentation as two spaces and statements with semicolons, as they are made. */
export type Lines = string[];

/** What stands in the component in place of a package, and what has to be imported for it. */
export interface Block {
  lines: Lines;
  hooks: Set<string>;
  types: Set<string>;
  /** Names to import from further modules. */
  imports: Map<string, string>;
}

/** A block to which lines are added. */
export function newBlock(): Block {
  return { lines: [], hooks: new Set(), types: new Set(), imports: new Map() };
}

/** How the file calls a name of a module, which it imports from now on where it does not yet. */
export function importedFor(block: Block, { script, context }: Leaving, module: string, name: string): string {
  for (const node of script.ast.program.body) {
    if (!t.isImportDeclaration(node) || node.source.value !== module || node.importKind === 'type') continue;
    for (const one of node.specifiers) {
      if (t.isImportNamespaceSpecifier(one)) return `${one.local.name}.${name}`;
      if (t.isImportSpecifier(one) && t.isIdentifier(one.imported, { name })) return one.local.name;
    }
  }
  const local = context.freeName(name, `${name}Of${pascal(module)}`);
  block.imports.set(local === name ? name : `${name} as ${local}`, module);
  return local;
}

/** Adds a state variable. */
export function addState(
  block: Block,
  [value, setter]: readonly [string, string | undefined],
  type: string | undefined,
  start: string,
): void {
  block.hooks.add('useState');
  // what it begins as tells the type of that by itself
  const generic = type === undefined || type === `typeof ${start}` ? '' : `<${type}>`;
  block.lines.push(
    `const [${[value, ...(setter === undefined ? [] : [setter])].join(', ')}] = useState${generic}(${start});`,
  );
}

/** Adds a function with its statements. */
export function addFunction(block: Block, head: string, statements: readonly string[]): void {
  block.lines.push('', `${head} {`, ...statements.map((line) => `  ${line}`), '}');
}

/**
 * The statements that check some fields anew, named by `fields`, and leave the messages of others as they are.
 * @param checked an expression for all messages
 * @param answers whether it tells if all of them are right
 */
export function recheckLines(setErrors: string, checked: string, answers = false): Lines {
  return [
    `const own = Object.entries(${checked}).filter(([name]) => fields.includes(name));`,
    `${setErrors}((old) => {`,
    '  const others = Object.entries(old).filter(([name]) => !fields.includes(name));',
    '  return Object.fromEntries([...others, ...own]);',
    '});',
    ...(answers ? ['return own.length === 0;'] : []),
  ];
}

/**
 * The lines of a block in the style of the file, at one depth, with React's names as the file calls them.
 * @param end where the statement ends that it takes the place of: functions stand apart from what follows
 */
export function blockText(block: Block, indent: string, { context, script }: Leaving, end?: number): string {
  const { style } = context;
  const { call } = reactImportEdits(script, { add: [...block.hooks], drop: [] }, () => 1);
  const lead = /^([\w$]+)\.useState$/.exec(call('useState'))?.[1];
  const named = new RegExp(`(?<![\\w$.])(?:${[...block.hooks, ...block.types].join('|')})(?=[<()])`, 'g');
  const lines = block.lines.map((line) =>
    line.replace(named, (name) =>
      block.types.has(name) ? (lead === undefined ? name : `${lead}.${name}`) : call(name),
    ),
  );
  if (lead !== undefined) block.types.clear();
  const kept = lines.filter(
    (line, index) => line !== '' || (index > 0 && lines[index - 1] !== '' && index < lines.length - 1),
  );
  const text = kept
    .map((line, index) => {
      const depth = /^ */.exec(line)?.[0].length ?? 0;
      const own = style.semicolon === '' ? line.trim().replace(/;$/, '') : line.trim();
      return own === '' ? '' : `${index === 0 ? '' : indent}${style.indent.repeat(depth / 2)}${own}`;
    })
    .join(style.newline);
  const isClose =
    end !== undefined && block.lines.at(-1) === '}' && !/^[^\n]*\n[ \t]*\r?\n/.test(script.text.slice(end));
  return isClose ? text + style.newline : text;
}

/** What becomes of the places that the reader knows: the call of the package, and the controls. */
export function accountFor({ said, ledger }: Leaving, { declarations, controls }: FormModel, what: string): void {
  const why = 'state variables of the component hold it now';
  for (const { span } of declarations) ledger.push({ entry: 'carried', span, what, why });
  for (const { span, field } of controls) {
    const isTouched = said.some(({ start, end }) => start < span.end && end > span.start);
    ledger.push(
      isTouched
        ? { entry: 'carried', span, what: `control of ${field}`, why }
        : { entry: 'kept', span, what: `control of ${field}`, why: 'it shows the same value' },
    );
  }
}

/** The plan of what is said, with imports of the package gone and those of React there. */
export function planOf(leaving: Leaving, block: Block): RewritePlan {
  const { script, said, ledger } = leaving;
  const own = resolved(said);
  const written = own.map(({ text }) => text).join('\n');
  const retirement = retirementOf(script, own, written, () => false);
  const loose = retirement.names.filter(({ name }) => !namesGone(leaving).has(name));
  const imports = reactImportEdits(
    script,
    {
      add: [...[...block.hooks], ...typeImports(script.typescript, block, script.ast.program)],
      drop: retirement.deadReactNames,
    },
    (name) =>
      namedReferences(script, name) -
      own.reduce((sum, { start, end }) => sum + mentions(script.text.slice(start, end), name), 0),
  );
  const apart = retirement.edits.filter(
    (edit) => !loose.some(({ start, end }) => edit.start <= start && edit.end >= end),
  );
  const further = furtherImports(leaving, block);
  const edits = [...own, ...imports.edits, ...apart.filter((edit) => !own.some((one) => overlaps(one, edit)))];
  return {
    edits: atOnePlace(script.text, edits, further).map((edit) => ({ file: script.file, ...edit })),
    creates: [],
    deletes: [],
    dependencies: [],
    ledger,
  };
}

/** Edits with those among them that put lines in where another edit ends: they come behind what that one writes. */
function atOnePlace(text: string, edits: readonly Edit[], further: readonly Edit[]): Edit[] {
  const placed = [...edits];
  for (const edit of further) {
    const index = placed.findIndex(({ start, end }) => start <= edit.start && end >= edit.start);
    const before = placed[index];
    if (!before) {
      placed.push(edit);
      continue;
    }
    // what goes altogether leaves the white space behind it
    const whole = before.text === '' ? text.slice(before.start, before.end) : before.text;
    const rest = /\s*$/.exec(whole)?.[0] ?? '';
    const lead = before.text === '' ? '' : whole.slice(0, whole.length - rest.length);
    placed[index] = { ...before, text: (lead === '' ? edit.text.trim() : lead + edit.text) + rest };
  }
  return placed;
}

/** The edits that import names from further modules: beside what comes from there, or below the last import. */
function furtherImports({ script, context }: Leaving, { imports }: Block): Edit[] {
  const { style } = context;
  const all = script.ast.program.body.filter((node) => t.isImportDeclaration(node));
  return [...imports].map(([name, module]): Edit => {
    const known = all.find(({ source, importKind }) => source.value === module && importKind !== 'type');
    const beside = known?.specifiers.findLast((one) => t.isImportSpecifier(one))?.end;
    if (typeof beside === 'number') return { start: beside, end: beside, text: `, ${name}` };
    // packages stand before files of the project
    const own = all.filter(({ source }) => !source.value.startsWith('.'));
    const at = (own.at(-1) ?? all.at(-1))?.end ?? 0;
    const line = `import { ${name} } from ${quoted(module, style)}${style.semicolon}`;
    return { start: at, end: at, text: all.length ? style.newline + line : line + style.newline };
  });
}

/** Declarations that nothing but the package asked: none of the author’s own but types and imports go. */
function namesGone({ script }: Leaving): Set<string> {
  return new Set(
    script.ast.program.body.flatMap((node) =>
      t.isImportDeclaration(node) ? node.specifiers.map(({ local }) => local.name) : [],
    ),
  );
}

function overlaps(a: { start: number; end: number }, b: { start: number; end: number }): boolean {
  return a.start < b.end && b.start < a.end;
}

function mentions(text: string, name: string): number {
  return [...text.matchAll(new RegExp(`(?<![\\w$.])${name.replaceAll('$', '\\$')}(?![\\w$])`, 'g'))].length;
}

function typeImports(typescript: boolean, { types }: Block, program: t.Program): string[] {
  if (!typescript) return [];
  const known = new Set(
    program.body.flatMap((node) => (t.isImportDeclaration(node) ? node.specifiers.map(({ local }) => local.name) : [])),
  );
  return [...types].filter((name) => !known.has(name)).map((name) => `type ${name}`);
}
