import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { keptRules } from '../kept-entries.js';
import { leftByHand, type WriteContext } from '../../form/writing.js';
import { wholeLines } from '../../source/removal.js';
import { quoted } from '../../source/style.js';
import type { FormSite } from '../approach.js';
import { spanOf } from '../code.js';
import { bodyOf, functionAround } from '../components.js';
import { reactImportEdits } from '../import-edits.js';
import { attribute } from '../jsx-controls.js';
import { namedReferences } from '../references.js';
import { retirementOf } from '../retirement.js';
import { whyAnew, whyGone } from './coming-and-going.js';
import { pageFields } from './page-fields.js';
import { formHandlers, pageUses, type PageUse } from './page-reads.js';
import { type Draft, restyled, refCall, namesOf, namesFor } from './state-draft.js';
import { controlEdits } from './state-controls.js';
import { walk } from '../../source/traverse.js';

/** The first statement that stays below everything that the values begin with. */
function firstPlace(
  body: NodePath<t.BlockStatement>,
  away: readonly { start: number; end: number }[],
  initials: string,
): NodePath<t.Statement> | undefined {
  const statements = body.get('body');
  const needed = statements.findLastIndex((statement) =>
    Object.keys(t.getBindingIdentifiers(statement.node)).some((name) => new RegExp(`\\b${name}\\b`).test(initials)),
  );
  const stays = ({ node }: NodePath): boolean =>
    !away.some(({ start, end }) => start <= (node.start ?? 0) && end >= (node.end ?? 0));
  return statements.slice(needed + 1).find(stays);
}

/** Writes a form whose values the page kept with one state variable for each of them. */
export function writeStateFromPage(model: FormModel, context: WriteContext, site: FormSite): RewritePlan {
  const { script } = site;
  const fields = pageFields(site);
  const body = site.component.kind === 'function' ? bodyOf(site.component) : undefined;
  const handlers = formHandlers(site);
  const { uses, gone } = pageUses(site, fields, handlers);
  const draft: Draft = {
    site,
    context,
    fields,
    names: new Map(),
    aliases: new Map(),
    gone: new Set(gone.map(({ node }) => node)),
    ledger: [],
    edits: [],
  };
  refuse(draft, uses, body);
  if (draft.ledger.length || !body) return leftByHand(draft.ledger);
  for (const use of uses) {
    const alias = use.kind === 'read' && use.as === 'value' ? aliasOf(use.path) : undefined;
    if (alias && use.kind === 'read') draft.aliases.set(alias.node, use.field);
  }
  for (const field of fields) draft.names.set(field, namesFor(field, draft));
  for (const field of fields) for (const control of field.controls) controlEdits(field, control, draft);
  for (const use of uses) useEdit(use, draft);
  removeGone(gone, draft);
  resetButton(draft);
  if (draft.ledger.some(({ entry }) => entry === 'by-hand'))
    return leftByHand(draft.ledger.filter(({ entry }) => entry === 'by-hand'));
  const left = (name: string): number => namedReferences(script, name) - gone.filter((path) => refCall(path)).length;
  const imports = reactImportEdits(script, { add: ['useState'], drop: ['useRef'] }, left);
  draft.edits.push(...imports.edits.map((edit) => ({ file: script.file, ...edit })));
  const away = [...draft.edits.map(({ start, end }) => ({ start, end }))];
  // what the values begin with is said again by the new lines
  const written = [...draft.edits.map(({ text }) => text), ...fields.map(({ initial }) => initial ?? '')].join('\n');
  const retirement = retirementOf(script, away, written, () => false);
  draft.edits.push(...retirement.edits.map((edit) => ({ file: script.file, ...edit })));
  const first = firstPlace(body, away, fields.map(({ initial }) => initial ?? '').join(' '));
  const start = first?.node.leadingComments?.[0]?.start ?? first?.node.start ?? (body.node.start ?? 0) + 1;
  const indent = script.text
    .slice(script.lines.lineStart(first?.node.start ?? 0), first?.node.start ?? 0)
    .replace(/\S.*$/, '');
  const { style } = context;
  draft.ledger.push(...keptRules(model));
  const lines = fields.map((field) => {
    const { value, setter } = namesOf(field, draft);
    const typed = field.kind === 'list' && script.typescript ? '<string[]>' : '';
    return `const [${value}, ${setter}] = ${imports.call('useState')}${typed}(${restyled(field.initial ?? "''", style.quote)})${style.semicolon}`;
  });
  draft.edits.push({
    file: script.file,
    start,
    end: start,
    text: lines.map((line) => line + style.newline + indent).join(''),
  });
  return { edits: draft.edits, creates: [], deletes: [], dependencies: [], ledger: draft.ledger };
}

