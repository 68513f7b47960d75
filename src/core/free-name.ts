/** A name that is not taken: the one that is wanted, else with a number behind it. */
export function freeName(wanted: string, taken: readonly string[]): string {
  const all = new Set(taken);
  let name = wanted;
  for (let n = 2; all.has(name); n++) name = `${wanted} (${n})`;
  return name;
}
