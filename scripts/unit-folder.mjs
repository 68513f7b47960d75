// Unit tests write into one folder, which goes with them. Servers of other users look into it as well.
import { chmodSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

export default function setup() {
  const folder = mkdtempSync(join(tmpdir(), 'jam-ladle-unit-'));
  chmodSync(folder, 0o755);
  process.env.TMPDIR = folder;
  return () => rmSync(folder, { recursive: true, force: true });
}