function refuse(draft: Draft, uses: readonly PageUse[], body: NodePath | undefined): void {
  const { site, fields } = draft;
  const { script } = site;
  const byHand = (path: NodePath, why: string): void => {
    const span = spanOf(script.file, path);
    draft.ledger.push({
      entry: 'by-hand',
      span,
      what: script.text.slice(span.start, span.end).split('\n')[0] ?? '',
      why,
    });
  };
  if (!body) byHand(site.component.path, 'the component is one expression, in which no state can be declared');
  const gone = whyGone(site);
  if (gone)
    byHand(gone, 'the form comes and goes: the page begins anew each time, and state would keep what was typed before');
  const seen = new Set<string>();
  for (const field of fields) {
    const [control] = field.controls;
    if (!control) continue;
    const anew = whyAnew(control, site);
    if (anew && !draft.ledger.some(({ span }) => span.start === anew.path.node.start)) byHand(anew.path, anew.why);
    if (field.initial === undefined)
      byHand(control.element, 'what it begins with is told by the page alone; give it a default value first');
    if (control.type === 'file') byHand(control.element, 'a file can only be asked of the page');
    if (field.controls.some((one) => one.spread))
      byHand(control.element, 'it takes attributes together that are not written here');
    if (seen.has(field.name)) byHand(control.element, `another control is called ${field.name} as well`);
    seen.add(field.name);
  }
  for (const use of uses) {
    if (use.kind === 'unclear') byHand(use.path, use.why);
    if ((use.kind === 'read' || use.kind === 'all') && waitsBefore(use.path))
      byHand(use.path, 'the page is asked after a wait, when state would still be the older one');
    if (use.kind === 'all')
      for (const field of fields)
        if (field.kind === 'list') byHand(use.path, `of ${field.name} it takes the last one only`);
        else if (field.controls.some((control) => attribute(control, 'disabled')))
          byHand(use.path, `a disabled control such as ${field.name} is left out of these values`);
  }
}

function waitsBefore(path: NodePath): boolean {
  let waits = false;
  walk(functionAround(path), {
    AwaitExpression(inner) {
      if ((inner.node.end ?? 0) <= (path.node.start ?? 0)) waits = true;
    },
  });
  return waits;
}

function useEdit(use: PageUse, draft: Draft): void {
  const { site, context } = draft;
  const { script } = site;
  const span = spanOf(script.file, use.path);
  const what = script.text.slice(span.start, span.end).split('\n')[0] ?? '';
  const put = (text: string, why: string): void => {
    const property = use.path.parent;
    const isSame =
      t.isObjectProperty(property) &&
      !property.computed &&
      t.isIdentifier(property.key, { name: text }) &&
      use.path.key === 'value';
    draft.edits.push(isSame ? { ...spanOf(script.file, { node: property }), text } : { ...span, text });
    draft.ledger.push({ entry: 'carried', span, what, why });
  };
  if (use.kind === 'read') {
    const { value } = namesOf(use.field, draft);
    const alias = aliasOf(use.path);
    if (alias && t.isIdentifier(alias.node.id, { name: value })) {
      const statement = spanOf(script.file, alias.parentPath);
      draft.edits.push({ file: script.file, ...wholeLines(script.text, statement), text: '' });
      draft.ledger.push({ entry: 'retired', span: statement, what, why: `${value} holds it` });
      return;
    }
    const text = {
      value,
      checked: value,
      has: value,
      number: `(${value} === ${context.style.quote}${context.style.quote} ? NaN : Number(${value}))`,
      some: `(${value}.length > 0)`,
      sent: `(${value} ? ${quoted(use.field.sent, context.style)} : null)`,
    }[use.as];
    const stands = use.path.parentPath?.isVariableDeclarator() === true;
    put(stands ? text.replace(/^\((.*)\)$/, '$1') : text, `${value} holds it`);
  } else if (use.kind === 'set') {
    const { setter } = namesOf(use.field, draft);
    put(
      `${setter}(${script.text.slice(use.value.node.start ?? 0, use.value.node.end ?? 0)})`,
      `${setter} makes the change`,
    );
  } else if (use.kind === 'all') put(allText(draft), 'the state variables hold the values');
  else if (use.kind === 'reset') put(resetText(use.path, draft), 'each value goes back to what it began with');
}

/** A constant that is nothing but what the page is asked for. */
function aliasOf(path: NodePath): NodePath<t.VariableDeclarator> | undefined {
  const declarator = path.parentPath;
  const statement = declarator?.parentPath;
  const alone =
    declarator?.isVariableDeclarator() === true &&
    t.isIdentifier(declarator.node.id) &&
    !declarator.node.id.typeAnnotation &&
    statement?.isVariableDeclaration({ kind: 'const' }) === true &&
    statement.node.declarations.length === 1;
  return alone ? declarator : undefined;
}

/** The values as the page would send them. */
function allText(draft: Draft): string {
  const parts = draft.fields.map((field) => {
    const { value } = namesOf(field, draft);
    const key = /^[A-Za-z_$][\w$]*$/.test(field.name) ? field.name : quoted(field.name, draft.context.style);
    if (field.kind === 'checked') return `...(${value} && { ${key}: ${quoted(field.sent, draft.context.style)} })`;
    return key === value ? key : `${key}: ${value}`;
  });
  return `{ ${parts.join(', ')} }`;
}

