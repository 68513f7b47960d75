import { parseCurrency } from './amounts';
import { ZONE_MINUTES } from './calendar-words';
import type { ListField } from './list-fields';

/**
 * Titles of columns by what they mean, the most telling first. Compared in small letters without marks and spaces, accents taken off.
 * English first, then what lists in German, French, Spanish, Italian, Dutch and Portuguese call the same.
 */
const TITLES: [field: ListField, titles: RegExp][] = [
  ['domain', /^(domain(name)?s?|fqdn|host(name)?|site|website|asciiname|idn|domaine|dominio|nomededominio|nomdedomaine|domeinnaam|domein|nombrededominio|nomedominio|domena|doman|domene|verkkotunnus|fulldomain|domainname(ascii|idn|unicode)?|zone|item|lot(name)?|listing)$/],
  ['tld', /^(tld|ending|extension|ext|suffix|endung|zonetld|topleveldomain|extensie)$/],
  ['currency', /^(currency(code)?|cur|curr|wahrung|devise|moneda|moeda|valuta)$/],
  ['bids', /^(bids|numberofbids|bid(s)?count|nbids|ofbids|totalbids|gebote|anzahlgebote|encheres|nombredencheres|pujas|offerte|biedingen|lances|licytacje|oferty|bidders|nobids|bidsplaced)$/],
  ['reserve', /^(reserve|reservestatus|reservemet|hasreserve|mindestpreiserreicht|reserveprice(met)?)$/],
  ['drop-date', /^(drop(ped)?|drops|droping|dropping|drop(date|day|time|on|sat|at|ed(on|at|date)?)|deleted?|delet(e|ed|ion)(date|on|at|time)|deletes(on|at)?|dropson|pending(delete)?(date|until)|losch(datum|ung|tag)|geloscht(am)?|datedesuppression|suppression|releasedate|release(s|d)?(on|at)?|freigabe|availabledate|availableon|becomesavailable|opheffing|fechadeeliminacion|cancellazione|purgedate|freeon)$/],
  ['closing', /^(closing|closes|closingtime|closingdate|close(date|time|at|son)?|ends?|end(date|time|sat|son|ing|ingtime|datetime|ofauction)|auctionend(s|time|date|ing)?|auctionclose[sd]?|until|timeleft|timeremaining|remaining(time)?|expiresin|ablauf|endet(am)?|auktionsende|ende|endzeit|restzeit|restlaufzeit|laufzeitende|fin(encheres)?|datedefin|findelavente|tempsrestant|termina|cierre|fin(aliza)?|tiemporestante|scadenza|fine(asta)?|eindigt|eindtijd|einde|sluit|encerra|koniec|konieczec|slutar|slutter|paattyy|konec|zakonczenie|bidend|bidsclose)$/],
  ['registered', /^(registered(on|at|date)?|created?(on|at|date)?|creation(date)?|registration(date)?|createdon|firstregistered|regdate|regdatum|registriert(am|seit)?|registrierung(sdatum)?|erstellt|datedecreation|creele|enregistrement|fecha(de)?(registro|creacion|alta)|datadiregistrazione|registrazione|geregistreerd|aangemaakt|dataderegistro|domaincreated|whoiscreated|birth(date)?|since|born)$/],
  ['expires', /^(expires(on|at)?|expiry(date)?|expiration(date)?|exp(date)?|expired(on|at|date)?|validuntil|paiduntil|paidtill|ablaufdatum|datadiscadenza|dateexpiration|datedexpiration|expiracion|vencimiento|datascadenza|vervaldatum|renewaldate|renewal)$/],
  ['first-seen', /^(first(seen|capture|crawl(ed)?|archived?|snapshot|found|indexed)|archive(d)?since|waybackfirst|archivebirth|oldestsnapshot|firstarchive|earliest(capture|snapshot)?)$/],
  ['price', /^(price|ask(ing)?(price)?|bid|current(bid|price|offer)|high(est)?bid|topbid|buy(it)?now(price)?|bin(price)?|min(imum)?(bid|price|offer)|start(ing)?(price|bid)|openingbid|nextbid|listprice|saleprice|fixedprice|amount|cost|lastbid|preis|kaufpreis|gebot|aktuellesgebot|hochstgebot|startpreis|sofortkauf(preis)?|festpreis|prix|offre|offreactuelle|miseaprix|enchere|prixactuel|precio|puja|pujaactual|preco|lanceatual|prezzo|offerta|prijs|bod|cena|pris|hinta|kwota|bud|huidigbod|askprice|value)$/],
  ['kind', /^(kind|type|format|saleformat|lottype|listingtype|saletype|auctiontype|offer(type)?|listingformat|verkaufsart|art|typ|soort|tipo|saleskind|purchasetype|method)$/],
  ['registrar', /^(registrar(name)?|registrarid|sponsoringregistrar|sponsor|bureaudenregistrement|registrador|registraire|provider)$/],
  ['venue', /^(venue|market(place)?|platform|plattform|marktplatz|auctionhouse|exchange|source|quelle|seller|partner|site(name)?|handelsplatz)$/],
  ['listing-url', /^(listing(url|page|link)|lot(url|page|link)|auction(url|link|page)|item(url|link)|url|link|href|permalink|buy(url|link)|bidurl|purchaseurl|angebotslink|lien|enlace)$/],
  ['phase', /^(phase|status|state|domainstatus|registrystatus|eppstatus|zustand|statut|etat|estado|stato|lifecycle)$/],
  ['referring-domains', /^(referringdomains?|ref(erring)?dom(ain)?s?|domains?(linking|pop|referring)?|linkingdomains?|linkingrootdomains|rootdomains|rd|rds|lrd|verweisendedomains|domainpopularitat|domainesreferents|dominiosdereferencia|dominiosreferentes|verwijzendedomeinen|uniquedomains|ldomains|refdomainscount|referrers)$/],
  ['backlinks', /^(back-?links?(count)?|links?|inlinks|inboundlinks|externalbacklinks|extbacklinks|totallinks|totalbacklinks|bl|bls|externallinks|ruckverweise|liens(entrants)?|retroliens|enlaces(entrantes)?|linkcount|incominglinks|nlinks)$/],
  ['traffic', /^(traffic|organictraffic|monthlytraffic|estimatedtraffic|esttraffic|visits|monthlyvisits|visitors|organicvisits|sessions|besucher|trafic|visitas|trafico|visite|bezoekers|uniques|hits|searchtraffic|trafficmonth|visitsmonth|pageviews)$/],
  ['keywords', /^(keywords|organickeywords|keywordcount|numberofkeywords|rankingkeywords|nkeywords|kws?|motscles|palabrasclave|suchbegriffe)$/],
  ['position', /^(position|pos|rank(ing)?|serpposition|bestposition|avgposition|averageposition|platz|rang)$/],
  ['cpc', /^(cpc|costperclick|avgcpc|klickpreis|coutparclic|costeporclic|clickprice)$/],
  ['language', /^(lang(uage)?|sprache|langue|idioma|lingua|taal|sitelanguage|contentlanguage)$/],
  ['country', /^(country(code)?|land|pays|pais|paese|geo|region|sitecountry|topcountry|cc)$/],
  ['score', /^(score|rating|authority|power|strength|trust|quality|domain(score|rating|authority|power|strength|trust|rank)|page(score|rating|authority|power)|trust(score|flow|rank|index)|spam(score|risk|index)|link(score|power|strength)|citation(score)?|visibility|sichtbarkeit|index(score)?|punkte|grade|health|seoscore)$/],
]; // biome-ignore format: a meaning a line
/** The same name alone in a title of its own says a name, beside a column of names it is a label. */
const LABEL = /^(name|label|sld|domainlabel|secondleveldomain|nom|naam|nombre|nome|keyword|title)$/;
/** Words of titles by what they stand for, in the languages above; compared one by one, without accents. */
const WORDS = {
  domain: 'domain domains domainname domainnames fqdn hostname host site sites website websites dominio dominios domaine domaines domein domeinen domeinnaam domena domeny doman domane root',
  referring: 'referring ref refs linking verweisende verlinkende referents referent referentes referente verwijzende',
  backlink: 'backlink backlinks inlink inlinks ruckverweise retroliens ruckverweis bl bls',
  link: 'link links liens enlaces enlace collegamenti',
  inbound: 'ext external inbound incoming total entrants entrantes extern eingehende count number num',
  bids: 'bids bidders gebote pujas lances licytacje biedingen encheres offerte oferty',
  bid: 'bid gebot startgebot mindestgebot hochstgebot enchere puja lance bod offerta',
  count: 'count number num no nr of total anzahl nombre numero qty quantity',
  currency: 'currency curr wahrung devise moneda moeda valuta waluta',
  drop: 'drop drops dropped dropping delete deleted deletes deletion release released releases freigabe loschung loschdatum suppression eliminacion cancellazione opheffing purge purged available free',
  when: 'from date time day datetime timestamp at on when datum fecha data zeit uhrzeit heure hora ora tijd',
  end: 'end ends ending ended close closes closing closed finish finishes ablauf ende endet endzeit auktionsende laufzeitende fin fine finaliza cierre termina scadenza eindigt eindtijd einde encerra encerramento koniec slutar until deadline bis jusqu hasta',
  left: 'left remaining restzeit restlaufzeit restant restante verbleibend ttl countdown',
  expire: 'expiry expires expire expired expiration exp ablaufdatum expiracion expiracao vencimiento vervaldatum renewal renews paid',
  register: 'registered register registration reg created create creation erstellt registriert registrierung registrierungsdatum enregistrement registro alta registrazione registratie geregistreerd aangemaakt birth born since seit depuis desde',
  first: 'first earliest oldest erste premiere primera primera prima eerste',
  seen: 'seen capture captured crawl crawled archive archived snapshot indexed found gesehen vue vista',
  registrar: 'registrar registrars registrador registraire sponsor sponsoring',
  traffic: 'traffic visit visits visitor visitors besucher trafic trafico visitas visite visites bezoekers sessions uniques pageviews',
  keywords: 'keywords keyword kw kws suchbegriffe',
  position: 'position pos platz serp',
  score: 'score rating authority power strength trust quality index rank ranking visibility sichtbarkeit health grade popularity',
  price: 'price prices ask asking amount cost buynow bin preis kaufpreis startpreis festpreis sofortkauf prix precio preco prezzo prijs cena pris hinta kwota montant importe importo',
  buy: 'buy sofort acheter comprar',
  now: 'now kaufen maintenant ahora',
  other: 'renew renewal renews estimated estimate appraisal appraised appraisal valuation worth suggested average avg previous sold increment step last market type kind status url change reduction',
  click: 'click clic klick',
  cpc: 'cpc klickpreis',
  kind: 'type kind format art typ tipo soort method verkaufsart',
  sale: 'auction auctions sale sales listing lot offer purchase bidding subasta asta veiling auktion auktions enchere venta vente verkauf selling',
  address: 'url urls link href permalink uri address lien enlace page',
  venue: 'venue marketplace market platform plattform marktplatz exchange auctionhouse handelsplatz seller partner provider source',
  reserve: 'reserve mindestpreis reserva riserva minimumprijs',
  language: 'language languages lang sprache langue idioma lingua taal jezyk sprak',
  country: 'country countries land pays pais paese geo region kraj',
  phase: 'status state phase statut estado stato zustand etat stan lifecycle',
  tld: 'tld tlds extension ext ending suffix endung',
} as const; // biome-ignore format: a list of words a line
type Sense = keyof typeof WORDS;
const SENSES = new Map<string, Set<Sense>>();
for (const [sense, words] of Object.entries(WORDS) as [Sense, string][])
  for (const word of words.split(' ')) SENSES.set(word, (SENSES.get(word) ?? new Set()).add(sense));

