import type { NodePath } from '@babel/traverse';
import type { FormModel } from '../../form/model.js';
import type { Use } from '../../form/uses.js';
import type { Script } from '../../source/script.js';
import type { WriteContext } from '../../form/writing.js';
import { isReserved, pascal } from '../form-names.js';
import { walk } from '../../source/traverse.js';

export interface VariableNames {
  value: string;
  setter: string;
}

/** Names that mean something else: anywhere in the component, or only around certain places. */
interface Taken {
  everywhere: Set<string>;
  around(name: string, place: { start: number; end: number }): boolean;
}

function takenNames(model: FormModel, script: Script): Taken {
  const { span } = model;
  const inComponent = (start: number, end: number): boolean => start >= span.start && end <= span.end;
  const goes = (start: number, end: number): boolean =>
    model.declarations.some(
      (declaration) =>
        declaration.span.file === script.file && start >= declaration.span.start && end <= declaration.span.end,
    );
  const everywhere = new Set<string>();
  for (const [name, node] of Object.entries(script.program.scope.getProgramParent().globals)) {
    if (inComponent(node.start ?? 0, node.end ?? 0)) everywhere.add(name);
  }
  const own = new Set(model.fields.map((field) => field.names.value));
  const scopes: { path: NodePath; names: Set<string> }[] = [];
  walk(script.program, {
    Scope(path) {
      const [start, end] = [path.node.start ?? 0, path.node.end ?? 0];
      if (!inComponent(start, end)) return;
      const names = Object.values(path.scope.bindings).filter(
        (binding) => !goes(binding.identifier.start ?? 0, binding.identifier.end ?? 0),
      );
      scopes.push({ path, names: new Set(names.map(({ identifier }) => identifier.name)) });
    },
  });
  const component = scopes.find(({ path }) =>
    model.declarations.some(
      (one) => one.role === 'state' && (path.node.start ?? 0) <= one.span.start && (path.node.end ?? 0) >= one.span.end,
    ),
  );
  for (const name of component?.names ?? []) if (!own.has(name)) everywhere.add(name);
  for (const [name, binding] of Object.entries(script.program.scope.bindings)) {
    const used = binding.referencePaths.some(
      ({ node }) => inComponent(node.start ?? 0, node.end ?? 0) && !goes(node.start ?? 0, node.end ?? 0),
    );
    if (used) everywhere.add(name);
  }
  return {
    everywhere,
    around: (name, place) =>
      scopes.some(({ path, names }) => {
        const [start, end] = [path.node.start ?? 0, path.node.end ?? 0];
        // a function that stands at the place itself goes
        const goesToo = start >= place.start && end <= place.end;
        return path !== component?.path && names.has(name) && !goesToo && start <= place.start && end > place.start;
      }),
  };
}

/** Places at which a field's value or its setter will be named. */
function placesOf(field: string, uses: readonly Use[]): { start: number; end: number }[] {
  return uses
    .filter((use) => {
      if (use.kind === 'read' || use.kind === 'hand-on') return use.field === field;
      if (use.kind === 'set' || use.kind === 'made-handler') {
        return use.assignments.some(
          (one) => one.field === field || (one.value.kind === 'from-previous' && one.value.reads.includes(field)),
        );
      }
      return use.kind !== 'depend';
    })
    .map(({ kind, span }) => (kind === 'hand-on' ? span : { start: span.start, end: span.start }));
}

/** The names of each value's state variable: the one the component knows it by, or the value's own name where it is free. */
export function variableNames(model: FormModel, context: WriteContext): Map<string, VariableNames> {
  const taken = takenNames(model, context.script(model.file));
  const names = new Map<string, VariableNames>();
  // an object that is asked for as a whole keeps its name
  if (model.holder && model.uses.some((use) => use.kind === 'read-all' && !use.listed))
    taken.everywhere.add(model.holder.name);
  for (const field of model.fields) {
    const places = placesOf(field.name, model.uses);
    const isFree = (name: string): boolean =>
      !isReserved(name) && !taken.everywhere.has(name) && !places.some((place) => taken.around(name, place));
    const wished = field.names.value ?? field.name;
    const value = [wished, `${wished}Value`, `current${pascal(wished)}`].find(isFree) ?? `${wished}Field`;
    const setter =
      [`set${pascal(wished)}`, `set${pascal(wished)}Value`, `change${pascal(wished)}`].find(isFree) ??
      `update${pascal(wished)}`;
    taken.everywhere.add(value).add(setter);
    names.set(field.name, { value, setter });
  }
  return names;
}
