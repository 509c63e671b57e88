import type { HandsOn } from '../package-leaving/context-parts.js';
import { fieldHookOf } from './field-hook.js';

/** How this package hands its form on. */
export const handsOn: HandsOn = {
  module: 'react-hook-form',
  hook: 'useFormContext',
  provider: 'FormProvider',
  takesField: (component) => fieldHookOf(component) !== undefined,
  draws: false,
};