/** A longer title by its words. */
function byWords(title: string): ListField | null {
  const words = wordsOf(title);
  const found = new Set(words.flatMap((word) => [...(SENSES.get(word) ?? [])]));
  const has = (...senses: Sense[]) => senses.every((sense) => found.has(sense));
  const some = (...senses: Sense[]) => senses.some((sense) => found.has(sense));
  if (words.length === 0) return null;
  if (has('referring', 'domain') || words.includes('refdomains')) return 'referring-domains';
  if (has('cpc') || (some('price', 'cpc') && has('click'))) return 'cpc';
  if (has('backlink') || (words.includes('links') && some('inbound'))) return 'backlinks';
  if (has('currency')) return 'currency';
  if (has('reserve') && !has('when')) return 'reserve';
  if (has('bids') && !some('when', 'end', 'price')) return 'bids';
  if (has('bid', 'count') && !some('price', 'when', 'end')) return 'bids';
  if (has('first', 'seen')) return 'first-seen';
  if (has('left') || (has('end') && words.includes('in'))) return 'closing';
  if (has('expire') && !some('sale', 'price', 'phase', 'kind')) return 'expires';
  if (has('register', 'end')) return 'expires';
  if (has('end') && (some('when', 'sale', 'bid', 'bids') || words.length === 1)) return 'closing';
  if (has('drop') && !some('price', 'phase', 'kind') && (has('when') || words.length === 1)) return 'drop-date';
  if (has('registrar') && !has('when')) return 'registrar';
  if (has('register') && !some('price', 'phase')) return 'registered';
  if (has('sale', 'when') && !some('price', 'kind')) return 'closing';
  if (has('traffic') && !some('price') && !words.includes('value')) return 'traffic';
  const isMany = has('count') || words.some((word) => /^(keywords|kws|suchbegriffe)$/.test(word));
  if (has('keywords') && isMany && !some('price', 'score', 'position')) return 'keywords';
  if (has('position')) return 'position';
  if (has('score') && !has('when')) return 'score';
  if ((some('price', 'bid') || has('buy', 'now')) && !some('other', 'count', 'address', 'register')) return 'price';
  if (has('kind') && (has('sale') || words.length === 1)) return 'kind';
  if (has('address') && !has('domain')) return 'listing-url';
  if (has('language')) return 'language';
  if (has('country')) return 'country';
  if (has('phase')) return 'phase';
  if (has('venue') && words.length <= 2) return 'venue';
  if (has('tld') && words.length <= 2 && !has('domain')) return 'tld';
  return has('domain') && words.every((word) => FILLING.has(word) || SENSES.get(word)?.has('domain')) ? 'domain' : null;
}

