import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { keyText, valuesWith } from '../package-leaving/apart.js';
import { isSeenAt, says, stays, textIn } from '../package-leaving/leaving.js';
import { callOf, type MemberPlace } from '../package-leaving/members.js';
import { attributeOf, nameText } from '../package-leaving/ties.js';
import type { TakenApart } from './form.js';

/** Says what a member of the form is without the package. */
export function sayMember(apart: TakenApart, { member, path }: MemberPlace): void {
  const { leaving, names, needs, fields } = apart;
  // elements are said as a whole
  if (path.isJSXMemberExpression()) return;
  const call = callOf(path);
  const refuse = (): void => stays(leaving, call ?? path, `${member} of the package is not said here without it yet`);
  switch (member) {
    case 'handleSubmit':
      if (!call || call.node.arguments.length) return refuse();
      needs.add('submit');
      says(leaving, path, names.submit);
      return;
    case 'reset': {
      needs.add('reset');
      leaving.turns.push({ path, does: 'sets' });
      if (call && !call.node.arguments.length) says(leaving, path, names.reset);
      else if (attributeOf(path)?.name === 'onClick') says(leaving, path, `() => ${names.reset}()`);
      else refuse();
      return;
    }
    case 'setFieldValue': {
      const [name, value, ...more] = (call?.get('arguments') ?? []) as NodePath[];
      const field = name?.isStringLiteral() && fields.includes(name.node.value) ? name.node.value : undefined;
      if (
        !call ||
        field === undefined ||
        !value ||
        more.length ||
        value.isFunction() ||
        !isSeenAt(leaving, call, names.values)
      )
        return refuse();
      needs.add('change');
      leaving.turns.push({ path: call, does: 'whole' });
      says(leaving, call, () =>
        apart.changes(valuesWith(apart, `${keyText(field)}: ${textIn(leaving, value)}`), nameText(apart, field)),
      );
      return;
    }
    case 'getFieldValue': {
      const [name] = call?.node.arguments ?? [];
      if (!call || !t.isStringLiteral(name) || !fields.includes(name.value) || !isSeenAt(leaving, call, names.values))
        return refuse();
      leaving.turns.push({ path: call, does: 'reads' });
      says(leaving, call, `${names.values}.${name.value}`);
      return;
    }
    case 'store':
      // what follows the store is said as a whole
      if (path.parentPath?.isCallExpression() && path.key === 0) return;
      return refuse();
    default:
      refuse();
  }
}
