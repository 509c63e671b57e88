// Loaded before the program: ends it, or lets the disk be full, at the write of a number that the environment names.
import fs from 'node:fs';
import { syncBuiltinESMExports } from 'node:module';
import process from 'node:process';

const at = Number(process.env.BREAK_AT ?? 0);
const how = process.env.BREAK_HOW ?? 'kill';
let count = 0;

for (const name of ['writeFileSync', 'renameSync', 'rmSync', 'mkdirSync', 'fsyncSync', 'chmodSync']) {
  const original = fs[name];
  fs[name] = (...parameters) => {
    const place = String(parameters[0]);
    const counts = typeof parameters[0] === 'number' || (place.includes('graft-test-') && !place.includes('lock'));
    if (counts && ++count === at) {
      if (how === 'kill') process.kill(process.pid, 'SIGKILL');
      // half of a text reaches a disk that is full
      if (name === 'writeFileSync' && typeof parameters[0] === 'number')
        original(parameters[0], String(parameters[1]).slice(0, 20));
      throw Object.assign(new Error('ENOSPC: no space left on device'), { code: 'ENOSPC' });
    }
    return original(...parameters);
  };
}
syncBuiltinESMExports();
