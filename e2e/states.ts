import { cpSync, existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { Product } from './product';
import { CASINO, CLUB, SHOP, TONGUES } from './stories';

/**
 * Data folders that browser tests begin with. Each is made once for a build, from the one before it, and copied for each file:
 * `fresh` is the demo world with an empty pool; `listed` has its link index and its drop list, measured; `told` has the names with a
 * tale measured in depth as well. `none` is for files that start products of their own.
 */
export const STATES = ['none', 'fresh', 'listed', 'told'] as const;
export type State = (typeof STATES)[number];

const root = dirname(dirname(fileURLToPath(import.meta.url)));
const kept = join(root, 'dist/states');
const PORT = 4390;
/** Moments of the world's clock that lie between two states are not lost to the copy. */
interface WorldFile {
  seed: number;
  worldStart: string;
  realStart: string;
  /** How long the world has run when the folder was put away, ms. */
  ranMs?: number;
}

/** Makes what is missing of the states; those of another build are made anew. */
export async function prepareStates(log: (words: string) => void): Promise<void> {
  const stamp = readFileSync(join(root, 'dist/.jam-ladle-built'), 'utf8') + readFileSync(import.meta.filename, 'utf8');
  const stampPath = join(kept, 'stamp');
  if (existsSync(stampPath) && readFileSync(stampPath, 'utf8') === stamp) return;
  rmSync(kept, { recursive: true, force: true });
  mkdirSync(kept, { recursive: true });
  let before: State | null = null;
  for (const [state, make] of Object.entries(MAKERS) as [State, Maker][]) {
    const started = Date.now();
    const folder = join(kept, state);
    if (before) copyState(before, folder);
    const product = await Product.start(folder, PORT);
    try {
      await make(product);
    } finally {
      await product.stop();
    }
    putAway(folder);
    log(`prepared a data folder: ${state}, ${Math.round((Date.now() - started) / 1000)} s`);
    before = state;
  }
  writeFileSync(stampPath, stamp);
}

/** A copy of its own to begin with; the world's clock goes on from where it was put away. */
export function copyState(state: State, folder: string): void {
  cpSync(join(kept, state), folder, { recursive: true });
  const path = join(folder, 'world.json');
  const { ranMs = 0, ...world }: WorldFile = JSON.parse(readFileSync(path, 'utf8'));
  writeFileSync(path, JSON.stringify({ ...world, realStart: new Date(Date.now() - ranMs).toISOString() }));
}

function putAway(folder: string): void {
  const path = join(folder, 'world.json');
  const world: WorldFile = JSON.parse(readFileSync(path, 'utf8'));
  writeFileSync(path, JSON.stringify({ ...world, ranMs: Date.now() - Date.parse(world.realStart) }));
}

type Maker = (product: Product) => Promise<void>;

const MAKERS: Partial<Record<State, Maker>> = {
  fresh: async () => undefined,
  listed: async (product) => {
    await product.upload('/sources/links?name=Vale+links', 'link-index.csv.gz');
    await product.upload('/sources/lists?name=Drops', 'drop-list.csv');
    await product.allDone();
  },
  told: async (product) => {
    const names = [CASINO, CLUB, TONGUES, SHOP];
    await product.send('/sources/lists?name=Names+with+a+tale', names.join('\n'));
    await product.allDone();
    await product.post('/measures', { names });
    await product.allDone();
  },
};