/** Words beside "domain" that say no more of it. */
const FILLING = new Set('name names full the ascii idn unicode list nom nombre nome naam'.split(' '));

function wordsOf(title: string): string[] {
  return plain(title.replace(/([a-z])([A-Z])/g, '$1 $2'))
    .split(/[^a-z]+/)
    .filter(Boolean);
}

/** What a title says of its column. */
export interface Title {
  field: ListField;
  /** It may be the label of names whose TLD stands in another column. */
  isLabel: boolean;
  /** The currency of its prices, ISO 4217; null: it names none. */
  currency: string | null;
  /** Minutes east of UTC of its times without a zone; null: it names none. */
  zone: number | null;
  /** Its times are what is left. */
  isLeft: boolean;
  /** What a bare number of them stands for, ms; null: it names none. */
  unitMs: number | null;
  /** Of a score: what the highest is. */
  scale: number | null;
}

const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
const wordOf = (text: string) => plain(text).replace(/[^a-z]/g, '');

export function titleOf(title: string): Title {
  const hint = /[([{]([^)\]}]*)[)\]}]/.exec(title)?.[1] ?? '';
  const bare = title.replace(/[([{][^)\]}]*[)\]}]/g, ' ');
  const trailing = /[\s,:/-]+([a-z]{2,4}|[€$£¥₹])$/i.exec(bare.trim())?.[1] ?? '';
  const words = wordsOf(bare);
  const currency = parseCurrency(hint) ?? parseCurrency(trailing) ?? words.map(codeOf).find(Boolean) ?? null;
  const zone = zoneOf(hint) ?? zoneOf(trailing) ?? zoneIn(words);
  const field =
    fieldOf(wordOf(title)) ??
    fieldOf(wordOf(bare)) ??
    // the path of a value in JSON
    fieldOf(wordOf(bare.slice(Math.max(bare.lastIndexOf('.'), bare.lastIndexOf('/')) + 1))) ??
    (currencyOrZone(trailing) === null ? null : fieldOf(wordOf(bare.trim().slice(0, -trailing.length)))) ??
    byWords(bare.slice(bare.lastIndexOf('/') + 1)) ??
    byWords(bare) ??
    'ignore';
  const range = /\b(?:0|1)\s?[-\u2013]\s?(\d{1,4})\b|\/\s?(\d{1,4})\b|\b(?:of|von|sur)\s(\d{2,4})\b/.exec(title);
  return {
    field,
    isLabel: LABEL.test(wordOf(bare)),
    currency,
    zone,
    isLeft: /left|remaining|rest(zeit|laufzeit)|restant|in$/i.test(bare.trim()),
    unitMs: UNITS.find(([unit]) => unit.test(plain(title)))?.[1] ?? null,
    scale: range ? Number(range[1] ?? range[2] ?? range[3]) : null,
  };
}

