import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { Cell } from '../../course/cell.js';
import type { FormModel } from '../../form/model.js';
import { bare, type Placed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { carriesOut, checkerRun } from './calls.js';
import { cellAsked, cellsOf, tellings } from './cells.js';
import { entriesOf } from './entries.js';
import { calledHooks, remember, type NameTrail } from './names.js';
import type { Scene } from './scene.js';
import { fieldsRead } from './values-read.js';
import { walk } from '../../source/traverse.js';

/** Looks over a component once. */
export function sceneOf(site: FormSite, model: FormModel): Scene {
  const component: Placed = { path: site.component.path, script: site.script };
  const hooks = site.component.kind === 'function' ? calledHooks(component, site.load) : [];
  const trail: NameTrail = { hooks, load: site.load };
  const places = [component, ...new Map(hooks.map(({ fn }) => [fn.path.node, fn])).values()];
  const all = cellsOf(places, model);
  const holders = model.uses.length
    ? []
    : all.filter(
        (cell) =>
          cell.name === model.holder?.name ||
          ((model.holder === undefined || model.approach === 'own-hook') && isHolder(cell)),
      );
  const cells = all.filter((cell) => !holders.includes(cell));
  const scene: Scene = {
    site,
    model,
    places,
    trail,
    given: new Map(),
    cells,
    holders,
    entries: [],
    tells: (at) => tellings(at, cells, model, trail),
    checks: (at) => checkerRun(at, scene),
    reads: (at) => fieldsRead(at, scene),
    sends: (at) => carriesOut(at, scene),
    disables: (cell) => disables(cell, scene),
  };
  for (const { call, fn } of hooks) remember(scene.given, fn, call, homeOf(call, places, site.script));
  scene.entries = entriesOf(component, scene);
  return scene;
}

/** The file that a call stands in. */
function homeOf(call: NodePath, places: readonly Placed[], script: Placed['script']): Placed['script'] {
  const home = places.find(({ path }) => call.findParent((parent) => parent.node === path.node) !== null);
  return home?.script ?? script;
}

/** State that begins as what the form begins as: an object of values, or what a hook is given. */
function isHolder({ kind, start }: Cell): boolean {
  if (kind !== 'variable' || !start) return false;
  const plain = bare(start);
  if (plain.isObjectExpression()) return plain.node.properties.length > 0;
  return (plain.isIdentifier() && !isPlainByDefault(plain)) || plain.isCallExpression();
}

/** Whether a name is a parameter that stands for a text, a number or a flag where none is given: `(initially = false)`. */
function isPlainByDefault(path: NodePath<t.Identifier>): boolean {
  const declared = path.scope.getBinding(path.node.name)?.path;
  return declared?.isAssignmentPattern() === true && t.isLiteral(declared.node.right);
}

/** Whether the markup disables something while a cell is up. */
function disables(cell: Cell, { site, cells, trail }: Scene): boolean {
  let found = false;
  const { path: component } = site.component;
  walk(component, {
    JSXAttribute(attribute) {
      const { name } = attribute.node.name;
      if (typeof name !== 'string' || !/^(disabled|aria-busy|inert|loading|busy)$/.test(name)) return;
      const look = (path: NodePath): void => {
        if (cellAsked({ path, script: site.script }, cells, trail) === cell) found = true;
      };
      walk(attribute, { Identifier: look, MemberExpression: look });
    },
  });
  return found || /sending|saving|submitting|busy|pending|posting/i.test(cell.name);
}
