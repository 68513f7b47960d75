import { dataFolder } from './config';
import { lockFolder } from './folder-lock';

/** Holds the data folder for the web server, so that no second one writes there; ends the process where another holds it. */
export function holdFolder(): void {
  try {
    lockFolder(dataFolder(), 'web server');
  } catch (error) {
    process.stderr.write(`The web server cannot start: ${(error as Error).message}\n`);
    process.exit(1);
  }
}
