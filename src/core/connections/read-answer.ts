import type { Tree } from './tree';

/** An answer that was read: its entries, and what can be had of them. */
export interface ReadAnswer {
  /** How many entries there are. */
  count: number;
  /** The text of a place in an entry; '' where nothing stands there. */
  text(entry: number, at: string): string;
  /** The same, of the answer itself. */
  whole(at: string): string;
  /** The answer as a tree to pick from; null: HTML, which is picked from by selectors. */
  tree: Tree | null;
}
