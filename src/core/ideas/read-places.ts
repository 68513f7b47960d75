import type { CsvProblem } from '../formats/csv';
import { readTitled, type Value } from '../formats/titled-table';
import { type Place, wordOf } from './places';

const COLUMNS = {
  title: /^(place|name|town|city|title)$/,
  people: /^(people|population|size|inhabitants)$/,
  growth: /^(growth|growthpercent|change)$/,
} as const;

/** Reads a table of places: place, and people and growth where they are there. */
export function readPlaces(text: string): { places: Place[]; aside: CsvProblem[]; problem: string | null } {
  const { rows, aside, missing } = readTitled(text, COLUMNS, ['title'], readPlace);
  const problem = missing.length > 0 ? 'The first line names no column for place.' : null;
  return { places: rows.map(({ line: _, ...place }) => place), aside, problem };
}

function readPlace(value: Value<keyof typeof COLUMNS>): Place | string {
  const title = value('title').slice(0, 100);
  const word = wordOf(title);
  if (word === '') return `"${title}" has no letters that a name can have`;
  const number = (text: string) => {
    const parsed = Number(text.replace(/[ ,%](?=\d{3})|%/g, ''));
    return text === '' || !Number.isFinite(parsed) ? null : parsed;
  };
  return { word, title, people: number(value('people')), growthPercent: number(value('growth')) };
}
