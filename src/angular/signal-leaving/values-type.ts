import * as t from '@babel/types';
import type { LoadScript } from '../../source/project-files.js';
import type { Script } from '../../source/script.js';
import { declarationNamed } from '../../source/type-members.js';
import { templateChain } from '../chains.js';
import { partAt, signalArgument } from '../class-reading.js';
import type { AngularComponent } from '../component.js';
import type { FoundForm } from '../signal-model/found-form.js';
import { rowTypeOf } from '../rows.js';
import { keysOf, leaveNode, textAt, typeFrom, type Leaving, type ListOfRows } from './leaving.js';

interface TypeText {
  text: string;
  script: Script;
}

/** Text of the values' type: what the signal is given, or what the start it begins as is typed with. */
export function typeOfValues(
  { type, model }: FoundForm,
  { script }: AngularComponent,
  load: LoadScript,
): TypeText | undefined {
  if (type) return { text: textAt(script, type), script };
  const value = signalArgument(model)?.value;
  // `signal({ ...empty })` holds what the constant does
  const [spread, ...more] = t.isObjectExpression(value) ? value.properties : [];
  const copied = t.isSpreadElement(spread) && !more.length && t.isIdentifier(spread.argument) ? spread.argument : value;
  const named = t.isIdentifier(copied)
    ? copied.name
    : t.isCallExpression(value) && t.isIdentifier(value.callee)
      ? value.callee.name
      : undefined;
  if (named === undefined) return undefined;
  return new RegExp(`\\b${named}\\b`).test(script.text) ? typeOfStart(named, script, load) : undefined;
}

function typeOfStart(name: string, script: Script, load: LoadScript): TypeText | undefined {
  const found = declarationNamed(name, script, load);
  if (!found) return undefined;
  const { node } = found;
  const fn = t.isVariableDeclarator(node) ? node.init : node;
  const annotation =
    t.isArrowFunctionExpression(fn) || t.isFunctionDeclaration(fn) || t.isFunctionExpression(fn)
      ? fn.returnType
      : t.isVariableDeclarator(node) && t.isIdentifier(node.id)
        ? node.id.typeAnnotation
        : undefined;
  const text = t.isTSTypeAnnotation(annotation) ? textAt(found.script, annotation.typeAnnotation) : undefined;
  return text !== undefined && /^\w+$/.test(text) ? { text, script: found.script } : undefined;
}

/** The lists whose rows the template repeats. */
export function listsOf(leaving: Leaving): ListOfRows[] {
  const { component, found, leaves, load, context } = leaving;
  const { template } = component;
  const paths = new Set<string>();
  for (const name of template.names) {
    if (name.name !== found.form.name || name.variable) continue;
    const repeats = template.views.some(
      (view) => view.kind === 'row' && name.around.some((node) => node === view.expression),
    );
    const chain = templateChain(name, template.place);
    if (repeats && chain.links.every(({ call }) => !call))
      paths.add(
        chain.links
          .slice(1)
          .map(({ key }) => key)
          .join('.'),
      );
  }
  return [...paths].flatMap((one): ListOfRows[] => {
    const leaf = leaves.find(({ path: at }) => at === one);
    const part = partAt(component, found.start, one.split('.'), load);
    const row = rowTypeOf(part?.written?.node);
    const keys = row && part?.written ? keysOf({ node: row, script: part.written.script }, load) : [];
    if (!leaf || !row || !part?.written || !keys.length) {
      leaveNode(leaving, component.script, found.model.node, `the type of the rows of ${one} is not told`);
      return [];
    }
    const type = textAt(part.written.script, row);
    typeFrom(leaving, type, part.written.script);
    const last = one.split('.').at(-1) ?? 'rows';
    const single = /^[A-Z]\w*$/.test(type) ? type.charAt(0).toLowerCase() + type.slice(1) : last.replace(/s$/, '');
    return [
      {
        path: one,
        keys,
        type,
        make: context.freeName(`${single}Controls`),
        change: context.freeName(`set${last.charAt(0).toUpperCase()}${last.slice(1)}`),
      },
    ];
  });
}
