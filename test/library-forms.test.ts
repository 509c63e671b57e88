import { describe, expect, it } from 'vitest';
import { formsOfFile } from '../src/rewrite/forms.js';
import { diskWorkspace, overlaid } from '../src/source/workspace.js';

/** The forms of a file that stands in memory beside others, a line each. */
async function seen(text: string, others: Record<string, string> = {}): Promise<string[]> {
  const files = new Map(
    Object.entries({ 'Slip.tsx': text, ...others }).map(([name, body]) => [`/orchard/${name}`, body]),
  );
  const found = await formsOfFile('/orchard/Slip.tsx', text, overlaid(diskWorkspace, files), { ownValueNames: [] });
  if (!found.ok) throw new Error(found.problem.reason);
  return found.forms.map(({ name, approach, fieldNames }) => `${name} ${approach}: ${fieldNames.join(', ')}`);
}

const hook = "import { useForm, useFormContext, Controller } from 'react-hook-form';";

describe('forms of packages', () => {
  it.each<[string, string, Record<string, string>, string[]]>([
    [
      'defaults, groups taken apart, and what is registered besides',
      `${hook}
export function Slip({ send }) {
  const { register, handleSubmit } = useForm({ defaultValues: { row: '', place: { village: '', road: '' }, tools: [] } });
  return <form onSubmit={handleSubmit(send)}><input {...register('row')} /><input {...register('place.road')} /><input {...register('note')} /></form>;
}`,
      {},
      ['Slip react-hook-form: row, place.village, place.road, tools, note'],
    ],
    [
      'a schema in another file, where nothing else names them',
      `${hook}
import { zodResolver } from '@hookform/resolvers/zod';
import { Crate } from './crate';
export const Slip = ({ send }) => {
  const form = useForm({ resolver: zodResolver(Crate.refine((crate) => crate.kilos > 0)) });
  return <Panel form={form} onSubmit={form.handleSubmit(send)} />;
};`,
      {
        'crate.ts':
          "import { z } from 'zod';\nexport const Crate = z.object({ grower: z.string(), kilos: z.number() });",
      },
      ['Slip react-hook-form: grower, kilos'],
    ],
    [
      'children in other files, and elements that are given the control',
      `${hook}
import { Tools } from './Tools';
export function Slip({ send }) {
  const form = useForm();
  return <Form {...form}><Part.Field control={form.control} name="row" render={() => null} /><Tools /></Form>;
}`,
      {
        'Tools.tsx':
          "import { useFormContext } from 'react-hook-form';\nexport function Tools() { const { register } = useFormContext(); return <input {...register('tools')} />; }",
      },
      ['Slip react-hook-form: row, tools'],
    ],
    [
      'a hook of the project around the package’s',
      `import { useSlipForm } from './useSlipForm';
export function Slip({ send }) {
  const form = useSlipForm({ defaultValues: { row: 'A', pest: '' } });
  return <form onSubmit={form.handleSubmit(send)}><input {...form.register('row')} /></form>;
}`,
      {
        'useSlipForm.ts':
          "import { useForm } from 'react-hook-form';\nexport function useSlipForm(given) { return useForm({ mode: 'onBlur', ...given }); }",
      },
      ['Slip react-hook-form: row, pest'],
    ],
    [
      'initial values of a component',
      `import { Formik, Form, Field } from 'formik';
const start = { row: '', ripe: false };
export const Slip = ({ send }) => <Formik initialValues={start} onSubmit={send}><Form><Field name="row" /><Field name="ripe" type="checkbox" /></Form></Formik>;`,
      {},
      ['Slip formik: row, ripe'],
    ],
    [
      'fields that are rendered by the form',
      `import { useForm } from '@tanstack/react-form';
export function Slip({ send }) {
  const form = useForm({ defaultValues: { row: '', kilos: 1 }, onSubmit: send });
  return <form onSubmit={form.handleSubmit}><form.Field name="row">{(field) => <input value={field.state.value} onChange={(e) => field.handleChange(e.target.value)} />}</form.Field></form>;
}`,
      {},
      ['Slip tanstack-form: row, kilos'],
    ],
  ])('have the fields of %s', async (_what, text, others, expected) => {
    expect(await seen(text, others)).toEqual(expected);
  });

  it.each([
    [
      'a button that takes the form’s context',
      'const form = useFormContext();\n  return <Button onClick={() => form.reset()}>Again</Button>;',
    ],
    ['a part that takes it', "const { register } = useFormContext();\n  return <input {...register('row')} />;"],
    [
      'a control that is driven from outside',
      'return <Controller name="row" control={props.control} render={() => null} />;',
    ],
  ])('are not seen in %s', async (_what, body) => {
    expect(await seen(`${hook}\nexport function Slip(props) {\n  ${body}\n}`)).toEqual([]);
  });
});

const state = "import { useState } from 'react';";

describe('what is no field', () => {
  it.each([
    [
      'a flag that opens a part of the page',
      `${state}
export function Slip({ send }) {
  const [row, setRow] = useState('');
  const [open, setOpen] = useState(false);
  return <form onSubmit={() => send(row)}><Dialog open={open} onOpenChange={setOpen} /><input value={row} onChange={(e) => setRow(e.target.value)} /></form>;
}`,
    ],
    [
      'what a button turns on and off without being sent',
      `${state}
export function Slip({ send }) {
  const [row, setRow] = useState('');
  const [wide, setWide] = useState(false);
  return <form onSubmit={() => send(row)}><Button icon={wide ? 'a' : 'b'} label={wide} onClick={() => setWide((old) => !old)} /><input value={row} onChange={(e) => setRow(e.target.value)} /></form>;
}`,
    ],
    [
      'a message beside a value that is kept elsewhere',
      `${state}
export function Slip({ send, latex, change }) {
  const [row, setRow] = useState('');
  const [wrong, setWrong] = useState(null);
  return <form onSubmit={() => send(row)}><Area value={latex} trouble={wrong} onValueChange={(next) => { change(next); setWrong(null); }} /><input value={row} onChange={(e) => setRow(e.target.value)} /></form>;
}`,
    ],
  ])('is %s', async (_what, text) => {
    expect(await seen(text)).toEqual(['Slip field-state: row']);
  });

  it('is what a button turns on where it is sent', async () => {
    const text = `${state}
export function Slip({ send }) {
  const [row, setRow] = useState('');
  const [wet, setWet] = useState(false);
  return <form onSubmit={() => send(row, wet)}><Toggle label={wet} onClick={() => setWet(!wet)} /><input value={row} onChange={(e) => setRow(e.target.value)} /></form>;
}`;
    expect(await seen(text)).toEqual(['Slip field-state: row, wet']);
  });

  it('is the place of a tip that a class only shows', async () => {
    const text = `import { Component } from 'react';
export class Slip extends Component {
  state = { place: 'top' };
  render() {
    return <div><select value={this.state.place} onChange={(e) => this.setState({ place: e.target.value })} /><Tip place={this.state.place} /></div>;
  }
}`;
    expect(await seen(text)).toEqual([]);
  });
});
