import type { SpellingRisk } from '../core/names/spelling';
import type { Split } from '../core/names/word-split';
import type { SubjectVerdict } from '../core/topics/classifier';

/** A name to be read: its label, or the whole domain, and what it ends with. */
export interface NameToRead {
  name: string;
  ending: string;
}

/** What a name says by itself. */
export interface NameReading {
  /** The label that was read, before the ending. */
  label: string;
  split: Split;
  /** 0 to 100. */
  sayability: number;
  /** Runs of letters that are hard to say. */
  hard: string[];
  spelling: SpellingRisk[];
  /** The label in the other number; null: it has none. */
  twin: string | null;
  subject: Pick<SubjectVerdict, 'subject' | 'confidence' | 'words' | 'runnerUp'>;
}

/** What the grid shows of a name. */
export interface NameSaid {
  sayability: number;
  /** Title of the subject that its words tell; null: none that shows. */
  subject: string | null;
}
