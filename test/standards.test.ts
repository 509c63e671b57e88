import { spawnSync } from 'node:child_process';
import { describe, expect, it } from 'vitest';
import { root } from './tools/project.js';

describe('the code keeps to its standards', () => {
  it.each(['check:types', 'check:lint', 'check:format'])(
    '%s',
    (script) => {
      const run = spawnSync('npm', ['run', '--silent', script], { cwd: root, encoding: 'utf8' });
      expect(run.status, run.stdout + run.stderr).toBe(0);
    },
    400_000,
  );
});