function fieldOf(word: string): ListField | null {
  return word === '' ? null : (TITLES.find(([, titles]) => titles.test(word))?.[0] ?? null);
}

const UNITS: [unit: RegExp, ms: number][] = [
  [/\b(days?|tage?|jours?|dias?|giorni|dagen)\b/, 86_400_000],
  [/\b(hours?|hrs?|stunden?|heures?|horas?|ore|uren)\b/, 3_600_000],
  [/\b(minutes?|mins?|minuten|minutos|minuti)\b/, 60_000],
];

/** A code of a currency that is no word of English. */
const codeOf = (word: string) =>
  /^(usd|eur|gbp|chf|cad|aud|inr|jpy|pln|sek|nok|dkk|brl|czk|huf|rub|cny|nzd|sgd|hkd|zar)$/.test(word)
    ? word.toUpperCase()
    : null;
const currencyOrZone = (word: string) => (word === '' ? null : (parseCurrency(word) ?? zoneOf(word)));
function zoneIn(words: readonly string[]): number | null {
  const zone = words.find((word) => /^(utc|gmt|cet|cest|est|edt|pst|pdt|cst|cdt|mst|mdt)$/.test(word));
  return zone === undefined ? null : zoneOf(zone);
}

function zoneOf(hint: string): number | null {
  const word = hint.trim().toLowerCase();
  const offset = /^(?:utc|gmt)\s?([+-])(\d{1,2})(?::?(\d{2}))?$/.exec(word);
  if (offset) return (offset[1] === '-' ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3] ?? 0));
  return (
    ZONE_MINUTES[word] ??
    ({ cst: -360, ct: -360, et: -300, pt: -480, mt: -420 } as Record<string, number>)[word] ??
    null
  );
}
