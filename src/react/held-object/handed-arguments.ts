import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Code, Hole } from '../../form/code.js';
import type { Assignment } from '../../form/uses.js';
import type { Script } from '../../source/script.js';
import { plainCode, shorthandKey } from '../code.js';
import type { FunctionPath } from '../components.js';

/** A value that is nothing but one argument is that argument's own code. */
export function wholeArgument(code: Code): Code {
  const only = code.holes.length === 1 ? code.holes[0] : undefined;
  return only?.kind === 'given' && only.start === code.start && only.end === code.end && only.suffix === ''
    ? only.code
    : code;
}

/** A value that changes along with the named field, with the arguments of a call in the places of the parameters. */
export function withArguments(
  rest: Assignment,
  outer: FunctionPath,
  call: NodePath<t.CallExpression>,
  script: Script,
): Assignment {
  if (rest.value.kind !== 'value') return rest;
  const { code } = rest.value;
  const holes = argumentHoles(outer, call, -1, code, script).filter(
    (hole) => !code.holes.some(({ start, end }) => hole.start >= start && hole.end <= end),
  );
  if (!holes.length) return rest;
  const ordered = [...code.holes, ...holes].sort((a, b) => a.start - b.start);
  return { ...rest, value: { kind: 'value', code: wholeArgument({ ...code, holes: ordered }) } };
}

/** The other arguments of a call, in the places of the parameters they are given for. */
export function argumentHoles(
  outer: FunctionPath,
  call: NodePath<t.CallExpression>,
  position: number,
  value: { start: number; end: number },
  script: Script,
): Hole[] {
  const holes: Hole[] = [];
  for (const [index, parameter] of outer.node.params.entries()) {
    if (index === position || !t.isIdentifier(parameter)) continue;
    const given = call.get('arguments')[index];
    for (const reference of outer.scope.getBinding(parameter.name)?.referencePaths ?? []) {
      const start = reference.node.start ?? 0;
      if (start < value.start || start >= value.end) continue;
      const end = reference.node.end ?? 0;
      // { [key]: undefined } becomes { tree: undefined }
      const property = reference.parentPath;
      const isKey = property?.isObjectProperty() === true && property.node.computed && reference.key === 'key';
      if (isKey && given?.isStringLiteral() && script.text[start - 1] === '[' && script.text[end] === ']') {
        const { value: key } = given.node;
        const text = t.isValidIdentifier(key, false)
          ? key
          : script.text.slice(given.node.start ?? 0, given.node.end ?? 0);
        holes.push({ kind: 'text', start: start - 1, end: end + 1, text });
        continue;
      }
      const isWhole = start === value.start && reference.node.end === value.end;
      const shorthand = isWhole ? undefined : shorthandKey(reference);
      const place = { start, end: reference.node.end ?? 0, ...(shorthand === undefined ? {} : { shorthand }) };
      if (given)
        holes.push({
          kind: 'given',
          ...place,
          code: plainCode(script.file, given),
          suffix: '',
          wrap: !given.isIdentifier() && !given.isMemberExpression() && !given.isLiteral() && !isWhole,
        });
      else holes.push({ kind: 'text', ...place, text: 'undefined' });
    }
  }
  return holes;
}
