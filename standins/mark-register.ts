import type { Page } from './pages';
import { hash } from './random';
import { PLACES, SUBJECTS } from './words';

/** The trademark register of the vale. */
export const MARK_HOST = 'marks.merrowregister.org';

interface Mark {
  number: string;
  mark: string;
  owner: string;
  classes: number[];
  status: string;
}

const WORDS = SUBJECTS.flatMap(({ names }) => names);
const ENDS = ['', ' & Daughters', ' Originals', ' of the Vale', ''];
const STATUS = ['registered', 'registered', 'registered', 'applied for', 'expired'];

/** Made-up trademarks: places with words of the trade, some spelt as they are heard. */
const MARKS: Mark[] = Array.from({ length: 900 }, (_, n) => {
  const draw = hash(`mark ${n}`);
  const place = PLACES[draw % PLACES.length];
  const word = WORDS[(draw >>> 6) % WORDS.length];
  const spelt = draw % 7 === 0 ? word.replace('ph', 'f').replace('ee', 'ea').replace('c', 'k') : word;
  const mark = `${place}${draw % 3 === 0 ? spelt : ` ${spelt[0].toUpperCase()}${spelt.slice(1)}`}${ENDS[(draw >>> 12) % ENDS.length]}`;
  return {
    number: `MV${String(100_000 + n)}`,
    mark,
    owner: `${PLACES[(draw >>> 9) % PLACES.length]} ${['Trading', 'Makers', 'Provisions'][draw % 3]} Ltd`,
    classes: [1 + (draw % 45), 1 + ((draw >>> 3) % 45)].sort((a, b) => a - b),
    status: STATUS[(draw >>> 7) % STATUS.length],
  };
});
MARKS.push({
  number: 'MV200001',
  mark: 'Thornabeck Hunny',
  owner: 'Cradlewick Provisions Ltd',
  classes: [29, 30],
  status: 'registered',
});

/** Marks that share a word, or begin as one does; the register knows letters, not sounds. Null when the host is another. */
export function markAnswer(host: string, path: string): Page | null {
  if (host !== MARK_HOST) return null;
  const words = (new URL(path, 'http://x').searchParams.get('q') ?? '')
    .toLowerCase()
    .split(/\s+/)
    .filter((word) => word.length > 2);
  const marks = MARKS.filter(({ mark }) => {
    const lower = mark.toLowerCase();
    return words.some((word) => lower.includes(word.slice(0, Math.max(4, word.length - 2))));
  });
  return {
    status: 200,
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ register: 'Merrow Vale Register of Marks', marks: marks.slice(0, 200) }),
  };
}
