import Database from 'better-sqlite3';

/** Looks at the database of a copy, whole. @returns why it cannot be taken; null: it can. */
export function problemOfCopy(path: string): string | null {
  let raw: Database.Database | null = null;
  try {
    raw = new Database(path, { readonly: true });
    const [{ integrity_check: found }] = raw.pragma('integrity_check(1)') as { integrity_check: string }[];
    if (found !== 'ok') return `the copy is damaged: ${found}`;
    const tables = raw.prepare(`SELECT count(*) FROM sqlite_master WHERE name IN ('domains', 'briefs')`).pluck().get();
    return tables === 2 ? null : 'it is no copy of a data folder';
  } catch (error) {
    return `the copy cannot be read: ${(error as Error).message}`;
  } finally {
    raw?.close();
  }
}
