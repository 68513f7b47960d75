let read: (() => Uint8Array) | null = null;
let byPart: Map<string, string[]> | null = null;

/** Says where the table of compounds is read (`tables/compounds-en.gz`, docs/data.md): a word and its parts a line. */
export function provideCompounds(reader: () => Uint8Array): void {
  read = reader;
  byPart = null;
}

/** English words of two of which one is `part`, and that are still about it: beehive for bee and hive, but honeymoon for no moon. */
export function compoundsOf(part: string): readonly string[] {
  byPart ??= readParts();
  return byPart.get(part) ?? [];
}

function readParts(): Map<string, string[]> {
  if (!read) throw new Error('No table of compounds is provided');
  const parts = new Map<string, string[]>();
  for (const line of new TextDecoder().decode(read()).split('\n')) {
    const [word, ...of] = line.split(' ');
    for (const part of of) {
      const words = parts.get(part);
      if (words) words.push(word);
      else parts.set(part, [word]);
    }
  }
  return parts;
}
