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
  /** Whether that resets the page’s own form as well, which then tells of it. */
  resetsPage: boolean;
  /** Gives the attributes that tie a control of the page to a value: `{...register('town')}`. */
  registers?: string;
  /** How a change of one value looks back: by a function of the one before, or by asking a member for it. */
  looksBack?: { by: 'function' } | { by: 'call'; member: string };
  /** Whether `all` hands the values of the latest change to its function, rather than those of the last view. */
  latest: boolean;
  /** The option that states what the form begins as; the hook’s first argument does where it is left out. */
  start?: string;
  /** How it sends: a member takes the function that does, an option does and a member begins it, or by itself not. */
  sends?: { by: 'member'; member: string } | OptionSends;
  /** Whether the names of fields are typed, so that a plain text is none. */
  namesTyped: boolean;
  /** Where the type of the values is written: at the call, or only at what the form begins as. */
  typedAt: 'call' | 'start';
  /** Whether it follows what it is told to begin as at later views, so that the first has to be kept. */
  followsStart: boolean;
}

/** An option that takes the function that sends. */
export interface OptionSends {
  by: 'option';
  option: string;
  member: string;
  /** The member that a button’s click begins it by, where no form does. */
  byClick?: string;
  /** Whether the hook has to be told; whether it waits for an answer, without which it stays at sending. */
  asked: boolean;
  waits: boolean;
  /** Whether the member keeps the browser from leaving the page. */
  prevents: boolean;
  /** Whether it complains of a button that sends without saying so. */
  typedButtons: boolean;
}

/** The hook that is written once into a project, and the one for forms with a schema. */
export const ownCalls: CallTable = {
  approach: 'own-hook',
  hook: 'useFormValues',
  shown: { by: 'member', member: 'values' },
  one: 'setValue',
  all: 'setValues',
  reset: 'resetValues',
  resetsPage: false,
  looksBack: { by: 'function' },
  latest: true,
  namesTyped: true,
  typedAt: 'call',
  followsStart: false,
};

export const formikCalls: CallTable = {
  approach: 'formik',
  hook: 'useFormik',
  from: { name: 'formik', range: '^2.4.6' },
  shown: { by: 'member', member: 'values' },
  one: 'setFieldValue',
  all: 'setValues',
  reset: 'resetForm',
  resetsPage: false,
  latest: false,
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
  namesTyped: false,
  typedAt: 'call',
  followsStart: false,
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
  latest: true,
  start: 'defaultValues',
  sends: { by: 'member', member: 'handleSubmit' },
  namesTyped: true,
  typedAt: 'call',
  followsStart: false,
};

export const tanstackCalls: CallTable = {
  approach: 'tanstack-form',
  hook: 'useForm',
  from: { name: '@tanstack/react-form', range: '^1.33.0' },
  shown: { by: 'store', hook: 'useStore' },
  one: 'setFieldValue',
  reset: 'reset',
  resetsPage: false,
  looksBack: { by: 'function' },
  latest: true,
  start: 'defaultValues',
  sends: {
    by: 'option',
    option: 'onSubmit',
    member: 'handleSubmit',
    asked: false,
    waits: false,
    prevents: false,
    typedButtons: false,
  },
  namesTyped: true,
  typedAt: 'start',
  followsStart: true,
};

/** Every table, for readers that do not know which hook they look at. */
export const callTables: readonly CallTable[] = [formikCalls, hookFormCalls, tanstackCalls];
