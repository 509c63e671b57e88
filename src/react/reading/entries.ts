import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { flowOf, type FlowEvent } from '../../course/flow.js';
import type { RunMoment } from '../../form/life.js';
import type { Placed } from '../../source/behind-names.js';
import { attributesOf } from '../jsx-controls.js';
import { carriesOut } from './calls.js';
import { functionBehind, remember } from './names.js';
import type { Entry, Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** The ways in which code of a form begins to run: events of the markup, effects. */
export function entriesOf(component: Placed, scene: Scene): Entry[] {
  const found: Entry[] = [];
  const flow = (fn: Placed): FlowEvent[] =>
    flowOf(fn, {
      follow(call, at) {
        if (scene.tells(at).length || scene.checks(at) !== undefined) return undefined;
        const target = functionBehind(
          { path: call.get('callee') as NodePath, script: at.script },
          scene.trail,
          scene.given,
        );
        if (target) remember(scene.given, target, call, at.script);
        return target;
      },
    });
  const { element: region } = scene.site.region;
  const inRegion = (path: NodePath): boolean =>
    !region ||
    scene.site.regions.length < 2 ||
    path.node === region.node ||
    path.findParent((one) => one.node === region.node) !== null;
  walk(component.path, {
    JSXElement(element) {
      if (!inRegion(element)) return;
      for (const { name, value } of attributesOf(element)) {
        if (!value || !/^(on|handle)[A-Z]|^action$/.test(name)) continue;
        const fn = functionBehind({ path: value, script: component.script }, scene.trail, scene.given);
        if (!fn) continue;
        const isForm = element.node === region?.node;
        const moment = momentOf(name, isForm);
        const control = scene.model.controls.find(
          ({ span }) => span.start === element.node.start && span.end === element.node.end,
        );
        found.push({
          moment,
          of: control ? [control.field] : 'all',
          events: flow(fn),
          at: fn,
          submits: isForm && /^on(Submit|Finish)$|^action$/.test(name),
          event: name,
          given: value,
        });
      }
    },
  });
  for (const place of scene.places)
    walk(place.path, {
      CallExpression(call) {
        const { callee } = call.node;
        const name = t.isIdentifier(callee) ? callee.name : '';
        const [fn, list] = call.get('arguments') as (NodePath | undefined)[];
        if (!/^use\w*Effect$/.test(name) || !fn?.isFunction()) return;
        const once = list?.isArrayExpression() === true && list.node.elements.length === 0;
        const at = { path: fn as NodePath, script: place.script };
        found.push({ moment: once ? 'first-view' : 'change', of: 'all', events: flow(at), at, submits: false });
      },
    });
  if (!found.some(({ submits }) => submits)) markSender(found, scene);
  return found;
}

/** Where no form's event sends, the button whose click does. */
function markSender(entries: Entry[], scene: Scene): void {
  for (const entry of entries) {
    if (!/^on(Click|Press|PointerUp|MouseUp|MouseDown)$/.test(entry.event ?? '')) continue;
    const sends = entry.events.some((event) => event.kind === 'call' && event.statement && carriesOut(event, scene));
    if (!sends) continue;
    entry.submits = true;
    entry.moment = 'submit';
    return;
  }
}

function momentOf(event: string, isForm: boolean): RunMoment {
  if (/blur|focusout/i.test(event)) return 'blur';
  if (isForm && /^on(Submit|Finish)$|^action$/.test(event)) return 'submit';
  return 'change';
}
