import { defineConfig } from 'vitest/config';

const report = process.env['LIVELY_GRAFT_REPORT'];

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    exclude: ['test/soak/**', 'node_modules/**'],
    testTimeout: 240_000,
    hookTimeout: 240_000,
    // CommonJS packages as Node gives them to the built program
    deps: { interopDefault: false },
    pool: 'forks',
    maxWorkers: 2,
    reporters: report ? ['default', ['json', { outputFile: report }]] : ['default'],
  },
});
