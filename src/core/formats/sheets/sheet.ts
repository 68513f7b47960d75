/** A table as it was found in a file: a text, a sheet of a workbook, an array of JSON. */
export interface Sheet {
  /** Where it stands: the sheet's name, the path of an array, the file of an archive. Empty where there is only one. */
  name: string;
  /** Its first row is titles for sure. */
  hasTitles?: boolean;
  rows: string[][];
}

/** So many different sheets of a file are looked at. */
export const MOST_SHEETS = 200;

/**
 * A number as a text that is read as this number and no other: 12.345 has three digits behind the point, and would be taken for twelve
 * thousand.
 */
export function numberText(value: number): string {
  if (Number.isInteger(value)) return String(value);
  const text = String(Number(value.toPrecision(15)));
  const plain = text.includes('e') ? value.toFixed(10).replace(/0+$/, '') : text;
  return /\.\d{3}$/.test(plain) ? `${plain}0` : plain;
}

/** A row without the empty cells at its end. */
export function trimmed(row: string[]): string[] {
  let length = row.length;
  while (length > 0 && (row[length - 1] ?? '') === '') length--;
  return Array.from({ length }, (_, n) => row[n] ?? '');
}
