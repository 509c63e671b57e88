/** Source of the module that puts a component on a page, by framework. */

/**
 * @param specifier how the component's module is imported
 * @param contexts what is provided around it
 */
export function reactMount(
  specifier: string,
  exported: string,
  props: readonly { name: string; source: string }[],
  contexts: readonly { specifier: string; exported: string; source: string }[] = [],
): string {
  const form = `createElement(form[${JSON.stringify(exported)}], props)`;
  const shown = contexts.reduce(
    (inner, one, index) =>
      `createElement(context${index}[${JSON.stringify(one.exported)}].Provider, { value: ${one.source} }, ${inner})`,
    form,
  );
  return [
    `import { createElement } from 'react';`,
    `import { createRoot } from 'react-dom/client';`,
    `import * as form from ${JSON.stringify(specifier)};`,
    ...streamLines([...props, ...contexts]),
    ...contexts.map(({ specifier: file }, index) => `import * as context${index} from ${JSON.stringify(file)};`),
    `const props = { ${props.map(({ name, source }) => `${JSON.stringify(name)}: ${source}`).join(', ')} };`,
    `createRoot(document.getElementById('root')).render(${shown});`,
  ].join('\n');
}

/** What samples need that answer with streams. */
function streamLines(samples: readonly { source: string }[]): string[] {
  return samples.some(({ source }) => /\bstream\(/.test(source)) ? [`import { from as stream } from 'rxjs';`] : [];
}

/** What an Angular component needs around it. */
export interface AngularSurroundings {
  /** The module that declares it; undefined for a standalone one. */
  module: { specifier: string; className: string } | undefined;
  /** Classes of the project that are injected, each with the module that exports it. */
  services: readonly { specifier: string; className: string }[];
  /** What stands in for what cannot be made by itself, with the module that exports it. */
  standIns: readonly { specifier: string; name: string; source: string }[];
  zoneless: boolean;
  /** Whether the project's code speaks of the router. */
  routed: boolean;
}

/** @param component its inputs as source, and the names of outputs to record */
export function angularMount(
  specifier: string,
  component: {
    className: string;
    selector: string;
    inputs: readonly { name: string; source: string }[];
    outputs: readonly string[];
  },
  { module, services, standIns, zoneless, routed }: AngularSurroundings,
): string {
  const tag = /^[a-z][\w-]*$/.test(component.selector) ? component.selector : 'div';
  const provided = [
    'provideHttpClient()',
    '{ provide: ErrorHandler, useValue: trouble }',
    ...(zoneless ? ['provideZonelessChangeDetection()'] : []),
    ...(routed ? ['provideRouter([])'] : []),
    ...services.map(({ className }, index) => `...given(service${index}[${JSON.stringify(className)}])`),
    ...standIns.map(
      ({ name, source }, index) => `{ provide: token${index}[${JSON.stringify(name)}], useFactory: () => (${source}) }`,
    ),
  ];
  return [
    ...(zoneless ? [] : [`import 'zone.js';`]),
    `import '@angular/compiler';`,
    `import { ApplicationRef, createComponent, ErrorHandler, NgModule, NgZone, provideZonelessChangeDetection, reflectComponentType } from '@angular/core';`,
    `import { BrowserModule, createApplication, platformBrowser } from '@angular/platform-browser';`,
    `import { provideHttpClient } from '@angular/common/http';`,
    ...(routed ? [`import { provideRouter } from '@angular/router';`] : []),
    `import * as form from ${JSON.stringify(specifier)};`,
    ...services.map((service, index) => `import * as service${index} from ${JSON.stringify(service.specifier)};`),
    ...streamLines([...standIns, ...component.inputs]),
    ...standIns.map(({ specifier: file }, index) => `import * as token${index} from ${JSON.stringify(file)};`),
    ...(module ? [`import * as home from ${JSON.stringify(module.specifier)};`] : []),
    `const trouble = { handleError(error) { console.error(error); } };`,
    // what provides itself to the whole application needs no help, and what is no class cannot be made
    `const given = (token) => (typeof token === 'function' && !token.ɵprov?.providedIn ? [token] : []);`,
    `const providers = [${provided.join(', ')}];`,
    `const inputs = { ${component.inputs.map(({ name, source }) => `${JSON.stringify(name)}: ${source}`).join(', ')} };`,
    `const recorded = ${JSON.stringify(component.outputs)};`,
    `function show(app) {`,
    `  const host = document.createElement(${JSON.stringify(tag)});`,
    `  document.querySelector('app-root').append(host);`,
    `  app.injector.get(NgZone).run(() => {`,
    `    const ref = createComponent(form.${component.className}, { environmentInjector: app.injector, hostElement: host });`,
    `    for (const [name, value] of Object.entries(inputs)) ref.setInput(name, value);`,
    `    for (const { propName, templateName } of reflectComponentType(form.${component.className}).outputs)`,
    `      if (recorded.includes(propName) || recorded.includes(templateName)) ref.instance[propName].subscribe(spy(propName));`,
    `    app.attachView(ref.hostView);`,
    `    app.tick();`,
    `  });`,
    `}`,
    ...(module
      ? [
          `class Root { ngDoBootstrap(app) { show(app); } }`,
          `NgModule({ imports: [BrowserModule, home.${module.className}], providers })(Root);`,
          `platformBrowser().bootstrapModule(Root).catch((error) => console.error(error));`,
        ]
      : [`createApplication({ providers }).then(show).catch((error) => console.error(error));`]),
  ].join('\n');
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
