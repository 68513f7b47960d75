import { Random } from './random';
import { SUBJECTS } from './words';
import { DAY, type World } from './world';

/** What people of the vale ask a search for, around the words of a trade. */
const AROUND = [
  'for sale',
  'near me',
  'guide',
  'how to start',
  'club',
  'supplies',
  'calendar',
  'books',
  'course',
  'museum',
];
const PHRASES = [2, 9] as const;

/** Phrases that sites with a past are found by, as one service of the vale estimates them: few people, many guesses. */
export function* rankingFile(world: World): Generator<string> {
  yield 'domain,phrase,position,searches,cost per click,currency,competition,date\n';
  const date = new Date(world.start - 20 * DAY).toISOString().slice(0, 10);
  for (const domain of world.domains.values()) {
    if (domain.role !== 'target' && domain.role !== 'living') continue;
    const random = new Random(`rankings ${domain.name}`);
    const subject = SUBJECTS.find(({ id }) => id === domain.subject.id) ?? SUBJECTS[0];
    const seen = new Set<string>();
    for (let n = random.whole(...PHRASES); n > 0; n--) {
      const phrase = `${random.pick(subject.names)} ${random.pick(AROUND)}`;
      if (seen.has(phrase)) continue;
      seen.add(phrase);
      const position = random.tail(60);
      const searches = 10 * random.tail(400);
      const cost = (0.05 + random.next() ** 2 * 1.4).toFixed(2);
      yield `${domain.name},${phrase},${position},${searches},${cost},EUR,${random.next().toFixed(2)},${date}\n`;
    }
  }
}
