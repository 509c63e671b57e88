import type { FormModel } from '../../form/model.js';
import type { Script } from '../../source/script.js';
import type { WriteContext } from '../approach.js';
import { pascal } from '../form-names.js';

export interface VariableNames {
  value: string;
  setter: string;
}

/** Names that mean something else somewhere in a component: declared in it, taken from outside, or global. */
function takenNames(model: FormModel, script: Script): Set<string> {
  const taken = new Set(Object.keys(script.program.scope.getProgramParent().globals));
  const own = new Set(model.fields.map((field) => field.names.value).filter((name) => name !== undefined));
  script.program.traverse({
    Scope(path) {
      const start = path.node.start ?? 0;
      const inside = start >= model.span.start && (path.node.end ?? 0) <= model.span.end;
      const around = path.isProgram();
      if (!inside && !around) return;
      for (const [name, binding] of Object.entries(path.scope.bindings)) {
        if (around && !binding.referencePaths.some(({ node }) => (node.start ?? 0) >= model.span.start && (node.end ?? 0) <= model.span.end)) continue;
        const gone = model.declarations.some(({ span }) => span.file === script.file && (binding.identifier.start ?? 0) >= span.start && (binding.identifier.end ?? 0) <= span.end);
        if (!gone && !own.has(name)) taken.add(name);
      }
    },
  });
  return taken;
}

/** The names of each value's state variable: the one the component knows it by, or the value's own name where it is free. */
export function variableNames(model: FormModel, context: WriteContext): Map<string, VariableNames> {
  const taken = takenNames(model, context.script(model.file));
  const names = new Map<string, VariableNames>();
  for (const field of model.fields) {
    const wished = field.names.value ?? field.name;
    const value = [wished, `${wished}Value`, `current${pascal(wished)}`].find((name) => !taken.has(name)) ?? `${wished}Field`;
    const setter = [`set${pascal(wished)}`, `set${pascal(wished)}Value`, `change${pascal(wished)}`].find((name) => !taken.has(name)) ?? `update${pascal(wished)}`;
    taken.add(value).add(setter);
    names.set(field.name, { value, setter });
  }
  return names;
}
