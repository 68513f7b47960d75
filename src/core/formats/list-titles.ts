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
  ['expires', /^(expires(on|at)?|expiry(date)?|expiration(date)?|exp(date)?|expired(on|at|date)?|validuntil|paiduntil|paidtill|ablaufdatum|dateexpiration|datedexpiration|expiracion|vencimiento|datascadenza|vervaldatum|renewaldate|renewal)$/],
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
/** Words that a longer title is recognised by, where the title as a whole is none of those above. */
const PARTS: [field: ListField, words: RegExp][] = [
  ['currency', /\b(currency|curr)\b/],
  ['referring-domains', /\b(referring|linking|ref)[ -]?(root )?domains?\b/],
  ['backlinks', /\b(back ?links?|inbound links?|external links?)\b/],
  ['bids', /\b(number of bids|bid count|# ?bids|bids? placed)\b/],
  ['drop-date', /\b(drop|delet(e|ion)|release)( |-)?(date|day|time|on)\b/],
  ['closing', /\b(auction|bidding|sale|listing)?[ -]?(end|ends|closes|closing)( (date|time|at|on))+\b|\btime (left|remaining)\b/],
  ['registered', /\b(registration|creation|registered|created)( (date|on|at|day))\b/],
  ['expires', /\b(expir(y|ation|es))( (date|on|at|day))\b/],
  ['traffic', /\b(traffic|visits|visitors)\b/],
  ['keywords', /\bkeywords\b/],
  ['cpc', /\b(cpc|cost per click)\b/],
  ['price', /\b(price|bid|preis|prix|precio|prezzo|prijs|amount)\b/],
  ['score', /\b(score|rating|authority|index)\b/],
]; // biome-ignore format: a meaning a line

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
  /** Of a score: what the highest is. */
  scale: number | null;
}

const plain = (text: string) => text.normalize('NFD').replace(/\p{M}/gu, '').toLowerCase();
const wordOf = (text: string) => plain(text).replace(/[^a-z]/g, '');

export function titleOf(title: string): Title {
  const hint = /[([{]([^)\]}]*)[)\]}]/.exec(title)?.[1] ?? '';
  const bare = title.replace(/[([{][^)\]}]*[)\]}]/g, ' ');
  const trailing = /[\s,:/-]+([a-z]{2,4}|[€$£¥₹])$/i.exec(bare.trim())?.[1] ?? '';
  const currency = parseCurrency(hint) ?? parseCurrency(trailing);
  const zone = zoneOf(hint) ?? zoneOf(trailing);
  const field =
    fieldOf(wordOf(title)) ??
    fieldOf(wordOf(bare)) ??
    // the path of a value in JSON
    fieldOf(wordOf(bare.slice(bare.lastIndexOf('.') + 1))) ??
    (trailing === '' ? null : fieldOf(wordOf(bare.trim().slice(0, -trailing.length)))) ??
    partOf(bare) ??
    'ignore';
  const range = /\b(?:0|1)\s?[-\u2013]\s?(\d{1,4})\b|\/\s?(\d{1,4})\b|\b(?:of|von|sur)\s(\d{2,4})\b/.exec(title);
  return {
    field,
    isLabel: LABEL.test(wordOf(bare)),
    currency,
    zone,
    isLeft: /left|remaining|rest(zeit|laufzeit)|restant|in$/i.test(bare.trim()),
    scale: range ? Number(range[1] ?? range[2] ?? range[3]) : null,
  };
}

function fieldOf(word: string): ListField | null {
  return word === '' ? null : (TITLES.find(([, titles]) => titles.test(word))?.[0] ?? null);
}

function partOf(title: string): ListField | null {
  const words = plain(title)
    .replace(/[_./]+/g, ' ')
    .replace(/([a-z])([A-Z])/g, '$1 $2');
  return PARTS.find(([, parts]) => parts.test(words))?.[0] ?? null;
}

function zoneOf(hint: string): number | null {
  const word = hint.trim().toLowerCase();
  const offset = /^(?:utc|gmt)\s?([+-])(\d{1,2})(?::?(\d{2}))?$/.exec(word);
  if (offset) return (offset[1] === '-' ? -1 : 1) * (Number(offset[2]) * 60 + Number(offset[3] ?? 0));
  return ZONE_MINUTES[word] ?? null;
}
