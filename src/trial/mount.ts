/** Source of the module that puts a component on a page, by framework. */

/** @param specifier how the component's module is imported */
export function reactMount(
  specifier: string,
  exported: string,
  props: readonly { name: string; source: string }[],
): string {
  return [
    `import { createElement } from 'react';`,
    `import { createRoot } from 'react-dom/client';`,
    `import * as form from ${JSON.stringify(specifier)};`,
    `const props = { ${props.map(({ name, source }) => `${JSON.stringify(name)}: ${source}`).join(', ')} };`,
    `createRoot(document.getElementById('root')).render(createElement(form[${JSON.stringify(exported)}], props));`,
  ].join('\n');
}

/** @param outputs names of outputs to record; `module` is the class of a module that declares the component */
export function angularMount(
  specifier: string,
  component: {
    className: string;
    selector: string;
    inputs: readonly { name: string; source: string }[];
    outputs: readonly string[];
  },
  module: { specifier: string; className: string } | undefined,
  zoneless: boolean,
): string {
  const bindings = [
    ...component.inputs.map(({ name }) => `[${name}]="given.${name}"`),
    ...component.outputs.map((name) => `(${name})="seen_${name}($event)"`),
  ].join(' ');
  const template = `<${component.selector} ${bindings}></${component.selector}>`;
  const lines = [
    ...(zoneless ? [] : [`import 'zone.js';`]),
    `import '@angular/compiler';`,
    `import { Component, NgModule, ErrorHandler${zoneless ? ', provideZonelessChangeDetection' : ''} } from '@angular/core';`,
    `import * as form from ${JSON.stringify(specifier)};`,
    ...(module
      ? [
          `import * as home from ${JSON.stringify(module.specifier)};`,
          `import { platformBrowser } from '@angular/platform-browser';`,
          `import { BrowserModule } from '@angular/platform-browser';`,
        ]
      : [`import { bootstrapApplication } from '@angular/platform-browser';`]),
    `import { provideHttpClient } from '@angular/common/http';`,
    `class Host {`,
    `  given = { ${component.inputs.map(({ name, source }) => `${JSON.stringify(name)}: ${source}`).join(', ')} };`,
    ...component.outputs.map((name) => `  seen_${name} = spy(${JSON.stringify(name)});`),
    `}`,
    `const trouble = { handleError(error) { console.error(error); } };`,
    `const providers = [provideHttpClient(), { provide: ErrorHandler, useValue: trouble }${zoneless ? ', provideZonelessChangeDetection()' : ''}];`,
  ];
  if (module) {
    lines.push(
      `Component({ selector: 'app-root', standalone: false, template: ${JSON.stringify(template)} })(Host);`,
      `class Root {}`,
      `NgModule({ imports: [BrowserModule, home.${module.className}], declarations: [Host], bootstrap: [Host], providers })(Root);`,
      `platformBrowser().bootstrapModule(Root).catch((error) => console.error(error));`,
    );
  } else {
    lines.push(
      `Component({ selector: 'app-root', standalone: true, imports: [form.${component.className}], template: ${JSON.stringify(template)} })(Host);`,
      `bootstrapApplication(Host, { providers }).catch((error) => console.error(error));`,
    );
  }
  return lines.join('\n');
}

/** @param emits names of events to record */
export function vueMount(
  specifier: string,
  props: readonly { name: string; source: string }[],
  emits: readonly string[],
): string {
  const handlers = emits.map((name) => {
    const key = `on${name.charAt(0).toUpperCase()}${name.slice(1).replace(/-(\w)/g, (_, letter: string) => letter.toUpperCase())}`;
    return `${JSON.stringify(key)}: spy(${JSON.stringify(name)})`;
  });
  return [
    `import { createApp, h } from 'vue';`,
    `import form from ${JSON.stringify(specifier)};`,
    `const given = { ${[...props.map(({ name, source }) => `${JSON.stringify(name)}: ${source}`), ...handlers].join(', ')} };`,
    `const app = createApp({ render: () => h(form, given) });`,
    `app.config.errorHandler = (error) => console.error(error);`,
    `app.mount('#root');`,
  ].join('\n');
}
