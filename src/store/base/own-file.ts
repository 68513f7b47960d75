import { closeSync, fsyncSync, openSync, renameSync, writeSync } from 'node:fs';

/** Writes a file that is its owner's alone, whole or not at all, on disk when it returns. */
export function writeOwnFile(path: string, value: object): void {
  const file = openSync(`${path}.new`, 'w', 0o600);
  try {
    writeSync(file, `${JSON.stringify(value, null, 2)}\n`);
    fsyncSync(file);
  } finally {
    closeSync(file);
  }
  renameSync(`${path}.new`, path);
}
