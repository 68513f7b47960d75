import type { z } from 'zod';
import type { Connection } from '../core/connections/connection';
import type { ChoiceFact, MemberFact } from '../core/pool/facts';
import type { PoolQuery } from '../core/pool/query';
import type { Settings } from '../core/settings/settings';
import type { TriedAbility } from '../core/setup/abilities';
import type { Tried } from '../core/setup/tried';
import type { FoundPages, PageQuestion } from '../core/verdict/page-questions';
import type { ResaleWorth } from '../core/worth/resale';
import type { TriedConnectionSchema } from './connections';
import type { NameReading, NameToRead } from './names';
import type { PoolKnown, PoolReply } from './pool';
import type { MailboxSchema } from './source-forms';
import type { TriedMailbox } from './sources';

/**
 * What services need of the engine, which alone holds the pool's index, the words of names and the sales. The web server gives it by its
 * client, over the local socket; a test gives what it likes.
 */
export interface EnginePort {
  queryPool(query: PoolQuery): Promise<PoolReply>;
  /** Words that a choice has had in this pool, so many at most. */
  wordsOfChoice(fact: ChoiceFact, many: number): Promise<string[]>;
  /** Of how many domains each fact is known. */
  knownFacts(): Promise<PoolKnown>;
  /** What names say by themselves: their words, how they are said and written, their subjects. One call for all of them. */
  readNames(names: readonly NameToRead[]): Promise<NameReading[]>;
  /** The subject that each name tells, `area.subject`; null: none that shows. */
  subjectsOfNames(names: readonly string[]): Promise<(string | null)[]>;
  /** What names would bring by those that were sold; null: too few sales are known. */
  resaleWorth(names: readonly string[]): Promise<(ResaleWorth | null)[]>;
  /** Domains came into a set or left it; null: the set is gone. */
  setMembers(fact: MemberFact, set: number, ids: number[] | null, isIn: boolean): Promise<object>;
  /** Prices anew after the currency or the rates were changed. */
  settingsChanged(): Promise<object>;
  /** Asks an outside service one real question, by settings that need not be kept. */
  tryAbility(ability: TriedAbility, settings: Partial<Settings>, question: string): Promise<Tried>;
  /** Asks a described service one real question, and lays its answer out. */
  tryMailbox(question: z.infer<typeof MailboxSchema>): Promise<TriedMailbox>;
  tryConnection(connection: Connection, question: string): Promise<z.infer<typeof TriedConnectionSchema>>;
  /** Asks a described service which pages show, list or mention a domain. */
  askPages(item: PageQuestion, name: string): Promise<FoundPages>;
  /** The words that briefs name are others. */
  briefsChanged(): Promise<object>;
}
