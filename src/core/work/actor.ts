import { AsyncLocalStorage } from 'node:async_hooks';
import { YOU } from './you';

const acting = new AsyncLocalStorage<string>();

/** Who does what is being done: the name that somebody signed in by, a script's, or `you`. */
export const actor = (): string => acting.getStore() ?? YOU;

/** Does something in somebody's name; whatever it begins, and waits for, is theirs as well. */
export const actingAs = <T>(who: string, act: () => T): T => (who === YOU ? act() : acting.run(who, act));
