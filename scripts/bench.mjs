// `npm run bench`: figures, each with a baseline of the same run.
import { spawnSync } from 'node:child_process';
import { install, ROOT } from './prepare.mjs';

install();
const { status } = spawnSync(process.execPath, ['--import', 'tsx', 'bench/main.ts', ...process.argv.slice(2)], {
  cwd: ROOT,
  stdio: 'inherit',
});
process.exit(status ?? 1);
