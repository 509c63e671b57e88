import { spanOfNode, type Span } from '../../form/code.js';
import type { Control, Field, FormModel, ValueKind } from '../../form/model.js';
import { frameOf, plainTemplate, submitMethods, unreadableForm } from '../form-frame.js';
import { controlFacts, eventOf, kindOfElement, plainText, viewsBetween, type AngularSite } from '../form-site.js';
import type { Place } from '../template-model.js';
import { foundForm, leavesOf, type BoundField, type FoundForm, type Leaf } from './found-form.js';
import { formUses, type Gathering } from './form-uses.js';
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
  const { rules, unclear, disabled } = schemaRules(found.schema, leaves, script, site.load);
  const gathering: Gathering = {
    site,
    found,
    leaves,
    submits: submitMethods(site),
    uses: [],
    unclear: [...unclear],
    references: new Map(),
  };
  const own = bound.filter(({ root }) => root === found.form.name);
  for (const { attribute, root } of bound)
    if (root !== found.form.name)
      gathering.unclear.push({
        span: spanIn(site, attribute),
        what: attribute.value ?? root,
        why: 'the control stands in a row, or belongs to another form',
      });
  formUses(gathering);
  const type = found.type && script.text.slice(found.type.start ?? 0, found.type.end ?? 0);
  return {
    ...frameOf(site, new Set([found.form.name, found.model.name])),
    approach: 'signal-model',
    fields: leaves.map((leaf) => fieldOf(leaf, found, own, site)),
    controls: own.map((one) => controlOf(one, disabled.get(one.keys.join('.')), site)),
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

function fieldOf({ path, part, type }: Leaf, found: FoundForm, bound: readonly BoundField[], site: AngularSite): Field {
  const control = bound.find(({ keys }) => keys.join('.') === path);
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

function controlOf({ element, attribute, keys }: BoundField, disabled: Span | undefined, site: AngularSite): Control {
  const view = viewsBetween(element, site.form).find(({ kind }) => kind === 'condition');
  const shown = view?.expression?.sourceSpan;
  return {
    ...controlFacts(site, element),
    field: keys.join('.'),
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
      rows: undefined,
      event: eventOf(element),
    },
  };
}
