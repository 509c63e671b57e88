import type { Dependency } from '../../source/packages.js';

/**
 * What the members of a hook mean that keeps a form’s values. Reader and writer of its approach both go by this table,
 * so that a hook is known by one entry.
 */
export interface CallTable {
  approach: string;
  /** The hook’s name, and the npm package it comes from; a hook without one stands in the project itself. */
  hook: string;
  from?: Dependency;
  /**
   * How the values are told while rendering: as a member of what the hook gives, by a call of a member, or by a hook of
   * the package that follows what the form stores.
   */
  shown: { by: 'member'; member: string } | { by: 'call'; member: string } | { by: 'store'; hook: string };
  /** Changes one value: `setValue('town', next)`. */
  one: string;
  /** Changes several values, given as an object or as a function of the ones before; left out where nothing does. */
  all?: string;
  /** The first version of the package that has it. */
  allSince?: string;
  /** Brings back what the form began with. */
  reset: string;
  /** That resets the page’s own form as well, which then tells of it. */
  resetsPage?: true;
  /** Gives the attributes that tie a control of the page to a value: `{...register('town')}`. */
  registers?: string;
  /** How a change of one value looks back: by a function of the one before, or by asking a member for it. */
  looksBack?: { by: 'function' } | { by: 'call'; member: string };
  /** `all` hands the values of the last view to its function, rather than those of the latest change. */
  outdated?: true;
  /** The option that states what the form begins as; the hook’s first argument does where it is left out. */
  start?: string;
  /** How it sends: a member takes the function that does, an option does and a member begins it, or by itself not. */
  sends?: { by: 'member'; member: string } | OptionSends;
  /** Any text may name a field; otherwise their names are typed. */
  anyName?: true;
  /** The type of the values is told by what the form begins as, and cannot be written at the call. */
  typedByStart?: true;
  /** It follows what it is told to begin as at later views, so that the first has to be kept. */
  followsStart?: true;
}

/** An option that takes the function that sends. */
export interface OptionSends {
  by: 'option';
  option: string;
  member: string;
  /** The member that a button’s click begins it by, where no form does. */
  byClick?: string;
  /** The hook has to be told; it waits for an answer, without which it stays at sending. */
  asked?: true;
  waits?: true;
  /** The member keeps the browser from leaving the page. */
  prevents?: true;
  /** It complains of a button that sends without saying so. */
  typedButtons?: true;
}

/** The hook that is written once into a project, and the one for forms with a schema. */
export const ownCalls: CallTable = {
  approach: 'own-hook',
  hook: 'useFormValues',
  shown: { by: 'member', member: 'values' },
  one: 'setValue',
  all: 'setValues',
  reset: 'resetValues',
  looksBack: { by: 'function' },
};

export const formikCalls: CallTable = {
  approach: 'formik',
  hook: 'useFormik',
  from: { name: 'formik', range: '^2.4.6' },
  shown: { by: 'member', member: 'values' },
  one: 'setFieldValue',
  all: 'setValues',
  reset: 'resetForm',
  outdated: true,
  start: 'initialValues',
  sends: {
    by: 'option',
    option: 'onSubmit',
    member: 'handleSubmit',
    byClick: 'submitForm',
    asked: true,
    waits: true,
    prevents: true,
    typedButtons: true,
  },
  anyName: true,
};

export const hookFormCalls: CallTable = {
  approach: 'react-hook-form',
  hook: 'useForm',
  from: { name: 'react-hook-form', range: '^7.74.0' },
  shown: { by: 'call', member: 'watch' },
  one: 'setValue',
  all: 'setValues',
  allSince: '7.74.0',
  reset: 'reset',
  resetsPage: true,
  registers: 'register',
  looksBack: { by: 'call', member: 'getValues' },
  start: 'defaultValues',
  sends: { by: 'member', member: 'handleSubmit' },
};

export const tanstackCalls: CallTable = {
  approach: 'tanstack-form',
  hook: 'useForm',
  from: { name: '@tanstack/react-form', range: '^1.33.0' },
  shown: { by: 'store', hook: 'useStore' },
  one: 'setFieldValue',
  reset: 'reset',
  looksBack: { by: 'function' },
  start: 'defaultValues',
  sends: {
    by: 'option',
    option: 'onSubmit',
    member: 'handleSubmit',
  },
  typedByStart: true,
  followsStart: true,
};

/** Every table, for readers that do not know which hook they look at. */
export const callTables: readonly CallTable[] = [formikCalls, hookFormCalls, tanstackCalls];
