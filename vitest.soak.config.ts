import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: {
    include: ['test/soak/**/*.soak.ts'],
    testTimeout: 1_800_000,
    pool: 'forks',
    maxWorkers: 2,
    // the core is run as Node runs it
    deps: { interopDefault: false },
  },
});
