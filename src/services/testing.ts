import type { EnginePort } from '../contracts/engine-port';

/** An engine as tests of services give it: what is not given is refused, as by one that starts; `asked` holds the calls in order. */
export interface EngineOfTest extends EnginePort {
  asked: (keyof EnginePort)[];
}

const CALLS: readonly (keyof EnginePort)[] = [
  'queryPool',
  'wordsOfChoice',
  'knownFacts',
  'readNames',
  'subjectsOfNames',
  'resaleWorth',
  'setMembers',
  'settingsChanged',
  'briefsChanged',
];

export function engineOfTest(given: Partial<EnginePort> = {}): EngineOfTest {
  const asked: (keyof EnginePort)[] = [];
  const calls = CALLS.map((name) => [
    name,
    (...values: never[]) => {
      asked.push(name);
      const answer = given[name] as ((...of: never[]) => Promise<unknown>) | undefined;
      return answer ? answer(...values) : Promise.reject(new Error('the engine is starting'));
    },
  ]);
  return { asked, ...Object.fromEntries(calls) };
}
