import type { CsvProblem } from '../formats/csv';
import { readTitled, type TitledInput, type Value } from '../formats/titled-table';
import { type Place, wordOf } from './places';

const COLUMNS = {
  title: /^(place|name|town|city|title|ort|stadt|ville|ciudad|citta|plaats)$/,
  people: /^(people|population|size|inhabitants|einwohner|habitants|habitantes|abitanti|inwoners)$/,
  growth: /^(growth|growthpercent|change|wachstum)$/,
} as const;

/** Reads a table of places: place, and people and growth where they are there. */
export function readPlaces(given: TitledInput): { places: Place[]; aside: CsvProblem[]; problem: string | null } {
  const { rows, aside, missing } = readTitled(given, COLUMNS, ['title'], readPlace);
  const problem = missing.length > 0 ? 'No line of titles names a column for place.' : null;
  return { places: rows.map(({ line: _, ...place }) => place), aside, problem };
}

function readPlace(value: Value<keyof typeof COLUMNS>): Place | string {
  const title = value('title').slice(0, 100);
  const word = wordOf(title);
  if (word === '') return `"${title}" has no letters that a name can have`;
  return { word, title, people: value.number('people'), growthPercent: value.number('growth') };
}
