import type { NodePath } from '@babel/traverse';
import * as t from '@babel/types';
import type { FieldComponent } from '../package-leaving/field-components.js';
import { otherwise } from '../package-leaving/conditions.js';
import { nameOfMember } from '../package-leaving/given-props.js';
import { says, saysAt, stays } from '../package-leaving/leaving.js';
import { walk } from '../../source/traverse.js';

/** What takes the place of the package’s types for a field that a component is told by name. */
const meant: Readonly<Record<string, string>> = {
  Path: 'string',
  FieldPath: 'string',
  FieldPathByValue: 'string',
  UseControllerProps: '{ name: string }',
};

/**
 * Says the package’s types of a component’s properties without it: names are texts, and a type that only stood for all
 * values goes. Members that the component is given no more are said elsewhere.
 */
export function sayFieldTypes(part: FieldComponent, statement: t.Node | undefined): void {
  const { leaving, component } = part;
  if (!leaving.script.typescript) return;
  const declared = declarationOf(part);
  const said = new Set<t.Node>();
  const gone = new Set<t.Node>(statement ? [statement] : []);
  const inHanded = (path: NodePath): boolean =>
    path.findParent((one) => one.isTSPropertySignature() && part.gone.has(nameOfMember(one.node))) !== null;
  for (const root of [component.path, ...(declared ? [declared] : [])])
    walk(root, {
      TSTypeReference(path) {
        const name = importedType(path);
        if (name === undefined || inHanded(path) || isInside(path, gone)) return;
        const text = meant[name];
        if (text === undefined) {
          if (!isConstraint(path)) stays(leaving, path, `the type ${name} of the package is not said without it yet`);
          return;
        }
        said.add(path.node);
        says(leaving, path, text);
        if (text !== 'string') otherwise(leaving, [path.node.start, path.node.end], path.node, 'it is told by name');
      },
      TSExpressionWithTypeArguments(path) {
        const { node } = path;
        if (!t.isIdentifier(node.expression, { name: 'UseControllerProps' })) return;
        stays(leaving, path, 'what it adds to is not said without the package yet');
      },
    });
  for (const root of [component.path, ...(declared ? [declared] : [])]) sayParameters(part, root, said, gone, inHanded);
}

/** The declaration of the type of what a component is given, where its file has one. */
function declarationOf({ component, leaving }: FieldComponent): NodePath | undefined {
  const [parameter] = component.path.node.params;
  const note = t.isObjectPattern(parameter) || t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
  const type = t.isTSTypeAnnotation(note) ? note.typeAnnotation : undefined;
  const name = t.isTSTypeReference(type) && t.isIdentifier(type.typeName) ? type.typeName.name : undefined;
  let found: NodePath | undefined;
  walk(leaving.script.program, {
    TSInterfaceDeclaration(path) {
      if (path.node.id.name === name) found = path;
    },
    TSTypeAliasDeclaration(path) {
      if (path.node.id.name === name) found = path;
    },
  });
  return found;
}

/** The name of a type that comes from the package. */
function importedType(path: NodePath<t.TSTypeReference>): string | undefined {
  const { typeName } = path.node;
  if (!t.isIdentifier(typeName)) return undefined;
  const declared = path.scope.getProgramParent().path.scope.getBinding(typeName.name)?.path;
  const parent = declared?.parent;
  if (!declared?.isImportSpecifier() || !t.isImportDeclaration(parent)) return undefined;
  const { imported } = declared.node;
  return parent.source.value === 'react-hook-form' && t.isIdentifier(imported) ? imported.name : undefined;
}

function isInside(path: NodePath, nodes: ReadonlySet<t.Node>): boolean {
  return path.findParent((one) => nodes.has(one.node)) !== null;
}

function isConstraint(path: NodePath): boolean {
  return path.findParent((one) => one.isTSTypeParameterDeclaration()) !== null;
}

/** Parameters of a type or a function that nothing asks for any more go, with what is given for them. */
function sayParameters(
  part: FieldComponent,
  root: NodePath,
  said: ReadonlySet<t.Node>,
  gone: ReadonlySet<t.Node>,
  inHanded: (path: NodePath) => boolean,
): void {
  const { leaving } = part;
  const { node } = root;
  const declared = 'typeParameters' in node ? node.typeParameters : undefined;
  if (!t.isTSTypeParameterDeclaration(declared)) return;
  const names = new Set(declared.params.map(({ name }) => String(name)));
  const given: NodePath<t.TSTypeReference>[] = [];
  let asked = false;
  walk(root, {
    TSTypeReference(path) {
      const { typeName } = path.node;
      if (!t.isIdentifier(typeName) || !names.has(typeName.name)) return;
      if (isInside(path, said) || isInside(path, gone) || inHanded(path) || isConstraint(path)) return;
      const outer = path.parentPath.parentPath;
      // `BoxProps<T>`, whose own parameters go as well
      if (path.parentPath.isTSTypeParameterInstantiation() && outer?.isTSTypeReference() && isProps(outer, part))
        given.push(outer);
      else asked = true;
    },
  });
  if (asked) {
    stays(
      leaving,
      { node: declared } as NodePath,
      'its type follows all values of the form, and is asked for elsewhere',
    );
    return;
  }
  saysAt(leaving, declared.start ?? 0, declared.end ?? 0, '');
  otherwise(leaving, [declared.start, declared.end], declared, 'nothing asks for the type of all values');
  for (const { node: one } of given)
    if (one.typeParameters) saysAt(leaving, one.typeParameters.start ?? 0, one.typeParameters.end ?? 0, '');
}

/** Whether a type is that of what the component is given, as its file declares it. */
function isProps({ node, parentPath }: NodePath<t.TSTypeReference>, { component }: FieldComponent): boolean {
  const [parameter] = component.path.node.params;
  const note = t.isObjectPattern(parameter) || t.isIdentifier(parameter) ? parameter.typeAnnotation : undefined;
  return t.isTSTypeAnnotation(note) && (note.typeAnnotation === node || note === parentPath.node);
}
