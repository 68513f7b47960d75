/** Kinds of files that rows leave as. */
export const FORMAT_TITLES = {
  csv: 'CSV',
  tsv: 'TSV',
  jsonl: 'JSON Lines',
  xlsx: 'a workbook (XLSX)',
  ods: 'a workbook (ODS)',
  parquet: 'Parquet',
} as const;
export const FORMATS = Object.keys(FORMAT_TITLES) as (keyof typeof FORMAT_TITLES)[];
