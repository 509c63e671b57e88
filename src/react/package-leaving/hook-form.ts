import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { RewritePlan } from '../../form/ledger.js';
import type { FormModel } from '../../form/model.js';
import { leftByHand } from '../../form/writing.js';
import { memberNamed } from '../../source/behind-names.js';
import type { FormSite } from '../approach.js';
import { callsOf } from '../hook-calls.js';
import { controlsIn, type JsxControl } from '../jsx-controls.js';
import { accountFor, blockText, planOf, type Block } from './block.js';
import { packageModel } from './fields.js';
import { commentsIn, depthOf, isLeft, says, stays, type Leaving } from './leaving.js';
import { declaredNames, takePatterns } from './starts.js';
import { membersTaken, type Members } from './members.js';

/** The call of a package’s hook by which a component makes its form, with what it is given and what it gives. */
export interface HookForm {
  /** `const form = useForm(…)`, as the statement’s only declaration. */
  hook: NodePath<t.VariableDeclarator>;
  call: NodePath<t.CallExpression>;
  /** What the hook is called. */
  name: string;
  /** What it is given, by name. */
  options: Map<string, NodePath>;
  /** Options that are no plain pairs of name and value. */
  unclear: NodePath[];
  taken: Members;
  /** The type that is written for the values. */
  type: t.TSType | undefined;
}

/** Every form that a component makes with one hook of a package. */
export function formsByHook({ component }: FormSite, module: string, hook: string): HookForm[] {
  if (component.kind !== 'function') return [];
  const found: HookForm[] = [];
  for (const { call, name } of callsOf(component.path, module)) {
    const form = name === hook ? hookFormAt(call, hook) : undefined;
    if (form) found.push(form);
  }
  return found;
}

/** The constant that a call alone gives a value, and the statement that declares it. */
export function declaredBy(
  call: NodePath<t.CallExpression>,
):
  | { declarator: NodePath<t.VariableDeclarator>; target: NodePath; statement: NodePath<t.VariableDeclaration> }
  | undefined {
  const declarator = call.parentPath;
  const statement = declarator.parentPath;
  if (!declarator.isVariableDeclarator() || !statement?.isVariableDeclaration()) return undefined;
  if (statement.node.declarations.length > 1) return undefined;
  return { declarator, target: declarator.get('id') as NodePath, statement };
}

function hookFormAt(call: NodePath<t.CallExpression>, name: string): HookForm | undefined {
  const declared = declaredBy(call);
  const [given] = call.get('arguments') as (NodePath | undefined)[];
  if (!declared) return undefined;
  const { declarator, target } = declared;
  return {
    hook: declarator,
    call,
    name,
    ...optionsIn(given),
    taken: membersTaken(target),
    type: call.node.typeParameters?.params[0] as t.TSType | undefined,
  };
}

function optionsIn(given: NodePath | undefined): Pick<HookForm, 'options' | 'unclear'> {
  const options = new Map<string, NodePath>();
  const unclear: NodePath[] = given && !given.isObjectExpression() ? [given] : [];
  for (const property of given?.isObjectExpression() ? given.get('properties') : []) {
    const { node } = property;
    const key = t.isSpreadElement(node) || node.computed ? undefined : node.key;
    const value = t.isIdentifier(key) && given ? memberNamed(given, key.name) : undefined;
    if (t.isIdentifier(key) && value) options.set(key.name, value);
    else unclear.push(property);
  }
  return { options, unclear };
}

/** Leaves by hand what a form is given that is not said without the package. */
export function refuseUnknown(
  leaving: Leaving,
  { unclear, taken, options }: Pick<HookForm, 'unclear' | 'taken' | 'options'>,
  known: ReadonlySet<string>,
): void {
  for (const one of unclear) stays(leaving, one, 'what it is given here is told only when the form runs');
  for (const one of taken.unclear) stays(leaving, one, 'the form is handed on as a whole');
  for (const [name, path] of options)
    if (!known.has(name)) stays(leaving, path, `the option ${name} is not said without the package yet`);
}

/** The names by which the package’s members came go with it. */
export function forgetNames({ gone }: Leaving, targets: readonly NodePath[]): void {
  for (const path of declaredNames(targets)) {
    const binding = path.scope.getBinding(path.node.name);
    if (binding) gone.add(binding);
  }
}

/** Where a component took members of its hook by name. */
export function targetsOf({ hook, taken }: HookForm): NodePath[] {
  return [hook.get('id') as NodePath, ...taken.patterns.map((one) => one.get('id') as NodePath)];
}

/**
 * The plan of a form whose hook gives way to a block of the component.
 * @param kept options that are said elsewhere with their comments
 * @param add adds its lines to the block
 */
export function planByHook(
  leaving: Leaving,
  model: FormModel,
  form: HookForm,
  kept: readonly string[],
  block: Block,
  add: () => void,
): RewritePlan {
  const parts = kept.flatMap((name) => form.options.get(name)?.node ?? []);
  block.lines.push(...commentsIn(leaving, form.call.node, parts));
  add();
  const statement = form.hook.parentPath;
  says(leaving, statement, blockText(block, depthOf(leaving, statement), leaving, statement.node.end ?? undefined));
  takePatterns(leaving, form.taken.patterns);
  if (isLeft(leaving)) return leftByHand(leaving.ledger);
  accountFor(leaving, model, form.name);
  return planOf(leaving, block);
}

/**
 * The model of a form that a hook makes, with the controls that belong to its fields.
 * @param parts components that the form is handed to, each as a site of its own, with its names for the form
 */
export function modelByHook(
  site: FormSite,
  approach: string,
  form: HookForm,
  names: readonly string[],
  fieldOf: (control: JsxControl) => string | undefined,
  parts: readonly { site: FormSite; objects: readonly NodePath<t.Identifier>[] }[] = [],
): FormModel {
  const controls = [site, ...parts.map((part) => part.site)].flatMap((own) =>
    controlsIn(own.component.path, own.script.text).flatMap((control) => {
      const field = fieldOf(control);
      return field === undefined ? [] : [{ field, control, site: own }];
    }),
  );
  const id = form.hook.get('id') as NodePath;
  const start = form.options.get('defaultValues');
  return packageModel(site, approach, {
    parts,
    start,
    controls,
    made: form.hook.parentPath,
    objects: id.isIdentifier() ? [id] : [],
    names,
  });
}
