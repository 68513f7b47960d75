// `npm run -s judge -- KIND`: judges lines of JSON from standard input. Nothing but answers goes to standard output.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { install, ROOT } from './prepare.mjs';

install(process.stderr.fd);
const { status } = spawnSync(
  process.execPath,
  ['--import', 'tsx', join(ROOT, 'src/cli/judge.ts'), ...process.argv.slice(2)],
  { cwd: ROOT, stdio: 'inherit' },
);
process.exit(status ?? 1);
