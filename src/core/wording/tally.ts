/** How often each of some words is said, those said most first, and as they came where that is the same. */
export function tally(words: readonly string[]): [word: string, times: number][] {
  const times = new Map<string, number>();
  for (const word of words) times.set(word, (times.get(word) ?? 0) + 1);
  return [...times].sort((a, b) => b[1] - a[1]);
}
