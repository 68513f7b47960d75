import { readFileSync } from 'node:fs';
import { Random } from '../standins/random';
import { type CaseProfile, readProfile } from './cases';
import { subjectMaterials, tunePages } from './topics/materials';

const PLACES = 'tarn lode fenn ossen merrow gantry cobble hobb whin thorn dale harrow larkh ashd pell rook'.split(' ');
const ENDS = 'beck mere gate moor side field hope dell bridge combe wick holt'.split(' ');
const TRADES = 'trust society works house club hall barn gallery press garden'.split(' ');
const HONEST_SUBJECT = /^(farming|crafts|sky|home|food|sport|travel|arts|community|education|vehicles|study)\./;

/** Profiles drawn from the recipes of abuse and of honest sites that look like it (bench/spam-recipes). */
export function drawProfiles(seed: number, times: number): CaseProfile[] {
  const recipes = ['abused', 'honest'].flatMap((name) =>
    readFileSync(`bench/spam-recipes/${name}.txt`, 'utf8').trim().split(/^## /m).slice(1),
  );
  const random = new Random(`recipes ${seed}`);
  return recipes.flatMap((recipe) => Array.from({ length: times }, () => readProfile(filledIn(recipe.trim(), random))));
}

const pages = tunePages().filter(({ subject, language }) => language === 'en' && HONEST_SUBJECT.test(subject ?? ''));
const materials = subjectMaterials();

function filledIn(recipe: string, random: Random): string {
  const name = `${random.pick(PLACES)}${random.pick(ENDS)} ${random.pick(TRADES)}`.replace(/\b\w/g, (letter) =>
    letter.toUpperCase(),
  );
  const domain = `${name.toLowerCase().replace(/ /g, '')}.example`;
  const [page, other] = [random.pick(pages), random.pick(pages)];
  const words = (materials.get(page.subject ?? '')?.words.en ?? 'walks')
    .split(', ')
    .filter((word) => /^[a-z ]{4,20}$/.test(word));
  const names = [
    name,
    name,
    domain,
    `http://www.${domain}/`,
    `the ${name}`,
    'website',
    `${name}, ${random.pick(words)}`,
  ];
  const lines = recipe.split('\n').map((line) =>
    line
      .replaceAll('{names}', names.filter(() => random.chance(0.7)).join(' | ') || name)
      .replaceAll('{name}', name)
      .replaceAll('{other}', `${random.pick(PLACES)}${random.pick(ENDS)}`)
      .replaceAll('{domain}', domain)
      .replaceAll('{about}', someOf(page.text, random))
      .replaceAll('{elsewhere}', someOf(other.text, random))
      .replaceAll('{words}', random.pick(words)),
  );
  const isNamed = lines.some((line) => line.startsWith('domain '));
  const drawn = lines.map((line) => drawNumbers(line, random)).filter((line) => !line.startsWith('0 '));
  // much is not known of many sites
  const kept = drawn.filter(
    (line) => !(line.startsWith('cap ') && random.chance(0.1)) && !(line.startsWith('ranks ') && random.chance(0.3)),
  );
  return [...(isNamed ? kept : [kept[0], `domain ${domain}`, ...kept.slice(1)])].join('\n');
}

const someOf = (text: string, random: Random) =>
  text
    .split(/(?<=[.!?])\s+/)
    .filter((_, n) => n === 0 || random.chance(0.75))
    .join(' ');

/** "20-60 2006-01-01..2016-01-01 pages 10-40": numbers are drawn, dates move by some months. */
function drawNumbers(line: string, random: Random): string {
  if (line.startsWith('ranks '))
    return line.replace(/([\d.]+)-([\d.]+)/g, (_, low, high) =>
      (Number(low) + random.next() * (Number(high) - Number(low))).toFixed(4),
    );
  if (!/^\d+-\d+ /.test(line)) return line;
  const end = line.indexOf(': ');
  const head = line
    .slice(0, end)
    .replace(/(?<![\d.-])(\d+)-(\d+)(?![\d-])/g, (_, low, high) => String(random.whole(Number(low), Number(high))));
  return head + line.slice(end);
}
