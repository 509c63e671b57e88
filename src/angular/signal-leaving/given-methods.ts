import { Call, PropertyRead } from '@angular/compiler';
import { spanOfNode } from '../../form/code.js';
import { classChain } from '../chains.js';
import type { TemplateName } from '../template-model.js';
import { hiddenAt } from './hidden-fields.js';
import { leave, type Leaving } from './leaving.js';
import { type Base, type Place, replace, unclear, pathText } from './places.js';

/** The method that a field is given to in the template, and as which argument. */
export function givenIn(
  { around, start }: TemplateName,
  { component }: Leaving,
): { method: string; index: number } | undefined {
  const { base } = component.template.place;
  for (const node of around) {
    if (!(node instanceof Call) || !(node.receiver instanceof PropertyRead)) continue;
    const index = node.args.findIndex(
      ({ sourceSpan }) => sourceSpan.start + base <= start && sourceSpan.end + base > start,
    );
    if (index >= 0 && component.members.has(node.receiver.name)) return { method: node.receiver.name, index };
  }
  return undefined;
}

/** A field that a method is given: it knows it by its path. */
export function sayGiven(place: Place, end: number, method: string | undefined, index: number): void {
  const { base, chain, leaving } = place;
  const { given: known } = leaving;
  const before = method === undefined ? undefined : known.get(method);
  const other = before && (before.index !== index || before.state !== base.state);
  if (method === undefined || other || !leaving.component.members.get(method)?.path.isClassMethod())
    return unclear(place, chain.links.length, 'the field itself is handed on');
  if (hiddenAt(base.plain, 'touched', leaving))
    return unclear(place, chain.links.length, 'a method is given a field that does not always count');
  known.set(method, { index, state: base.state, count: (before?.count ?? 0) + 1 });
  replace(place, chain.start, end, pathText(place));
}

/** Methods that are given fields take their paths. */
export function sayMethods(leaving: Leaving, say: Place['say']): void {
  const { component, found } = leaving;
  const { script, members, template } = component;
  for (const [name, { index, state, count }] of leaving.given) {
    const member = members.get(name);
    const parameter = member?.path.isClassMethod() ? member.path.get('params')[index] : undefined;
    if (!member || !parameter) continue;
    const span = spanOfNode(script.file, parameter.node);
    const calls = member.references.length + template.names.filter((one) => one.name === name && !one.variable).length;
    if (!parameter.isIdentifier() || calls !== count) {
      leave(leaving, span, 'it is given something else than fields as well');
      continue;
    }
    const own = parameter.node.name;
    const annotation = parameter.node.typeAnnotation;
    const to = annotation?.end ?? span.end;
    leaving.edits.push({ file: script.file, start: span.start, end: to, text: `${own}: string` });
    leaving.ledger.push({
      entry: 'carried',
      span: { ...span, end: to },
      what: script.text.slice(span.start, to),
      why: 'it takes the path of a field',
      takenOver: true,
    });
    const base: Base = { control: `this.${found.form.name}.get(${own})`, path: own, plain: '?', state, byPath: true };
    for (const reference of member.path.scope.getOwnBinding(own)?.referencePaths ?? [])
      say({ leaving, base, chain: classChain(script.file, reference, own), path: reference, name: undefined, say });
  }
}
