import { nameOf } from '../list-names';

/** Where columns of a text begin that is aligned by spaces; null: it is not. */
const LEAST_LINES = 2;
const GAP = 2;
/** A line may break out of its column: so many do not count. */
const LOOSE = 0.02;

export function alignedColumns(lines: readonly string[]): number[] | null {
  const body = lines.filter((line) => line.trim() !== '' && !/^[-=+\s|]+$/.test(line) && /\S {2,}\S/.test(line));
  if (body.length < LEAST_LINES || body.length < 0.6 * lines.filter((line) => line.trim() !== '').length) return null;
  const width = Math.max(...body.map((line) => line.length));
  const used = new Array<number>(width).fill(0);
  for (const line of body) for (let at = 0; at < line.length; at++) if (line[at] !== ' ') used[at]++;
  const most = Math.floor(body.length * LOOSE);
  const starts: number[] = [];
  let gap = GAP;
  for (let at = 0; at < width; at++) {
    if (used[at] <= most) gap++;
    else {
      if (gap >= (starts.length === 0 ? 0 : 1) && isStart(body, at, gap)) starts.push(at);
      gap = 0;
    }
  }
  if (starts.length > 0) starts[0] = 0;
  if (starts.length < 2) return null;
  return body.some((line) => alignedCells(line, starts).some((cell) => nameOf(cell) !== null)) ? starts : null;
}

/** A gap of one space parts columns only where many lines have more than that before it. */
function isStart(lines: readonly string[], at: number, gap: number): boolean {
  if (gap >= GAP) return true;
  const [head] = lines;
  const partsTitles = head[at - 1] === ' ' && (head[at - 2] ?? ' ') !== ' ' && (head[at] ?? ' ') !== ' ';
  if (lines.length >= 4 && partsTitles && !head.split(/\s+/).some((word) => nameOf(word) !== null)) return true;
  return lines.filter((line) => line.length > at && line.slice(0, at).endsWith('  ')).length * 4 >= lines.length;
}

export function alignedCells(line: string, starts: readonly number[]): string[] {
  return starts.map((start, n) => line.slice(start, starts[n + 1]).trim());
}
