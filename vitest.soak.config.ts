import { defineConfig } from 'vitest/config';

export default defineConfig({
  test: { include: ['test/soak/**/*.soak.ts'], testTimeout: 1_800_000, pool: 'forks', maxWorkers: 2 },
});
