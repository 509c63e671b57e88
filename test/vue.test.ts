import path from 'node:path';
import { afterAll, describe, expect, it } from 'vitest';
import { surveyText } from '../src/survey/survey.js';
import { project, root, type TestProject } from './tools/project.js';

interface Listed {
  name: string;
  approach: string;
  line: number;
  fields: { name: string; kind: string; initial: string; rules: { kind: string }[] }[];
}

const homes: TestProject[] = [];
afterAll(() => homes.forEach((home) => home.remove()));

/** The forms of a Vue file that stands in memory, a line each. */
async function seen(text: string): Promise<string[]> {
  const { forms } = await surveyText('/orchard/Slip.vue', text, { ownValueNames: [] });
  return forms.map(
    ({ name, approach, fields }) => `${name} ${approach}: ${fields.map((field) => field.name).join(', ')}`,
  );
}

const around = (script: string, template: string): string =>
  `<script setup lang="ts">\nimport { reactive, ref, toRefs } from 'vue'\n${script}\n</script>\n<template>\n${template}\n</template>\n`;

describe('forms of Vue', () => {
  it('are listed by approach, with fields, kinds and starts, in both styles of script', async () => {
    const run = await project({}).run('survey', path.join(root, 'test/forms/vue'), '--format', 'json', '--no-cache');
    expect(run.code, run.stderr).toBe(0);
    const { forms } = JSON.parse(run.stdout) as { forms: Listed[] };
    const told = forms.map(({ name, approach, line, fields }) => [
      `${name} ${approach} ${line}`,
      fields.map(({ name: field, kind, initial }) => `${field}: ${kind} ${initial}`),
    ]);
    expect(Object.fromEntries(told)).toEqual({
      'CrateCount reactive-object 5': ["grower: text ''", 'full: number 4', "note: text 'dry'"],
      'FrostAlarm field-refs 34': [
        "station: choice ''",
        'degrees: number -2',
        'slopes: many choices []',
        "phone: text ''",
        "from: date '2026-03-01'",
        "slope: text 'north'",
      ],
      'GateRing markup-only 2': ['who: text ', 'gate: choice '],
      'HarvestDay form-wrapper 14': ["day: date '2026-09-01'", 'pickers: number 6'],
      'PestRound own-composable 8': ["row: text 'A'", "pest: text ''", 'seen: number 0'],
      'PlotLease reactive-object 4': [
        "name: text 'N. N.'",
        "address.village: text 'Oberdorf'",
        "term: choice 'year'",
        "tools[].what: text 'spade'",
        'tools[].days: number 1',
        'agreed: boolean false',
      ],
    });
  });

  it('are shown in full, and not rewritten', async () => {
    const home = project({});
    homes.push(home);
    const file = path.join(root, 'test/forms/vue/FrostAlarm.vue');
    const run = await home.run('inspect', file);
    expect(run.code).toBe(0);
    expect(run.stdout).toMatch(/degrees +<input type="number"> “Below” through v-model +line 39/);
    expect(run.stdout).toMatch(/station +required/);
    expect(run.stdout).toMatch(/by the form’s submit/);
    const rewrite = await home.run('preview', file, '--to', 'reactive-object');
    expect([rewrite.code, rewrite.stderr]).toEqual([
      2,
      expect.stringMatching(/no rewrite to reactive-object is covered/),
    ]);
  });

  it.each<[string, string, string, string[]]>([
    [
      'values of a reactive object under their own names',
      "const crate = reactive({ row: 'A', kilos: 2 })\nconst { row, kilos } = toRefs(crate)\nconst send = () => fetch('/crates', { method: 'POST', body: JSON.stringify(crate) })",
      '<form @submit.prevent="send"><input v-model="row" /><input v-model="kilos" type="number" /></form>',
      ['Slip reactive-object: row, kilos'],
    ],
    [
      'an object behind a ref, sent by a button',
      "const emit = defineEmits(['sent'])\nconst crate = ref({ row: '' })",
      `<input v-model="crate.row" /><button @click="emit('sent', crate)">Send</button>`,
      ['Slip reactive-object: row'],
    ],
    [
      'a package’s form by the package’s name',
      "import { useField } from 'orchard-forms'\nconst { value: row } = useField('row')\nconst send = () => fetch('/rows', { body: row.value })",
      '<form @submit.prevent="send"><input v-model="row" /></form>',
      ['Slip orchard-forms: row'],
    ],
    [
      'two forms of one component',
      "const who = ref('')\nconst what = ref('')\nconst emit = defineEmits(['in', 'out'])",
      `<form id="in" @submit.prevent="emit('in', who)"><input v-model="who" /></form><form id="out" @submit.prevent="emit('out', what)"><input v-model="what" /></form>`,
      ['Slip:in field-refs: who', 'Slip:out field-refs: what'],
    ],
    [
      'values that are saved while they are typed',
      "import { watch } from 'vue'\nconst note = ref('')\nwatch(note, () => { fetch('/note', { method: 'PUT', body: note.value }) })",
      '<textarea v-model="note"></textarea>',
      ['Slip field-refs: note'],
    ],
  ])('has %s', async (_what, script, template, expected) => {
    expect(await seen(around(script, template))).toEqual(expected);
  });

  it.each([
    ['a filter', "const word = ref('')", '<input v-model="word" /><p>{{ word }}</p>'],
    [
      'a control of its own',
      "const text = defineModel<string>()\nconst own = ref('')\nconst take = () => { fetch('/words?' + own.value) }",
      '<input v-model="own" @keyup.enter="take" />',
    ],
    [
      'a dialog that opens',
      "const open = ref(false)\nconst emit = defineEmits(['asked'])",
      `<OrchardDialog v-model="open"><button @click="emit('asked', open)">Ask</button></OrchardDialog>`,
    ],
  ])('has no form in %s', async (_what, script, template) => {
    expect(await seen(around(script, template))).toEqual([]);
  });

  it('says where a file cannot be read, and goes on', async () => {
    const home = project({ 'Torn.vue': '<template><form @submit="x"><input v-model="a"></template>', 'a.vue': '<p/>' });
    homes.push(home);
    const run = await home.run('survey', '--no-cache');
    expect(run.code).toBe(0);
    expect(run.stdout).toMatch(/could not read Torn\.vue: line 1: Element is missing end tag/);
  });
});

