import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RunMoment, Status, StatusRole, StepBranch } from '../form/life.js';
import { textAt } from './flow.js';
import { bare } from '../source/behind-names.js';
import { spanAt, type Cell, type CourseGuide, type Told } from './cell.js';

type Shape = Status['shape'];

/** What a value that a cell gets is. */
function valueOf({ value, text, at }: Told, guide: CourseGuide): string {
  if (!value) return kindOfText(text);
  if (value.isBooleanLiteral()) return String(value.node.value);
  if (value.isNullLiteral() || (value.isIdentifier() && value.node.name === 'undefined')) return 'null';
  if (value.isStringLiteral()) return value.node.value === '' ? 'null' : 'text';
  if (value.isTemplateLiteral()) return 'text';
  if (isChecked(value, guide, at)) return 'check';
  if (value.isObjectExpression()) {
    const { properties } = value.node;
    if (!properties.length) return 'empty';
    const flags = properties.filter((one) => t.isObjectProperty(one)).map((one) => one.value);
    return flags.length > 0 && flags.every((one) => t.isBooleanLiteral(one, { value: true })) ? 'flags' : 'object';
  }
  if (value.isArrayExpression()) return value.node.elements.length ? 'list' : 'empty-list';
  if (value.isNewExpression()) return 'list';
  if (value.isCallExpression() && /(fromEntries|reduce)[^]*\btrue\b/.test(textAt({ path: value, script: at.script })))
    return 'flags';
  return 'other';
}

