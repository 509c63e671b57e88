// Installs and builds what is missing or older than its sources.
import { execSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { fileURLToPath } from 'node:url';

const root = path.dirname(path.dirname(fileURLToPath(import.meta.url)));

function newest(folder) {
  return readdirSync(folder, { withFileTypes: true }).reduce((latest, entry) => {
    const place = path.join(folder, entry.name);
    return Math.max(latest, entry.isDirectory() ? newest(place) : statSync(place).mtimeMs);
  }, 0);
}

const run = (command) => execSync(command, { cwd: root, stdio: ['ignore', 2, 2] });

if (
  existsSync(path.join(root, 'package-lock.json')) &&
  !existsSync(path.join(root, 'node_modules', '.package-lock.json'))
) {
  console.error('installing packages…');
  run('npm ci --no-audit --no-fund --loglevel=error');
}
// an installed package brings its build and no sources
if (existsSync(path.join(root, 'src'))) {
  const built = path.join(root, 'dist', 'cli.js');
  const sources = Math.max(
    newest(path.join(root, 'src')),
    newest(path.join(root, 'schemas')),
    statSync(path.join(root, 'scripts', 'build.mjs')).mtimeMs,
  );
  if (!existsSync(built) || statSync(built).mtimeMs < sources) {
    console.error('building…');
    run('node scripts/build.mjs');
  }
}
