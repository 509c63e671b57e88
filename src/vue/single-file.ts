import { compileScript, compileTemplate, parse } from '@vue/compiler-sfc';

/** A Vue file as a script, or why it could not be compiled. */
export type CompiledVue = { ok: true; code: string; typescript: boolean } | { ok: false; reason: string };

/**
 * Compiles a Vue single-file component to a script module. Styles are left out.
 * @param externalScript reads the file of `<script src>`
 */
export function compileVueFile(
  file: string,
  text: string,
  externalScript: (source: string) => string | undefined,
): CompiledVue {
  const { descriptor, errors } = parse(text, { filename: file });
  const [error] = errors;
  if (error) return { ok: false, reason: error.message };
  const external = descriptor.script?.src === undefined ? undefined : externalScript(descriptor.script.src);
  if (descriptor.script?.src !== undefined) {
    if (external === undefined) return { ok: false, reason: `its script ${descriptor.script.src} cannot be read` };
    const lang = /\.tsx?$/.test(descriptor.script.src) ? 'ts' : 'js';
    const template = descriptor.template?.content ?? '';
    return compileVueFile(
      file,
      `<script lang="${lang}">\n${external}\n</script>\n<template>${template}</template>`,
      () => undefined,
    );
  }
  try {
    const typescript = /^tsx?$/.test(descriptor.scriptSetup?.lang ?? descriptor.script?.lang ?? 'js');
    const id = 'form';
    if (descriptor.scriptSetup || descriptor.script) {
      const script = compileScript(descriptor, {
        id,
        inlineTemplate: Boolean(descriptor.scriptSetup),
        genDefaultAs: 'component',
      });
      if (descriptor.scriptSetup) return { ok: true, code: `${script.content}\nexport default component;`, typescript };
      const render = renderOf(file, descriptor.template?.content ?? '', script.bindings);
      if (!render.ok) return render;
      return {
        ok: true,
        code: `${script.content}\n${render.code}\ncomponent.render = render;\nexport default component;`,
        typescript,
      };
    }
    const render = renderOf(file, descriptor.template?.content ?? '', undefined);
    return render.ok ? { ok: true, code: `${render.code}\nexport default { render };`, typescript: false } : render;
  } catch (failure) {
    return { ok: false, reason: failure instanceof Error ? failure.message : String(failure) };
  }
}

function renderOf(file: string, source: string, bindings: ReturnType<typeof compileScript>['bindings']): CompiledVue {
  const result = compileTemplate({
    source,
    filename: file,
    id: 'form',
    compilerOptions: bindings ? { bindingMetadata: bindings } : {},
  });
  const [error] = result.errors;
  if (error !== undefined) return { ok: false, reason: typeof error === 'string' ? error : error.message };
  return { ok: true, code: result.code.replace(/^export function render/m, 'function render'), typescript: false };
}

/** Names and rough kinds of what a Vue component is given, and the events it emits, read from its source. */
export function vueInterface(text: string): { props: { name: string; source: string }[]; emits: string[] } {
  const emits = new Set<string>();
  for (const match of text.matchAll(/\bemit\(\s*['"]([\w:-]+)['"]/g)) emits.add(match[1] ?? '');
  for (const match of text.matchAll(/defineEmits(?:<[\s\S]*?>)?\(\s*\[([^\]]*)\]/g))
    for (const name of (match[1] ?? '').matchAll(/['"]([\w:-]+)['"]/g)) emits.add(name[1] ?? '');
  const props: { name: string; source: string }[] = [];
  const typed =
    /defineProps<\s*\{([\s\S]*?)\}\s*>/.exec(text)?.[1] ?? /interface Props\s*\{([\s\S]*?)\}/.exec(text)?.[1] ?? '';
  for (const match of typed.matchAll(/(\w+)(\?)?\s*:\s*([^;\n,]+)/g)) {
    const [, name = '', optional, type = ''] = match;
    if (optional === undefined) props.push({ name, source: sampleOf(name, type.trim()) });
  }
  const declared = /(?:defineProps\(|props:\s*)\{([\s\S]*?)\n\s*\}/.exec(text)?.[1] ?? '';
  for (const match of declared.matchAll(
    /^\s*(\w+)\s*:\s*(?:\{\s*type:\s*)?(String|Number|Boolean|Array|Object|Function)/gm,
  )) {
    const [, name = '', type = ''] = match;
    props.push({ name, source: sampleOf(name, type.toLowerCase()) });
  }
  return { props, emits: [...emits] };
}

function sampleOf(name: string, type: string): string {
  if (/^string\[\]|^array$|^Array<string>/.test(type)) return `["${name} one", "${name} two"]`;
  if (/\[\]$|^Array</.test(type)) return '[]';
  if (type === 'number') return '3';
  if (type === 'boolean') return 'false';
  if (type === 'string') return JSON.stringify(name);
  if (/=>|^function$/i.test(type)) return `spy(${JSON.stringify(name)})`;
  const literal = /^'([^']*)'|^"([^"]*)"/.exec(type);
  return literal ? JSON.stringify(literal[1] ?? literal[2]) : '{}';
}
