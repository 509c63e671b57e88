import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { spanOfNode } from '../../form/code.js';
import { wholeLines } from '../../source/removal.js';
import { classChain, type Link } from '../chains.js';
import { textAt } from './leaving.js';
import { type Place, replace, unclear } from './places.js';
import { nameOf } from './rule-texts.js';

/** A constant that stands for a field or its state. */
export function sayAlias(place: Place, declarator: NodePath<t.VariableDeclarator>): void {
  const { chain, leaving } = place;
  const { id } = declarator.node;
  const alias = t.isIdentifier(id) ? declarator.scope.getBinding(id.name) : undefined;
  if (!alias?.constant || !t.isIdentifier(id))
    return unclear(place, chain.links.length, 'the field is taken by a name');
  const { file } = leaving.component.script;
  for (const path of alias.referencePaths)
    place.say({ ...place, chain: classChain(file, path, id.name), path, name: undefined });
  const declaration = declarator.parentPath;
  if (!declaration.isVariableDeclaration() || declaration.node.declarations.length > 1)
    return unclear(place, chain.links.length, 'the field is taken by a name beside others');
  const { script } = leaving.component;
  const gone = wholeLines(script.text, spanOfNode(script.file, declaration.node));
  replace(place, gone.start, gone.end, '');
}

/** A loop that touches every field of a group: `for (const [, field] of this.entry) field().markAsTouched()`. */
export function sayEach(place: Place, loop: NodePath<t.ForOfStatement>, end: number): void {
  const { base, chain, leaving } = place;
  const { left, body } = loop.node;
  const pattern = t.isVariableDeclaration(left) ? left.declarations[0]?.id : undefined;
  const [key, field] = t.isArrayPattern(pattern) ? pattern.elements : [];
  const { script } = leaving.component;
  const name = nameOf(field);
  const said = textAt(script, body)
    .replace(/^\{\s*|\s*\}$/g, '')
    .replace(/;$/, '');
  if (!pattern || key || name === undefined || !new RegExp(`^${name}\\(\\)\\.markAs(Touched|Dirty)\\(\\)$`).test(said))
    return unclear(place, chain.links.length, 'its fields are looked through');
  const at = script.text.indexOf(`${name}()`, body.start ?? 0) + name.length;
  leaving.edits.push({ file: script.file, start: pattern.start ?? 0, end: pattern.end ?? 0, text: name });
  leaving.edits.push({ file: script.file, start: at, end: at + 2, text: '' });
  replace(place, chain.start, end, `Object.values(${base.control}.controls)`);
}

/** Members of a field's state that are taken out of it: `const { touched, invalid } = this.entry.town()`. */
export function sayTaken(place: Place, declarator: NodePath<t.VariableDeclarator>): void {
  const { leaving, chain } = place;
  const { script } = leaving.component;
  const { id } = declarator.node;
  const declaration = declarator.parentPath;
  const properties = t.isObjectPattern(id) ? id.properties : [];
  const plain = properties.every((one) => t.isObjectProperty(one) && nameOf(one.key) && nameOf(one.value));
  if (!plain || !declaration.isVariableDeclaration() || declaration.node.declarations.length > 1)
    return unclear(place, chain.links.length, 'the state of a field is taken apart');
  for (const property of properties) {
    if (!t.isObjectProperty(property)) continue;
    const local = nameOf(property.value) ?? '';
    for (const path of declarator.scope.getBinding(local)?.referencePaths ?? []) {
      const own = classChain(script.file, path, local);
      const [first, ...rest] = own.links;
      if (!first) continue;
      const state: Link = { key: '', end: own.start, call: undefined, computed: undefined };
      const links = [state, { ...first, key: nameOf(property.key) ?? '' }, ...rest];
      place.say({ ...place, chain: { ...own, links }, path, name: undefined });
    }
  }
  const gone = wholeLines(script.text, spanOfNode(script.file, declaration.node));
  replace(place, gone.start, gone.end, '');
}
