import path from 'node:path';
import { defineConfig } from 'vitest/config';
import { BaseSequencer, type TestSpecification } from 'vitest/node';

const report = process.env['LIVELY_GRAFT_REPORT'];

/** Files that run longest, whatever their size, in order. */
const longest = ['standards', 'declared-schema', 'signal-forms', 'angular', 'forms', 'trial-judges', 'commands'];

/** Begins with the files that run longest, so that none of them is still at it when all others have ended. */
class LongestFirst extends BaseSequencer {
  override async sort(files: TestSpecification[]): Promise<TestSpecification[]> {
    const place = ({ moduleId }: TestSpecification): number => {
      const at = longest.indexOf(path.basename(moduleId, '.test.ts'));
      return at < 0 ? longest.length : at;
    };
    const sorted = await super.sort(files);
    return sorted.sort((a, b) => place(a) - place(b));
  }
}

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
    sequence: { sequencer: LongestFirst },
    reporters: report ? ['default', ['json', { outputFile: report }]] : ['default'],
  },
});
