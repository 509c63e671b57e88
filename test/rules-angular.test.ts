import '@angular/compiler';
import { FormControl, Validators, type ValidatorFn } from '@angular/forms';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { addErrors, addFormats } from './tools/checker.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { project } from './tools/project.js';

interface Row {
  field: string;
  type: string;
  initial: string;
  /** The validators as the class states them, and the attributes that say the same in a template. */
  stated: string;
  attributes: string;
  real: ValidatorFn[];
  inputs: unknown[];
}

const texts: unknown[] = ['', ' ', 'a', 'ab', 'abc', 'abcd', '12', 'a@b', 'a@b.c', '\u{1F34E}a', null];
const numbers: unknown[] = [0, 1, 4, 5, 6, -1, null];
const text = (field: string, stated: string, attributes: string, real: ValidatorFn[]): Row => ({
  field,
  type: 'string',
  initial: "''",
  stated,
  attributes,
  real,
  inputs: texts,
});
const number = (field: string, stated: string, attributes: string, real: ValidatorFn[]): Row => ({
  field,
  type: 'number | null',
  initial: 'null',
  stated,
  attributes,
  real,
  inputs: numbers,
});

const rows: Row[] = [
  text('plot', 'Validators.required', 'required', [Validators.required]),
  text('short', 'Validators.minLength(3)', 'minlength="3"', [Validators.minLength(3)]),
  text('long', 'Validators.maxLength(3)', 'maxlength="3"', [Validators.maxLength(3)]),
  text('both', '[Validators.required, Validators.minLength(2)]', 'required minlength="2"', [
    Validators.required,
    Validators.minLength(2),
  ]),
  text('digits', "Validators.pattern('\\\\d+')", 'pattern="\\d+"', [Validators.pattern('\\d+')]),
  text('anchored', "Validators.pattern('^a')", 'pattern="^a"', [Validators.pattern('^a')]),
  text('mail', 'Validators.email', 'email', [Validators.email]),
  number('kilos', 'Validators.required', 'required', [Validators.required]),
  number('least', 'Validators.min(5)', 'min="5"', [Validators.min(5)]),
  number('most', 'Validators.max(5)', 'max="5"', [Validators.max(5)]),
  number('between', '[Validators.min(1), Validators.max(5)]', 'min="1" max="5"', [
    Validators.min(1),
    Validators.max(5),
  ]),
  {
    field: 'ripe',
    type: 'boolean',
    initial: 'false',
    stated: 'Validators.requiredTrue',
    attributes: 'required',
    real: [Validators.requiredTrue],
    inputs: [true, false, null],
  },
];

const control = ({ field, type }: Row): string =>
  type === 'boolean' ? `type="checkbox"` : type.startsWith('number') ? 'type="number"' : `id="${field}"`;

const modelDriven = `import { Component } from '@angular/core';
import { FormControl, FormGroup, ReactiveFormsModule, Validators } from '@angular/forms';

@Component({
  selector: 'orchard-slip',
  imports: [ReactiveFormsModule],
  template: \`<form [formGroup]="slip" (ngSubmit)="send()">
${rows.map((row) => `    <input ${control(row)} formControlName="${row.field}" />`).join('\n')}
  </form>\`,
})
export class OrchardSlipComponent {
  slip = new FormGroup({
${rows.map((row) => `    ${row.field}: new FormControl<${row.type.replace(' | null', '')}${row.type.startsWith('number') ? ' | null' : ''}>(${row.initial}${row.type === 'string' || row.type === 'boolean' ? `, { nonNullable: true, validators: ${row.stated} }` : `, ${row.stated}`}),`).join('\n')}
  });
  send() {
    console.log(this.slip.value);
  }
}
`;

const templateDriven = `import { Component } from '@angular/core';
import { FormsModule } from '@angular/forms';

@Component({
  selector: 'orchard-slip',
  imports: [FormsModule],
  templateUrl: './slip.component.html',
})
export class OrchardSlipComponent {
${rows.map((row) => `  ${row.field}: ${row.type} = ${row.initial};`).join('\n')}
  send() {
    console.log(this.plot);
  }
}
`;
const template = `<form (ngSubmit)="send()">
${rows.map((row) => `  <input ${control(row)} name="${row.field}" [(ngModel)]="${row.field}" ${row.attributes} />`).join('\n')}
</form>
`;

const home = project({
  'model.component.ts': modelDriven,
  'slip.component.ts': templateDriven,
  'slip.component.html': template,
});
afterAll(() => home.remove());

type Check = (field: string, value: unknown) => boolean;
const checks = new Map<string, Check>();

/** Whether a value breaks the schema's rules for its field. */
function checkOf(schema: { properties: Record<string, { type?: string | string[] }> }): Check {
  const ajv = new Ajv2020({
    allErrors: true,
    unicode: false,
    unicodeRegExp: false,
    logger: false,
    validateFormats: false,
  });
  addFormats(ajv);
  addErrors(ajv);
  const validate = ajv.compile(schema);
  return (field, value) => {
    const takesNull = schema.properties[field]?.type?.includes('null') ?? true;
    validate(value === null && !takesNull ? {} : { [field]: value });
    return (validate.errors ?? []).some(
      ({ instancePath, keyword, params }) =>
        instancePath === `/${field}` ||
        (keyword === 'required' && (params as { missingProperty: string }).missingProperty === field),
    );
  };
}

beforeAll(async () => {
  for (const file of ['model.component.ts', 'slip.component.ts']) {
    const run = await home.run('rules', file, '--format', 'json');
    expect(run.code, run.stderr).toBe(0);
    const { schema, beside } = JSON.parse(run.stdout) as { schema: Parameters<typeof checkOf>[0]; beside: unknown[] };
    expect(beside).toEqual([]);
    checks.set(file, checkOf(schema));
  }
});

describe('a schema of an Angular form says of every value what Angular says', () => {
  it.each(['model.component.ts', 'slip.component.ts'])('%s', (file) => {
    const differing = rows.flatMap(({ field, real, inputs }) =>
      inputs.flatMap((value) => {
        const angular = new FormControl(value, real).invalid;
        const schema = checks.get(file)?.(field, value);
        return angular === schema ? [] : [{ field, value, angular, schema }];
      }),
    );
    expect(differing).toEqual([]);
  });
});
