import yauzl, { type Entry, type ZipFile } from 'yauzl';
import { FileProblem } from './file-problem';

const MB = 2 ** 20;
/** Texts of all cells are held while a workbook is read; sheets are read row by row. */
const MOST_TEXTS = 48 * MB;
const MOST_SHEET = 4096 * MB;
const MOST_PARTS = 5000;
const TEXTS = /(^|\/)sharedStrings\.xml$/i;

/**
 * Looks at a workbook's parts before it is read: texts that take more memory than there is, sheets that never end, and parts that unpack to
 * something else than they say are refused.
 *
 * @throws FileProblem with a message for people.
 */
export async function refuseBombs(path: string): Promise<void> {
  const zip = await opened(path);
  try {
    if (zip.entryCount > MOST_PARTS) throw new FileProblem('The workbook has more parts than one can have.');
    for await (const entry of zip.eachEntry()) {
      const { fileName, uncompressedSize } = entry;
      const isTexts = TEXTS.test(fileName);
      const most = isTexts ? MOST_TEXTS : MOST_SHEET;
      if (uncompressedSize > most)
        throw new FileProblem(
          `${isTexts ? 'The texts of the workbook' : 'A sheet of the workbook'} would take ${Math.round(uncompressedSize / MB).toLocaleString('en')} MB, and may take ${most / MB}. Save the sheet as CSV.`,
        );
      // what it says of its size may be untrue: the reader ends where it is
      if (isTexts) await readThrough(zip, entry);
    }
  } catch (error) {
    if (error instanceof FileProblem) throw error;
    throw new FileProblem(`The workbook is damaged (${(error as Error).message}).`);
  } finally {
    zip.close();
  }
}

async function opened(path: string): Promise<ZipFile> {
  try {
    return await yauzl.openPromise(path, { autoClose: false, lazyEntries: true });
  } catch (error) {
    throw new FileProblem(`This is a ZIP archive, and no workbook that can be read (${(error as Error).message}).`);
  }
}

async function readThrough(zip: ZipFile, entry: Entry): Promise<void> {
  // yauzl ends with an error where more comes out than was said
  for await (const _chunk of await zip.openReadStreamPromise(entry));
}
