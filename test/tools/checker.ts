import errors from 'ajv-errors';
import formats from 'ajv-formats';

/** Both packages are CommonJS: their function stands one level deeper. */
export const addErrors = errors.default;
export const addFormats = formats.default;
