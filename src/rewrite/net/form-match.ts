import type { Field, FormModel } from '../../form/model.js';

/** Which field of the result is which of the original: a name may have given way to another one. */
export interface FormMatch {
  /** The field of the result that stands for one of the original. */
  field(name: string): Field | undefined;
  /** The original's name of a field of the result; its own where it stands for none. */
  nameBefore(name: string): string;
  /** Whether the values of a group, or the group of a value, are found under their own names. */
  inside(name: string): boolean;
}

/** Finds which field became which. */
export function formMatch(before: FormModel, after: FormModel): FormMatch {
  const byName = new Map<string, Field>();
  const back = new Map<string, string>();
  const free = new Map(after.fields.map((field) => [field.name, field]));
  const tie = (name: string, field: Field | undefined): void => {
    if (!field || byName.has(name) || back.has(field.name)) return;
    byName.set(name, field);
    back.set(field.name, name);
  };
  for (const { name } of before.fields) tie(name, free.get(name));
  for (const { name, names } of before.fields) {
    const last = name.split('.').at(-1) ?? name;
    for (const wished of [names.value, `${name}Value`, last, `${last}Value`])
      if (wished !== undefined) tie(name, free.get(wished));
  }
  for (const field of after.fields) {
    const { value } = field.names;
    if (value !== undefined && !back.has(field.name) && before.fields.some(({ name }) => name === value))
      tie(value, field);
  }
  const leaves = [...free.keys()];
  return {
    field: (name) => byName.get(name),
    nameBefore: (name) => back.get(name) ?? name,
    inside(name) {
      const members = before.controls.flatMap(({ field }) =>
        field.startsWith(`${name}.`) ? [field.slice(name.length + 1)] : [],
      );
      // `nights.from` is found where the group that holds it is
      const isFound = (member: string): boolean =>
        byName.has(`${name}.${member}`) ||
        free.has(member) ||
        (member.includes('.') && isFound(member.slice(0, member.lastIndexOf('.'))));
      const found = members.filter(isFound);
      const grouped = leaves.some((leaf) => leaf.startsWith(`${name}.`) || leaf.startsWith(`${name}[]`));
      return grouped || (members.length > 0 && found.length === members.length);
    },
  };
}
