import { existsSync, readFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { gunzipSync } from 'node:zlib';
import { provideCompounds } from '../../core/names/compounds';
import { provideSubjectTables } from '../../core/topics/classifier';

/** A table that ships with the product (`tables/`, docs/data.md), unpacked. */
export function readTable(name: string): Uint8Array {
  return gunzipSync(readFileSync(join(tablesFolder(), `${name}.gz`)));
}

let folder: string | null = null;

/** Beside the sources or what was built of them. */
function tablesFolder(): string {
  folder ??= folderAbove(import.meta.dirname) ?? folderAbove(process.cwd());
  if (folder === null) throw new Error('The tables of words are missing beside the product.');
  return folder;
}

function folderAbove(start: string | undefined): string | null {
  if (start === undefined) return null;
  for (let at = start; ; at = dirname(at)) {
    if (existsSync(join(at, 'tables/words-en.gz'))) return join(at, 'tables');
    if (at === dirname(at)) return null;
  }
}

provideCompounds(() => readTable('compounds-en'));
provideSubjectTables((language) => readTable(`subjects-${language}`));
