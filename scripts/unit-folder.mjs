// Unit tests write into one folder, which goes with them. Servers of other users look into it as well.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

const NAME = 'jam-ladle-unit-';

export default function setup() {
  // each project of the tests asks for it: folders in folders would be too long for the names of sockets
  if (tmpdir().includes(NAME)) return;
  const folder = mkdtempSync(join(tmpdir(), NAME));
  chmodSync(folder, 0o755);
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
