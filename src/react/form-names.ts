import type { FormModel } from '../form/model.js';

/** A name with capitals at its words: `town-name` and `townName` give `TownName`. */
export function pascal(name: string): string {
  return name
    .split(/[^A-Za-z0-9_$]+/)
    .filter(Boolean)
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join('');
}

/** The same with a small letter in front: `TownName` gives `townName`. */
export function camel(name: string): string {
  return name.charAt(0).toLowerCase() + name.slice(1);
}

/** What the names of a form's types and functions are made from: the component's name without `Form`. */
export function baseNameOf(model: FormModel): string {
  const own = model.name.includes(':') ? (model.name.split(':')[1] ?? '') : '';
  const name =
    own && /^[A-Za-z]/.test(own) ? pascal(own.replace(/^(submit|save|send|add)(?=[A-Z])/, '')) : pascal(model.name);
  const bare = name.replace(/(Form|Component)$/, '');
  return bare === '' ? name : bare;
}

const reserved =
  /^(?:await|break|case|catch|class|const|continue|debugger|default|delete|do|else|enum|export|extends|false|finally|for|function|if|import|in|instanceof|let|new|null|package|return|static|super|switch|this|throw|true|try|typeof|var|void|while|with|yield)$/;

/** Whether a word of the language cannot be a name. */
export function isReserved(name: string): boolean {
  return reserved.test(name);
}

/** The parameter that takes a field's value: the field's own name where the language allows it. */
export function parameterFor(field: string): string {
  return isReserved(field) || !/^[\w$]+$/.test(field) ? 'value' : field;
}
