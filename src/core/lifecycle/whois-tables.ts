/**
 * How registries write WHOIS answers (RFC 3912 fixes no format): one table for all of them. Compared in small letters without
 * accents, spaces and marks, so that `Expiry date......:` and `[Expiry Date]` are the same label.
 */
export type WhoisField =
  | 'domain'
  | 'registered'
  | 'expires'
  | 'changed'
  | 'registrar'
  | 'registrant'
  | 'status'
  | 'nameServer'
  | 'referral';

const LABELS: Record<WhoisField, string> = {
  domain:
    'domain, domain name, domainname, query, domainbezeichnung, nom de domaine, dominio, nome a dominio, домен, ドメイン名',
  registered:
    'creation date, created, created on, created date, registered, registered on, registered date, registration date, registration time, domain registered, domain record activated, activated, registered since, domain create date, record created, entry created, erstellt, erstellt am, registriert am, date de creation, cree le, fecha de creacion, fecha de registro, data de criacao, criado, data di creazione, utworzony, angelegt, 登録年月日, registrado em',
  expires:
    'registry expiry date, registrar registration expiration date, expiry date, expiration date, expiration time, expires, expires on, expire, expire date, exp date, expiry, paid till, valid until, validity, renewal date, renewal, record expires on, domain expires, domain expiration date, free date, ablaufdatum, gultig bis, lauft ab am, date d expiration, expire le, fecha de expiracion, fecha de vencimiento, vencimiento, data de expiracao, expiracao, data di scadenza, scadenza, option expiration date, 有効期限',
  changed:
    'updated date, last updated, last updated on, last update, last modified, modified, changed, domain last updated date, record last updated on, letzte anderung, geandert am, derniere modification, ultima actualizacion, ultima modifica, ostatnia modyfikacja, alterado, 最終更新',
  registrar:
    'registrar, registrar name, sponsoring registrar, registrar organization, registrar company, current registrar, registered through, registrierstelle, bureau d enregistrement, agente registrador, entidad registradora, rejestrator',
  registrant:
    'registrant, registrant name, registrant organization, registrant organisation, domain holder, holder, holder name, owner, owner name, owner organization, inhaber, domaininhaber, titulaire, titular, abonnent, 登録者名',
  status:
    'domain status, status, state, registration status, registry status, domain state, eppstatus, epp status, zustand, statut, estado, stato, 状態',
  nameServer:
    'name server, name servers, nameserver, nameservers, nserver, ns, dns, dns servers, domain servers, domain nameservers, domain servers in listed order, host name, hostname, namensserver, serveurs de noms, servidores dns, ネームサーバ',
  referral: 'refer, whois server, registrar whois server, whois, referralserver',
};

const FIELDS = new Map<string, WhoisField>(
  Object.entries(LABELS).flatMap(([field, labels]) =>
    labels.split(', ').map((label): [string, WhoisField] => [foldLabel(label), field as WhoisField]),
  ),
);

/** The field that a label stands for; null: none that matters here. */
export function fieldOf(label: string): WhoisField | null {
  return FIELDS.get(foldLabel(label)) ?? null;
}

function foldLabel(label: string): string {
  return label
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC')
    .replace(/[^\p{L}]/gu, '');
}

/** How "there is no such domain" begins, in a line that may be a comment. */
export const NOT_FOUND_LINES =
  /^(no match(es)?\b|not found\b|no entries found|no data found|no object(s)? found|no information (available )?(about|was found)|no records? (found|matching)|no such domain|no whois|nothing found|object does not exist|domain (not found|unknown|not registered|does not exist)|(the )?(queried )?(object|domain)( name)? (does not exist|was not found|not found|is not registered|has not been registered)|(the )?domain( name)? is (free|available)|kein(e)? (eintrag|treffer|domain)|nicht (gefunden|registriert|vergeben)|aucun (resultat|enregistrement)|domaine (inconnu|disponible)|el dominio no (existe|se encuentra)|no se encontro|nessun (risultato|dominio)|dominio (disponible|livre)|nie znaleziono|brak (obiektu|wpisu)|не найден|нет данных|該当するデータがありません)/;
/** The same with the name first: `pellgate.example is free`. */
export const NOT_FOUND_NAMED =
  /^(domain( name)?:?\s+)?["']?[^\s"']+\.[^\s"']+["']?\s*(:\s*)?(is (free|available|not registered|still available)|no match|not found|does not exist|ist frei|est disponible|esta disponible|e disponibile)\b/;
/** Values of the status that mean the same. */
export const FREE_STATUSES =
  /^(free|available|not registered|unassigned|no object found|not found|frei|disponible|libre|livre|disponibile|wolna)$/;

/** Sentences that say the question was not answered. They win over everything: a wrong "free" costs a purchase. */
export const REFUSALS =
  /\b((query|queries|request|requests|lookup|connection|whois|access|daily|hourly|rate|quota|control)\s+(rate\s+)?(limit|quota|limits)\s+(was |has been |is )?(exceeded|reached|hit)|(limit|quota) (was |has been |is |of [^.\n]{1,40} )?(exceeded|reached|used up)|exceeded (the |your )?(maximum|allowed|allowable|number|query|daily|hourly|rate)|too many (requests|queries|connections|lookups)|(access|connection|service) (to [^.\n]{1,40} )?(is |was |has been )?(denied|refused|restricted|blocked|temporarily unavailable)|(you|your (ip|address|host|network))[^\n]{0,60}(blacklisted|blocked|banned|barred)|(please )?(try|query) again (later|in)|please wait|temporarily (unavailable|out of service)|anfragelimit|zu viele (anfragen|abfragen)|trop de requetes|demasiadas (consultas|solicitudes)|limite (de consultas )?(excedido|superado|atteinte))/;

/** Months as they are written in other languages, to their number. */
const MONTHS: [names: string, month: number][] = [
  ['januar janvier enero gennaio janeiro', 1],
  ['februar fevrier febrero febbraio fevereiro', 2],
  ['marz mars marzo marco maerz', 3],
  ['avril abril aprile', 4],
  ['mai mayo maggio maio', 5],
  ['juni juin junio giugno junho', 6],
  ['juli juillet julio luglio julho', 7],
  ['aout agosto', 8],
  ['septembre septiembre settembre setembro', 9],
  ['oktober octobre octubre ottobre outubro', 10],
  ['novembre noviembre novembro', 11],
  ['dezember decembre diciembre dicembre dezembro', 12],
];
const ENGLISH = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
const MONTH_NAMES = new Map(
  MONTHS.flatMap(([names, month]) => names.split(' ').map((name): [string, string] => [name, ENGLISH[month - 1]])),
);

/** A month's name in English, where it is one of another language; else the word itself. */
export function englishMonth(word: string): string {
  const folded = word
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '');
  return MONTH_NAMES.get(folded) ?? word;
}

/** Endings whose registries write the day before the month where both are numbers between slashes. */
export const DAY_FIRST = new Set([
  'at', 'be', 'br', 'cz', 'dk', 'es', 'eu', 'fi', 'fr', 'gr', 'ie', 'it', 'nl', 'pl', 'pt', 'ro', 'tr', 'uk', 'za',
]); // biome-ignore format: a list
