import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import { isWithin, spanAt } from '../../course/cell.js';
import type { Status } from '../../form/life.js';
import type { FormSite } from '../approach.js';
import { memoised } from './names.js';
import type { CheckerRun, Scene } from './scene.js';
import { walk } from '../../source/traverse.js';

/** Status that is worked out while rendering: messages of a checker, whether anything was changed. */
export function derivedStatus(scene: Scene, kept: readonly Status[]): Status[] {
  const found: Status[] = [];
  for (const place of scene.places) {
    const body = renderingBody(place.path);
    if (!body?.isBlockStatement()) continue;
    for (const statement of body.get('body')) {
      if (!statement.isVariableDeclaration()) continue;
      for (const declarator of statement.get('declarations')) {
        const { id } = declarator.node;
        const init = declarator.get('init') as NodePath;
        if (!init.node || !t.isIdentifier(id)) continue;
        const value = memoised(init);
        if (value.isFunction()) continue;
        const at = { path: declarator as NodePath, script: place.script };
        const status = (role: Status['role'], shape: Status['shape']): void => {
          if (!kept.some(({ name }) => name === id.name))
            found.push({ role, name: id.name, shape, derived: true, span: spanAt(at) });
        };
        const checker = checkerBehind(value, place.script, scene);
        if (isFilled(declarator, place.script, scene)) status('errors', 'by-field');
        else if (checker) status('errors', shapeOfAnswer(checker, scene));
        else if (statesRule(value, scene)) status('errors', 'one');
        else if (
          /dirty|changed|modified|unsaved|pristine/i.test(id.name) &&
          scene.reads({ path: value, script: place.script }).length
        )
          status('changed', 'one');
      }
    }
  }
  return found;
}

/** The block that runs at every render. */
function renderingBody(component: NodePath): NodePath | undefined {
  if (component.isFunction()) return component.get('body') as NodePath;
  if (!component.isClass()) return undefined;
  const members = component.get('body').get('body') as NodePath[];
  const render = members.find((one) => one.isClassMethod() && t.isIdentifier(one.node.key, { name: 'render' }));
  return render?.isClassMethod() ? render.get('body') : undefined;
}

/** Whether a constant begins empty and is filled with messages while rendering: `if (!row) errors.row = 'Which row?'`. */
function isFilled(declarator: NodePath<t.VariableDeclarator>, script: FormSite['script'], { model }: Scene): boolean {
  const { id, init } = declarator.node;
  if (!t.isObjectExpression(init) || !t.isIdentifier(id)) return false;
  const written = new RegExp(`\\b${id.name}(\\.|\\[)[^=]*=[^=]`);
  return model.rules.some(({ span, statedIn, stated }) => {
    if (stated !== 'code' || statedIn || span.file !== script.file || span.start < (declarator.node.start ?? 0))
      return false;
    const lineEnd = script.text.indexOf('\n', span.end);
    return written.test(script.text.slice(span.start, lineEnd < 0 ? undefined : lineEnd + 200));
  });
}

/** The checker whose answer an expression is, and nothing more. */
function checkerBehind(value: NodePath, script: FormSite['script'], scene: Scene): CheckerRun | undefined {
  const down = (to: NodePath): CheckerRun | undefined => checkerBehind(to, script, scene);
  if (value.isConditionalExpression()) return down(value.get('consequent')) ?? down(value.get('alternate'));
  if (value.isLogicalExpression()) return down(value.get('right'));
  if (value.isCallExpression()) return scene.checks({ path: value, script });
  let found: CheckerRun | undefined;
  if (value.isBlockStatement())
    walk(value, {
      CallExpression(call) {
        found ??= scene.checks({ path: call, script });
      },
    });
  return found;
}

function shapeOfAnswer({ fn }: CheckerRun, { model }: Scene): Status['shape'] {
  if (!fn) return 'by-field';
  const own = model.rules.filter(({ statedIn }) => statedIn && isWithin(statedIn.fn, fn));
  return own.some(({ keyed }) => keyed) ? 'by-field' : 'one';
}

function statesRule(value: NodePath, { model, site }: Scene): boolean {
  const { start, end } = value.node;
  return model.rules.some(
    ({ span, stated, statedIn, message }) =>
      stated === 'code' &&
      !statedIn &&
      message !== undefined &&
      span.file === site.script.file &&
      span.start >= (start ?? 0) &&
      span.end <= (end ?? 0),
  );
}
