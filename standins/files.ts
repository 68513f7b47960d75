import { createWriteStream } from 'node:fs';
import { mkdir, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { createGzip } from 'node:zlib';
import { placesFile } from './places';
import { hash, Random } from './random';
import { rankingFile } from './rankings';
import { bootstrapFile } from './registries';
import { madeUpSales } from './sales';
import { DAY, dropOf, stateAt, type World } from './world';

export const day = (at: number) => new Date(at).toISOString().slice(0, 10);
const quoted = (text: string) => (/[",\n]/.test(text) ? `"${text.replaceAll('"', '""')}"` : text);

/** A drop list as venues hand them out: what drops in the next days, and what has just dropped. */
function* dropList(world: World): Generator<string> {
  yield 'Domain,Status,Drop date,Registered\r\n';
  for (const domain of world.listed) {
    const span = domain.spans.at(-1);
    const { phase } = stateAt(domain, world.start);
    const drop = dropOf(domain) ?? world.start;
    yield `${domain.name},${phase === 'free' ? 'deleted' : 'pending delete'},${day(drop)},${day(span?.from ?? world.start)}\r\n`;
  }
}

const SOLD = 3000;

/** Names of the vale that were sold in the years before the world begins. */
function* soldNames(world: World): Generator<string> {
  yield 'domain,price,currency,date,venue\n';
  for (const { name, price, at, venue } of madeUpSales(world.seed, SOLD, world.start))
    yield `${name},${price},EUR,${day(at)},${venue}\n`;
}

/** The link index's export. It was last brought up to date two days before the world begins. */
function* linkExport(world: World): Generator<string> {
  yield 'from,to,anchor,rel,first_seen,last_seen\n';
  const last = day(world.start - 2 * DAY);
  for (const link of world.links) {
    const from = `http://${link.from.name}${link.fromPath}`;
    const to = `http://${link.to.name}${link.toPath}`;
    yield `${from},${to},${quoted(link.anchor)},${link.nofollow ? 'nofollow' : ''},${day(link.firstSeen)},${last}\n`;
  }
}

/** What the second index covers: of sites that it knows at all, links that it saw until a year before. */
const LESSER_SHARE = 45;
export const LESSER_AGE_DAYS = 380;

/** A smaller and older index, with columns of its own. */
function* lesserExport(world: World): Generator<string> {
  yield 'Referring page URL;Link URL;Link text;Attributes;First found;Last found\n';
  const until = world.start - LESSER_AGE_DAYS * DAY;
  for (const link of world.links) {
    if (link.firstSeen > until || hash(`lesser ${link.from.name}`) % 100 >= LESSER_SHARE) continue;
    const text = /[";\n]/.test(link.anchor) ? `"${link.anchor.replaceAll('"', '""')}"` : link.anchor;
    yield `http://${link.from.name}${link.fromPath};http://${link.to.name}${link.toPath};${text};${link.nofollow ? 'nofollow' : 'follow'};${day(link.firstSeen)};${day(until)}\n`;
  }
}

/** Who links to a strong site of the field, as an index lists it: living sites, rubbish and bare addresses mixed. */
function* referrerFile(world: World): Generator<string> {
  yield 'Referring domain,Strength,Last seen,Country,Language,IP\n';
  const random = new Random(world.seed);
  const languages = ['en', 'en', 'en', 'en-GB', 'de', 'fr', ''];
  let number = 0;
  for (const { name, role } of world.domains.values()) {
    if (role === 'listed' || !(role === 'source' || random.chance(0.35))) continue;
    const strength = role === 'source' ? random.whole(30, 70) : random.whole(0, 45);
    const seen = day(world.start - random.whole(1, role === 'source' ? 60 : 900) * DAY);
    const language = random.pick(languages);
    const country = language === 'de' ? 'DE' : language === 'fr' ? 'FR' : random.chance(0.8) ? 'GB' : '';
    const address = random.chance(0.1)
      ? '::1'
      : `127.${random.whole(0, 99)}.${random.whole(0, 99)}.${random.whole(1, 99)}`;
    yield `${name},${strength},${seen},${country},${language},${address}\n`;
    if (++number % 40 === 0)
      yield `127.0.${random.whole(0, 99)}.${random.whole(1, 99)},${random.whole(0, 20)},${seen},,,\n`;
    if (number % 150 === 0) yield `not a domain,${strength},${seen},,,\n`;
  }
}

/** Where the registry's customers leave names that they let go. */
export const PARKING = 'restingvale.net';

/** The zone org as it was at a moment, as its registry would write it: names that are paid for, by their name servers. */
function* zoneFile(world: World, at: number): Generator<string> {
  yield `$ORIGIN org.\n$TTL 86400\n@ IN SOA a.registry.${PARKING}. hostmaster.registry.${PARKING}. (\n`;
  yield `  ${Math.floor(at / 1000)} ; serial\n  1800 900 604800 86400 )\n  IN NS a.registry.${PARKING}.\n`;
  for (const domain of world.domains.values()) {
    if (!domain.name.endsWith('.org')) continue;
    const { delegated, phase } = stateAt(domain, at);
    if (!delegated) continue;
    const servers = phase === 'auto-renew' ? PARKING : `${domain.nameServers}.net`;
    const label = domain.name.slice(0, -4);
    yield `${label} IN NS ns1.${servers}.\n${' '.repeat(8)}IN NS ns2.${servers}.\n`;
  }
}

/** Writes the files of the world into a folder. */
export async function writeFiles(world: World, folder: string): Promise<void> {
  await mkdir(folder, { recursive: true });
  await writeFile(join(folder, 'rdap-bootstrap.json'), JSON.stringify(bootstrapFile(), null, 2));
  await pipeline(Readable.from(batched(dropList(world))), createWriteStream(join(folder, 'drop-list.csv')));
  await pipeline(Readable.from(batched(soldNames(world))), createWriteStream(join(folder, 'sales.csv')));
  await pipeline(Readable.from(batched(rankingFile(world))), createWriteStream(join(folder, 'rankings.csv')));
  await pipeline(Readable.from(batched(placesFile(world.seed))), createWriteStream(join(folder, 'places.csv')));
  await pipeline(
    Readable.from(batched(referrerFile(world))),
    createWriteStream(join(folder, 'competitor-referrers.csv')),
  );
  for (const [name, at] of [
    ['zone-org-older', world.start - 30 * DAY],
    ['zone-org-newer', world.start],
  ] as const)
    await pipeline(
      Readable.from(batched(zoneFile(world, at))),
      createGzip({ level: 4 }),
      createWriteStream(join(folder, `${name}.gz`)),
    );
  await pipeline(
    Readable.from(batched(linkExport(world))),
    createGzip({ level: 4 }),
    createWriteStream(join(folder, 'link-index.csv.gz')),
  );
  await pipeline(
    Readable.from(batched(lesserExport(world))),
    createGzip({ level: 4 }),
    createWriteStream(join(folder, 'lesser-index.csv.gz')),
  );
}

/** Lines in pieces of some size, for writing. */
export function* batched(lines: Iterable<string>): Generator<string> {
  let text = '';
  for (const line of lines) {
    text += line;
    if (text.length > 1 << 16) {
      yield text;
      text = '';
    }
  }
  yield text;
}
