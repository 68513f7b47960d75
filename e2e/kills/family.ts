import { readdirSync, readFileSync } from 'node:fs';

/** A process and all that it has started. */
export function familyOf(pid: number): number[] {
  const parents = readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((name) => {
      try {
        // the name of a program may hold spaces and brackets
        const stat = readFileSync(`/proc/${name}/stat`, 'utf8');
        return [[Number(name), Number(stat.slice(stat.lastIndexOf(')') + 2).split(' ')[1])] as const];
      } catch {
        return [];
      }
    });
  const family = [pid];
  for (const member of family) for (const [child, parent] of parents) if (parent === member) family.push(child);
  return family;
}
