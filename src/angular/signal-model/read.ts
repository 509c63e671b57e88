import { spanOfNode, type Span } from '../../form/code.js';
import {
  rowFieldParts,
  type Control,
  type Field,
  type FormModel,
  type Unclear,
  type ValueKind,
} from '../../form/model.js';
import { frameOf, plainTemplate, submitMethods, unreadableForm } from '../form-frame.js';
import { controlFacts, eventOf, kindOfElement, plainText, viewsBetween, type AngularSite } from '../form-site.js';
import type { Place } from '../template-model.js';
import { foundForm, leavesOf, type BoundField, type FoundForm, type Leaf } from './found-form.js';
import { formUses } from './form-uses.js';
import type { Gathering } from './gathering.js';
import { listOfVariable, modelList, rowFields, treeLists, treePlace, type TreeList, type TreePlace } from './rows.js';
import { schemaRules } from './schema.js';

/** Reads a form over a model signal. */
export function readSignalModel(site: AngularSite, bound: readonly BoundField[]): FormModel {
  const found = foundForm(site, bound);
  if (!found) {
    const [first] = bound;
    const place = first?.attribute ?? site.form ?? { start: 0, end: 0 };
    const why = `how ${site.component.name} makes the form over a signal is not clear`;
    return unreadableForm(site, 'signal-model', place, first?.root ?? 'form', why);
  }
  const { script } = site.component;
  const leaves = leavesOf(found, bound, site);
  const lists = treeLists(found, site);
  const own: PlacedField[] = [];
  const unfollowed: Unclear[] = [];
  for (const one of bound) {
    const from = listOfVariable(one.variable, lists);
    const at = treePlace(one.chain, lists, site.component.template.place.text, from);
    if ((from || (one.root === found.form.name && !one.variable)) && at.count === one.chain.links.length)
      own.push({ ...one, at });
    else
      unfollowed.push({
        span: spanIn(site, one.attribute),
        what: one.attribute.value ?? one.root,
        why: 'the control stands in a row that is not followed, or belongs to another form',
      });
  }
  const fields = leaves.flatMap((leaf) => fieldsOf(leaf, found, lists, own, site));
  const { rules, unclear, disabled } = schemaRules(found.schema, fields, script, site.load);
  const gathering: Gathering = {
    site,
    found,
    leaves,
    lists,
    submits: submitMethods(site),
    uses: [],
    unclear: [...unclear, ...unfollowed],
    references: new Map(),
  };
  formUses(gathering);
  const type = found.type && script.text.slice(found.type.start ?? 0, found.type.end ?? 0);
  return {
    ...frameOf(site, new Set([found.form.name, found.model.name])),
    approach: 'signal-model',
    fields,
    controls: own.map((one) => controlOf(one, disabled.get(one.at.path), site)),
    ...(lists.length ? { lists: lists.map((list) => modelList(list, site)) } : {}),
    uses: gathering.uses,
    rules,
    declarations: [
      { role: 'state', span: spanOfNode(script.file, found.model.node), what: `member ${found.model.name}` },
      { role: 'support', span: spanOfNode(script.file, found.form.node), what: `member ${found.form.name}` },
    ],
    names: [...gathering.references].map(([name, references]) => ({
      file: script.file,
      name,
      declaredAt: -1,
      references,
    })),
    unclear: gathering.unclear,
    handlers: 0,
    stateVariables: 1,
    holder: { name: found.model.name, type, initial: undefined },
    template: plainTemplate(site, found.form.name),
  };
}

function spanIn(site: AngularSite, { start, end }: Place): Span {
  return { file: site.component.template.place.file, start, end };
}

/** An element that is tied to a field of the form, and which one that is. */
interface PlacedField extends BoundField {
  at: TreePlace;
}

/** A value of the model as a field; a list with the fields of its rows. */
function fieldsOf(
  leaf: Leaf,
  found: FoundForm,
  lists: readonly TreeList[],
  bound: readonly PlacedField[],
  site: AngularSite,
): Field[] {
  const field = fieldOf(leaf, found, bound, site);
  const list = lists.find(({ path }) => path === leaf.path);
  if (!list) return [field];
  const kindAt = (name: string, type: string | undefined): ValueKind =>
    kindOf(
      bound.find(({ at }) => at.path === name),
      type,
    );
  return [{ ...field, kind: 'list of rows' }, ...rowFields(list, field.declared, kindAt)];
}

function fieldOf(
  { path, part, type }: Leaf,
  found: FoundForm,
  bound: readonly PlacedField[],
  site: AngularSite,
): Field {
  const control = bound.find(({ at }) => at.path === path);
  const { script } = site.component;
  const node = part?.node;
  return {
    name: path,
    kind: kindOf(control, type),
    role: 'field',
    type,
    typeWritten: part?.written !== undefined,
    initial: {
      code: node && part ? { ...spanOfNode(part.script.file, node), holes: [] } : undefined,
      text: node && part ? part.script.text.slice(node.start ?? 0, node.end ?? 0) : 'undefined',
      when: 'constant',
    },
    commentsBefore: [],
    commentBehind: undefined,
    names: { value: `${found.model.name}.${path}` },
    declared: node && part ? spanOfNode(part.script.file, node) : spanOfNode(script.file, found.model.node),
    resets: 'initial',
  };
}

function kindOf(control: BoundField | undefined, type: string | undefined): ValueKind {
  const own = control && kindOfElement(control.element);
  if (own && own !== 'text') return own;
  if (type === 'boolean') return 'boolean';
  return own ?? (type === 'string' ? 'text' : 'other');
}

function controlOf({ element, attribute, at }: PlacedField, disabled: Span | undefined, site: AngularSite): Control {
  const view = viewsBetween(element, site.form).find(({ kind }) => kind === 'condition');
  const shown = view?.expression?.sourceSpan;
  return {
    ...controlFacts(site, element),
    field: at.path,
    wayIn: undefined,
    shows: attribute.name,
    changes: eventOf(element),
    binding: {
      attributes: [spanIn(site, attribute)],
      at: element.nameEnd,
      name: plainText(element, 'name'),
      updateOn: undefined,
      disabled: disabled && { span: disabled, text: 'disabled', constant: false },
      changed: [],
      reference: undefined,
      shownWhen:
        view && shown
          ? { text: site.component.template.place.text.slice(shown.start, shown.end), negated: view.negated }
          : undefined,
      standalone: false,
      rows: at.row && { list: rowFieldParts(at.path).list, row: at.row },
      event: eventOf(element),
    },
  };
}