/** What a value is, from its text alone. */
function kindOfText(text: string | undefined): string {
  const plain = text?.trim();
  if (plain === 'true' || plain === 'false') return plain;
  if (plain === 'null' || plain === 'undefined' || plain === "''" || plain === '""') return 'null';
  if (plain === '{}') return 'empty';
  if (plain === '[]') return 'empty-list';
  return plain !== undefined && /^['"`]/.test(plain) ? 'text' : 'other';
}

/** Whether a value is what a checker answered, here or in a constant. */
function isChecked(value: NodePath, guide: CourseGuide, at: Told['at'], depth = 0): boolean {
  const path = bare(value);
  if (depth > 6) return false;
  const down = (to: NodePath): boolean => isChecked(to, guide, at, depth + 1);
  if (path.isAwaitExpression()) return down(path.get('argument'));
  if (path.isCallExpression()) return guide.checks({ path, script: at.script }) !== undefined;
  if (path.isConditionalExpression()) return down(path.get('consequent')) || down(path.get('alternate'));
  if (path.isLogicalExpression()) return down(path.get('left')) || down(path.get('right'));
  if (path.isMemberExpression()) return down(path.get('object'));
  if (path.isObjectExpression())
    return path
      .get('properties')
      .some((one) =>
        one.isObjectProperty()
          ? down(one.get('value') as NodePath)
          : one.isSpreadElement() && down(one.get('argument')),
      );
  if (!path.isIdentifier()) return false;
  const declared = path.scope.getBinding(path.node.name)?.path;
  const init = declared?.isVariableDeclarator() ? (declared.get('init') as NodePath) : undefined;
  return init?.node ? down(init) : false;
}

/** The roles that a cell plays, found by what the code does with it. */
export function rolesOf(cell: Cell, told: readonly Told[], guide: CourseGuide): Status[] {
  const own = told.filter((one) => one.cell === cell);
  const values = own.map((one) => ({ ...one, is: valueOf(one, guide) }));
  const shape = shapeOf(
    cell,
    values.map(({ is }) => is),
  );
  const as = (role: StatusRole): Status => ({ role, name: cell.name, shape, span: spanAt(cell.at) });
  const has = (is: RegExp, branch?: StepBranch[], moments?: RunMoment[]): boolean =>
    values.some(
      (one) =>
        is.test(one.is) &&
        (!branch || (one.branch !== undefined && branch.includes(one.branch))) &&
        (!moments || moments.includes(one.moment)),
    );
  if (
    has(/^check$/) ||
    (/^(\w*[eE]rrors|problems|issues|complaints|faults|messages)$/.test(cell.name) && shape !== 'one')
  )
    return [as('errors')];
  // what a function answers about a field that was left says more than that it was left
  const isAnswer = ({ value, text = '' }: Told): boolean => value === undefined && /^[\w$.]+\(/.test(text.trim());
  const leaves = values.some((one) => one.moment === 'blur' && !isAnswer(one));
  if (has(/^flags$/) || (shape !== 'one' && leaves)) return [as('touched')];
  const flag =
    startIs(cell, /^Boolean/) ||
    /^(true|false)$/.test(cell.begins ?? '') ||
    (values.length > 0 && values.every(({ is }) => /^(true|false)$/.test(is)));
  if (flag) {
    const role = flagRole(cell, has, guide);
    return role ? [as(role)] : [];
  }
  // how often a send was tried
  if (startIs(cell, /^Numeric/)) return has(/^other$/, ['before'], ['submit']) ? [as('attempted')] : [];
  const machine = machineRoles(values);
  if (machine.length) return machine.map(as);
  // what begins as a word of its own is no message
  if (!startsEmpty(cell)) return [];
  if (has(/^(text|other)$/, ['before'], ['submit']) && fieldOf(cell, guide) !== undefined) return [as('errors')];
  if (
    has(/^(text|other)$/, undefined, ['blur', 'change']) &&
    !own.some(({ branch }) => branch) &&
    fieldOf(cell, guide) !== undefined
  )
    return [as('errors')];
  if (shape === 'one' && has(/^(text|other)$/, ['success']) && has(/^(text|other)$/, ['failure']))
    return [as('submitted'), as('message')];
  if (has(/^(text|other|object|list)$/, ['failure', 'before'], ['submit']))
    return [as(shape === 'by-field' ? 'errors' : 'message')];
  // a counter or a list of what was sent is none
  const counts = startIs(cell, /^(Numeric|Array|New)/) || shape === 'list';
  if (has(/^(text|other|object)$/, ['success']) && !counts) return [as('submitted')];
  return [];
}

function startIs({ start }: Cell, type: RegExp): boolean {
  return start !== undefined && type.test(bare(start).type);
}

function flagRole(
  cell: Cell,
  has: (is: RegExp, branch?: StepBranch[], moments?: RunMoment[]) => boolean,
  guide: CourseGuide,
): StatusRole | undefined {
  const raised = has(/^true$/, ['before'], ['submit']);
  const loweredAfter = has(/^false$/, ['failure', 'always'], ['submit']);
  const loweredOnSuccess = has(/^false$/, ['success'], ['submit']);
  if (raised && loweredAfter) return 'submitting';
  if (raised && loweredOnSuccess) return guide.disables(cell) ? 'submitting' : 'attempted';
  if (raised) return cell.kind === 'ref' || guide.disables(cell) ? 'submitting' : 'attempted';
  if (has(/^true$/, ['success'])) return 'submitted';
  if (has(/^true$/, ['failure'])) return 'message';
  if (has(/^true$/, undefined, ['blur'])) return 'touched';
  const waits = has(/^false$/) && (has(/^true$/, undefined, ['first-view']) || startsTrue(cell));
  if (waits) return 'loading';
  if (/dirty|changed|modified|unsaved/i.test(cell.name) && has(/^true$/, undefined, ['change'])) return 'changed';
  return undefined;
}

/** Whether a cell begins as nothing: it is not written, null, an empty text, list or object. */
function startsEmpty({ start, begins }: Cell): boolean {
  if (!start) return begins === undefined || /^(null|undefined|''|""|\{\s*\}|\[\s*\]|false)$/.test(begins);
  const begun = bare(start);
  if (begun.isStringLiteral()) return begun.node.value === '';
  if (begun.isArrayExpression()) return begun.node.elements.length === 0;
  if (begun.isObjectExpression()) return begun.node.properties.length === 0;
  return begun.isNullLiteral() || begun.isIdentifier() || begun.isBooleanLiteral({ value: false });
}

function startsTrue({ start }: Cell): boolean {
  return start !== undefined && bare(start).isBooleanLiteral({ value: true });
}

/** A holder of one word for where the form stands: sending, sent, failed. */
function machineRoles(values: readonly (Told & { is: string })[]): StatusRole[] {
  const words = values.flatMap(({ value, branch }) =>
    value?.isStringLiteral() && /^[a-z][\w-]*$/i.test(value.node.value) ? [{ word: value.node.value, branch }] : [],
  );
  if (new Set(words.map(({ word }) => word)).size < 2) return [];
  const roles: StatusRole[] = [];
  if (
    words.some(
      ({ branch, word }) =>
        branch === 'before' &&
        /send|sav|submit|busy|pend|publish|load|work|post|stor|progress|wait/i.test(word) &&
        !/ed$/.test(word),
    )
  )
    roles.push('submitting');
  if (words.some(({ branch, word }) => branch === 'success' && !/idle|ready/i.test(word))) roles.push('submitted');
  if (words.some(({ branch, word }) => branch === 'failure' && !/idle|ready/i.test(word))) roles.push('message');
  return roles;
}

function shapeOf(cell: Cell, kinds: readonly string[]): Shape {
  const { start, type } = cell;
  const begun = start ? bare(start) : undefined;
  if (begun?.isArrayExpression() || begun?.isNewExpression() || kinds.includes('list')) return 'list';
  if (/^\[/.test(cell.begins ?? '')) return 'list';
  if (/^\{/.test(cell.begins ?? '')) return 'by-field';
  if (begun?.isObjectExpression() || kinds.some((kind) => /^(empty|flags)$/.test(kind))) return 'by-field';
  const named = type ? cell.at.script.text.slice(type.start ?? 0, type.end ?? 0) : '';
  if (kinds.includes('check') && /^[A-Z]\w*(<|$)/.test(named) && /Record|Partial|Errors|Problems|Messages/.test(named))
    return 'by-field';
  return 'one';
}

/** The field that a cell's name speaks of: `plotError`. */
export function fieldOf({ name }: { name: string }, { model }: Pick<CourseGuide, 'model'>): string | undefined {
  const stem = name
    .replace(/(Error|Problem|Message|Warning|Hint|Issue|Invalid|Fault|Complaint|Wrong|Text|Trouble)s?$/, '')
    .replace(/^(error|problem|message|bad|invalid|no)(For|Of|In|With)?/, '')
    .toLowerCase();
  if (stem === '') return undefined;
  return model.fields.find(
    (field) =>
      field.role === 'field' && (field.name.toLowerCase() === stem || field.name.toLowerCase().endsWith(`.${stem}`)),
  )?.name;
}