function resetText(path: NodePath, draft: Draft): string {
  const { style } = draft.context;
  const calls = draft.fields.map(
    (field) => `${namesOf(field, draft).setter}(${restyled(field.initial ?? "''", style.quote)})`,
  );
  const { text, lines } = draft.site.script;
  const start = path.node.start ?? 0;
  const before = text.slice(lines.lineStart(start), start);
  if (path.parentPath?.isExpressionStatement()) {
    const indent = /^\s*/.exec(before)?.[0] ?? '';
    return calls.join(`${style.semicolon || ';'}${style.newline}${indent}`);
  }
  return path.parentPath?.isArrowFunctionExpression() ? `{ ${calls.join('; ')} }` : `(${calls.join(', ')})`;
}

/** What only took the page's objects goes; a name that others still need stays. */
function removeGone(gone: readonly NodePath[], draft: Draft): void {
  const { script } = draft.site;
  const all = [...gone, ...spareForms(gone, draft)];
  for (const path of all) {
    const statement = path.parentPath;
    if (!statement?.isVariableDeclaration()) continue;
    if (statement.node.declarations.length === 1) {
      draft.edits.push({ file: script.file, ...wholeLines(script.text, spanOf(script.file, statement)), text: '' });
    } else
      draft.ledger.push({
        entry: 'by-hand',
        span: spanOf(script.file, statement),
        what: 'several declarations',
        why: 'only one of them would go',
      });
    draft.ledger.push({
      entry: 'retired',
      span: spanOf(script.file, path),
      what: 'what asked the page',
      why: 'the state variables hold the values',
    });
  }
  for (const field of draft.fields) {
    if (
      field.ref === undefined ||
      !gone.some((path) => path.isVariableDeclarator() && t.isIdentifier(path.node.id, { name: field.ref ?? '' }))
    )
      continue;
    for (const control of field.controls) {
      const ref = attribute(control, 'ref');
      if (!ref) continue;
      const { start, end } = spanOf(script.file, ref.path);
      const lead = /\s+$/.exec(script.text.slice(0, start))?.[0].length ?? 0;
      draft.edits.push({ file: script.file, start: start - lead, end, text: '' });
    }
  }
}

/** `const form = event.currentTarget`, where everything that was asked of it is said by state now. */
function spareForms(gone: readonly NodePath[], draft: Draft): NodePath[] {
  const found: NodePath[] = [];
  const edited = draft.edits.map(({ start, end }) => ({ start, end }));
  walk(draft.site.component.path, {
    VariableDeclarator(path) {
      const { id, init } = path.node;
      if (!t.isIdentifier(id) || !init || gone.includes(path)) return;
      if (
        !/(currentTarget|target|\.current|\.elements)\s*(as\s[\s\S]*)?!?$/.test(
          draft.site.script.text.slice(init.start ?? 0, init.end ?? 0),
        )
      )
        return;
      const references = path.scope.getBinding(id.name)?.referencePaths ?? [];
      const inside = (node: t.Node): boolean =>
        edited.some(({ start, end }) => (node.start ?? 0) >= start && (node.end ?? 0) <= end) ||
        gone.some(({ node: other }) => (node.start ?? 0) >= (other.start ?? 0) && (node.end ?? 0) <= (other.end ?? 0));
      if (references.length && references.every(({ node }) => inside(node))) found.push(path);
    },
  });
  return found;
}

/** The page's own reset button puts the state back. */
function resetButton(draft: Draft): void {
  const { element } = draft.site.region;
  const { script } = draft.site;
  if (!element) return;
  let button: NodePath<t.JSXElement> | undefined;
  walk(element, {
    JSXElement(path) {
      const isReset = path.node.openingElement.attributes.some(
        (one) => t.isJSXAttribute(one) && one.name.name === 'type' && t.isStringLiteral(one.value, { value: 'reset' }),
      );
      if (isReset) button = path;
    },
  });
  if (!button) return;
  const opening = element.node.openingElement;
  const own = opening.attributes.find((one) => t.isJSXAttribute(one) && one.name.name === 'onReset');
  if (own) {
    draft.ledger.push({
      entry: 'by-hand',
      span: spanOf(script.file, { node: own }),
      what: 'onReset',
      why: 'the page’s own reset has to put the state back as well',
    });
    return;
  }
  const { style } = draft.context;
  const calls = draft.fields.map(
    (field) => `${namesOf(field, draft).setter}(${restyled(field.initial ?? "''", style.quote)})`,
  );
  const at = opening.attributes.at(-1)?.end ?? opening.name.end ?? 0;
  draft.edits.push({
    file: script.file,
    start: at,
    end: at,
    text: ` onReset={(event) => { event.preventDefault()${style.semicolon || ';'} ${calls.join(`${style.semicolon || ';'} `)}${style.semicolon} }}`,
  });
}