describe('a survey', () => {
  it('leaves out stories, specs, tests and other endings, says so, and reads them where it is asked to', async () => {
    const form = around("const a = ref('')", '<form @submit.prevent="$emit(\'x\', a)"><input v-model="a" /></form>');
    const home = project({
      'src/Slip.vue': form,
      'src/Slip.test.ts': '',
      'src/Slip.stories.tsx': '',
      'test/Other.vue': form,
      'src/Old.svelte': '',
      'dist/Slip.vue': form,
    });
    homes.push(home);
    const run = await home.run('survey', '--no-cache');
    expect(run.stdout).toMatch(/1 form in 1 approach; 1 file seen, 1 of them parsed/);
    expect(run.stdout).toMatch(
      /not looked at: 3 tests and stories \(--include-tests reads them\), 1 ignored or built, 1 of endings that are not read/,
    );
    const all = await home.run('survey', '--no-cache', '--include-tests', '--format', 'json');
    const { files, forms } = JSON.parse(all.stdout) as { files: { leftOut: object }; forms: Listed[] };
    expect(forms.map(({ name }) => name).sort()).toEqual(['Other', 'Slip']);
    expect(files.leftOut).toEqual({ tests: 0, endings: 1, ignored: 1 });
    // a file that is named is read in any case
    const named = await home.run('survey', 'test/Other.vue', '--no-cache', '--format', 'json');
    expect((JSON.parse(named.stdout) as { forms: Listed[] }).forms).toHaveLength(1);
  });
});
