import { type SchemaPath, validate } from '@angular/forms/signals';

/** A mark on a post: a capital and up to three figures, blanks do not matter. None is fine. */
export function rowMark(path: SchemaPath<string>, longest = 3): void {
  validate(path, ({ value }) => {
    const mark = value().replace(/\s/g, '');
    if (mark === '' || /^[A-Z]\d+$/.test(mark)) {
      return mark.length > longest + 1 ? { kind: 'long', message: `At most ${longest} figures.` } : undefined;
    }
    return { kind: 'mark', message: 'A mark looks like C14.' };
  });
}
