import { domainToASCII } from 'node:url';
import { fold } from './fold';
import { phaseOfStatus } from './status-words';

/**
 * What sentences of registries mean, in a line of a WHOIS answer or in a title or notice of RDAP. Compared in small letters without
 * accents. A sentence counts only when it speaks of the name that was asked, or of no name.
 */
export type Said = 'not-found' | 'withheld' | 'premium' | 'refused' | 'lapsing';

/** The question was not answered. They win over "not found": a wrong "free" costs a purchase. */
const REFUSALS: RegExp[] = [
  /\b(query|queries|request|requests|look-?ups?|connections?|whois|access|access control|daily|hourly|rate|quota|client)\s+(rate\s+)?(limit|quota|limits)\s+(was |has been |is |have been )?(exceeded|reached|hit|used up)/,
  /\b(limit|quota|allowance)s? (was |has been |have been |is |of [^.\n]{1,60}? |for [^.\n]{1,60}? )*(exceeded|reached|used up|exhausted)/,
  /\b(exceeded|reached|used up) (the |your |its )?(maximum|max|allowed|allowable|permitted|number|query|queries|daily|hourly|rate|quota|limit|connection)/,
  /\bnumber of (allowed )?(queries|requests|connections|lookups) (was |has been |is )?(exceeded|reached)/,
  /\b(too many|excessive) (requests|queries|querying|connections|lookups|simultaneous|concurrent)\b(?!.{0,30}\b(will|may|can|is not|are not)\b)/,
  /\b(access|connection|connections|service|query|request|whois)( (to|from|of|by) [^.\n]{1,60}?)? (is |was |has been |are |were |have been )?(currently |temporarily )?(denied|refused|restricted|blocked|rejected|throttled|unavailable|suspended)\b(?! (in|if|to those|for those|when))/,
  /\b(?<!if )(you|your (ip|address|host|network|client)( address)?|(this|the) (ip|client|address|host))\b[^\n]{0,60}?\b(are |is |was |has been |have been )?(black-?listed|blocked|banned|barred|throttled)\b/,
  /\b(ip|address|host|network|client)\b[^\n]{0,60}?\bnot (authori[sz]ed|permitted|allowed)\b|\byou are not (authori[sz]ed|permitted|allowed) to (query|use|access) (this|the) (server|service|database)[.!]?$/,
  /\brequests? of this client (is|are) not permitted/,
  /\bip (address )?[^\n]{0,60}?(is )?not (authori[sz]ed|permitted)\b/,
  /\b(please )?(try|query|retry) (this query |it )?again (later|in|after)\b/,
  /\bplease (wait|slow down)\b|\bwait \d+ (more )?sec|\bstill in grace period, wait\b/,
  /\b(temporarily|currently) (unavailable|out of service|not available|unable to)\b/,
  /\b(server|service|system|database) (is )?(too )?(busy|down|overloaded|under maintenance|in maintenance)\b/,
  /\b(internal (server )?error|unable to process|could not be processed|database (error|failure)|server failure|timed out)\b/,
  /\banfragelimit|zu viele (anfragen|abfragen)|zugriff verweigert|limit uberschritten|bitte (spater|versuchen sie es spater)/,
  /\btrop de requetes|acces refuse|limite (de requetes )?(atteinte|depassee)|veuillez (reessayer|patienter)/,
  /\bdemasiadas (consultas|solicitudes)|limite (de consultas )?(excedido|superado|alcanzado)|acceso (denegado|restringido)|intente (nuevamente|de nuevo|mas tarde)/,
  /\btroppe (richieste|interrogazioni)|limite superato|accesso negato|\bmuitas consultas|limite (de consultas )?excedid[oa]|acesso negado|tente novamente/,
  /\bte veel (verzoeken|aanvragen)|limiet (bereikt|overschreden)|przekroczono (limit|liczbe)|zbyt wiele (zapytan|polaczen)|prekrocen/,
  /превышен|слишком много|доступ (запрещен|ограничен)|попробуйте позже|リクエストが多|しばらく|制限を超え|查询过于频繁|次数过多|超过.{0,8}限制/,
]; // biome-ignore format: a pattern a line
/** A sentence about what would happen is no refusal. */
const ONLY_THREAT =
  /\b(if you|should you|may be|might be|could be|will be|can be|may result|will result|in order to|reserves? the right|subject to|in the event|who|users? that)\b/;

/** Nobody is to have the name. */
const WITHHELD: RegExp[] = [
  /\b(this |the |your |requested |queried )*(domain(?! names)( name)?|name|string|label|object)\b[^.\n]{0,80}?\b(is|was|has been|are|being|been)\b[^.\n]{0,24}?\b(reserved|blocked|banned|withheld|forbidden|prohibited|restricted|excluded|unavailable for|not (available|eligible|open) for (registration|public|general)|not registrable|unassignable|protected)\b/,
  /\b(cannot|can not|can't|may not|must not|could not) be (registered|delegated|allocated|assigned)\b/,
  /\bnot (available|allowed|permitted|eligible) (for|to be) (registration|registered|purchase|delegat)/,
  /^(%+ ?)?(error:? ?)?(registry[- ])?(reserved|blocked|banned|withheld|forbidden|prohibited|restricted|excluded)( (domain( name)?|name|string|label|term|by [^.\n]{2,60}|for [^.\n]{2,60}))*[.!]?$/,
  /\breserved (by|for|under|in accordance|pursuant|domain name|name|at the registry|as)\b/,
  /\b(blocked|banned|withheld|protected) (by|under|for|from registration|pursuant|in accordance)\b/,
  /\b(registration|name|domain) (of [^.\n]{1,60} )?(is )?(prohibited|forbidden|withheld)\b/,
  /\b(on|in|part of) (the |a )?(reserved|blocked|block|ban|banned|restricted|exclusion|reservation) (names? )?list\b/,
  /\bcontravenes? [^.\n]{0,60}(rules|policy|naming)/,
  /\b(ist|sind|bleibt|wurde) (reserviert|gesperrt|blockiert)|nicht (registrierbar|registrierungsfahig|verfugbar|zur registrierung)/,
  /\b(est|sont) (reserve|bloque|interdit|indisponible|protege|refuse)e?\b|\bn'est pas (disponible|ouvert|enregistrable)|\bterme (interdit|reserve)|soumis a (examen|autorisation)/,
  /\b(esta|es un|es) (dominio |nombre )?(reservado|bloqueado|prohibido|restringido)|no (esta disponible|se puede registrar|puede ser registrado|disponible)/,
  /\b(e|e' ) ?(un dominio )?(riservato|bloccato|non assegnabile)|non (e )?(assegnabile|registrabile|disponibile)/,
  /\b(esta|e) (reservado|bloqueado|congelado)|nao (esta )?disponivel|nao pode ser registrad/,
  /\b(is|zijn) (gereserveerd|geblokkeerd|uitgesloten|niet beschikbaar)|niet (beschikbaar|registreerbaar)|zastrzezon|zarezerwowan|зарезервирован|недоступ|заблокирован|予約ドメイン|予約語|登録できません|保留域名|禁止注册|已被保留|不可注册/,
]; // biome-ignore format: a pattern a line
/** Boilerplate that uses the same words of something else. */
const NOT_WITHHELD =
  /\b(all )?rights? (are )?reserved\b|\breserves? (the|all|its) rights?\b|reserves? (to itself )?the right|\b(transfer|update|delete|renew)\s?prohibited|\bprohibited (from|to use|by law)|strictly prohibited|prohibited without|(use|reproduction|compilation|repackaging|dissemination|redistribution|data|spam|mailing|access)[^.\n]{0,80}(is|are) (expressly |strictly )?(prohibited|forbidden|restricted)/;

/** A sentence about the name, of its state. */
const STATES_OF_IT =
  /^((the|this|your|requested|queried) )*(domain( name)?:? )?(name|domain)\b.{0,20}\b(is|was|has been|expired|wird|ist|est|esta|e)\b/;
const LAPSING: ReadonlySet<unknown> = new Set(['redemption', 'pending-delete', 'auto-renew']);

/** To be had, at a price of its own. */
const PREMIUM =
  /\bpremium\b(?! (dns|support|service|whois|partner|account|hosting|privacy|registrar))|\bprice class\b|\b(registry|special) price\b/;
const NOT_PREMIUM = /\bpremium\W+(no|false|none|0)\b|\bnot (a )?premium\b|\bno premium\b/;

/** How "there is no such domain" begins, in a line that may be a comment. */
const NOT_FOUND_BEGINS =
  /^(no match(es)?( found)?\b|not found\b|no[_ ]entries[_ ]found|no entry (found|for)|no data (was |has been )?found|no object(s)? found|object[_ ]not[_ ]found|no found\b|no information (available )?(about|was found)|no (matching )?records?( (found|matching)|$)|no matching (record|object|domain|entry)|no such (domain|name|object|entry)|no domain (found|record)|no whois (record|data|information) (found|for|available)|nothing found|object does not exist|does not exist|unregistered\b|domain (not found|unknown|not registered|does not exist|available|unregistered|name not known)|(the |this |requested |queried )*(object|domain|name|domain name|name requested)( name)? (does not exist|was not found|not found|is not registered|is not found|has not been registered|not registered|could not be found|is unregistered|is unknown)|(this |the )?domain( name)? is (free|available|still available|currently available|unregistered|not registered|not taken)|(%|#|-)? ?(error:? ?)?10[13]\b[^a-z]*(no entries found|domain is not registered|no such|not found)|(available|free|unregistered|not registered)[.!]?$|available for (registration|purchase)|we do not have an entry in our database matching|(your )?(search|query) (returned|has returned|yielded) no (results?|matches)|0 (results?|objects?|records?)( found)?\b|can ?not find|could not find|no_se_encontro_el_objeto)/;
const NOT_FOUND_BEGINS_ABROAD =
  /^(kein(e|en)? (eintrag|eintrage|treffer|daten|domain|ergebnis|ubereinstimmung)|nicht (gefunden|registriert|vergeben)|(die )?(domain|angefragte domain)( \S+)? (ist|wurde) (nicht (registriert|gefunden|vergeben)|frei|verfugbar|noch frei)|domain nicht gefunden|aucun(e)? (resultat|enregistrement|donnee|correspondance|entree|domaine)|(ce |le )?(nom de )?domaine( \S+)? (inconnu|disponible|non trouve|n'existe pas|est (libre|disponible)|n'est pas enregistre|introuvable)|non trouve|el dominio( \S+)? (no (existe|se encuentra|esta registrado|ha sido)|esta (libre|disponible))|dominio (no (registrado|encontrado|existe)|disponible|disponivel|livre|libre|nao (registrado|encontrado|existe))|no se (encontro|encontraron|ha encontrado)|nenhum (registro|resultado|dominio)|nao (encontrado|registrado|foi encontrad)|nessun (risultato|dominio|record|oggetto)|nessuna corrispondenza|(il )?dominio (non (registrato|esiste|trovato)|libero|disponibile)|geen (resultaten?|gegevens|domein|match)|niet gevonden|(domein|domeinnaam)( \S+)? (is )?(vrij|niet geregistreerd|niet gevonden|beschikbaar)|nie znaleziono|brak (obiektu|wpisu|danych|domeny|rekordu|informacji)|domena( \S+)? (nie istnieje|nie jest zarejestrowana|jest wolna|je volna|neni registrovana|nenalezena|nebyla nalezena)|zaznam nenalezen|zadny zaznam|nenalezen|nincs (talalat|ilyen|adat)|(a )?domain( nev)? (szabad|nem letezik)|ingen (match|data|traff|treff|oplysninger)|ikke (fundet|registrert|registreret)|hittades inte|ei loydy|verkkotunnusta ei|domeniul (nu exista|este liber|este disponibil)|kayit bulunamadi|alan adi bulunamadi|не найден|нет данных|домен (не (найден|зарегистрирован|существует)|свободен)|запис(ей|и|ь)? не|не зарегистрирован|свободен|該当するデータがありません|該当するデータは|データが見つかりません|登録されていません|未注册|没有找到|查无|查無|找不到|域名不存在|등록되어 있지|등록되지|존재하지 않)/;
/** The same with the name first: `pellgate.example is free`. */
const NOT_FOUND_NAMED =
  /^(error:? )?((the |this |requested |queried )*(domain|domain name|name|object)( name)?:?\s+)?["'([<]*(?<name>[^\s"'()[\]<>:]+\.[^\s"'()[\]<>:,]+?)["')\]>]*[.,]?\s*(:\s*|-+\s*|=\s*)?((is |was |has |still |currently |has been |not been )*(free|available|unregistered|not registered|not been registered|not yet registered|never been registered|no match|not found|no entries found|no records? found|no such domain|unknown)|does not exist|no existe|no se encuentra registrado|no esta registrado|esta (libre|disponible)|ist (frei|nicht registriert|nicht vergeben|verfugbar)|est (disponible|libre)|n'est pas enregistre|n'existe pas|e (libero|disponibile|livre)|non (e )?registrato|nao (registrado|encontrado)|disponivel|is (vrij|niet geregistreerd|beschikbaar)|jest wolna|nie istnieje|je volna|neni registrovana|hittades inte|ei loydy|свободен|не зарегистрирован|не найден)\b/;

/** Words in a "not found" that make it one of something else than the domain. */
const OF_SOMETHING_ELSE =
  /\b(name ?servers?|nameserver|host|contact|handle|person|role|registrant|registrar|admin|technical|tech|billing|zone-c|org(ani[sz]ation)?|dnskey|ds records?|trademark|claims?|ip address|route|inetnum|as-?number|key|referral|certificate|abuse|phone|fax|email|e-mail|reseller|dnssec|mx records?|a records?|website|site|page|kontakt|titulaire|contacto|holder)\b/;
/** Where it was looked for is not what was looked for. */
const IN_A_REGISTER = /\b(in|at|by|of) (the |our |its |this )?(registry|registrar|whois|database|selected)\b.*$/;
/** It says the opposite, or nothing of now. */
const DENIED =
  /\b(not|isn't|no longer|neither|nor|never) (currently |yet |be |being )?(available|free|found to be available)\b|\bunavailable\b|\bnot available\b|\bavailable (only|again|from|after|on|as of|since|at|via|through|in|to|under|upon|until|here|online|by|for (auction|bid|backorder|pre-?order|transfer|lookup|download|research|public|everyone|everybody|use|the purpose|query|queries|information))\b|\bfree (of charge|service|to|for|from|trial)\b|\bwill be\b|\bbecomes?\b|\bunless\b|\bwhether\b|\bif\b|\bwould\b|\bcheck (whether|if)\b/;

const NAMES = /[\p{L}\p{N}_-]+(?:\.[\p{L}\p{N}_-]+)+/gu;

/** Host names in a text, as A-labels. */
function namesIn(text: string): string[] {
  return [...text.matchAll(NAMES)].flatMap(([name]) => (/^[\d.]+$/.test(name) ? [] : [asciiName(name)]));
}

/** A name as an A-label in small letters, without a last dot; itself where it is none. */
export function asciiName(name: string): string {
  const plain = name.toLowerCase().replace(/^[\s"'[(<]+|[\s"'\])>.,;]+$/g, '');
  return domainToASCII(plain) || plain;
}

/** Addresses in sentences (of terms, of mail) are no names that it speaks of. */
const ADDRESSES = /\b(?:https?:\/\/|www\.)\S+|\S+@\S+/gi;

/** Whether a sentence speaks of the name, or of none; null: of another. */
function speaksOf(sentence: string, name: string | null): 'it' | 'none' | null {
  const names = namesIn(sentence.replace(ADDRESSES, ' '));
  if (names.length === 0) return 'none';
  if (name === null) return 'it';
  return names.includes(name) ? 'it' : null;
}

/**
 * What a line says of the name that was asked.
 *
 * @param name A-label form; null: whatever it is.
 * @returns null when it says nothing that decides.
 */
export function whatIsSaid(line: string, name: string | null): { said: Said; words: string; isNamed: boolean } | null {
  const words = line.replace(/^[\s%#>*;"'-]+/, '').trim();
  if (words === '' || words.length > 600) return null;
  const sentence = fold(words);
  const plain = plainOf(sentence);
  const about = speaksOf(sentence, name);
  const found = (said: Said) => ({ said, words: words.slice(0, 240), isNamed: about === 'it' });
  if (saysRefused(plain)) return found('refused');
  if (about === null) return null;
  if (saysWithheld(plain)) return found('withheld');
  if (saysPremium(plain)) return found('premium');
  if (isNotFound(sentence)) return found('not-found');
  // `pellgate.example is in quarantine until …`: a state that stands in no field
  return STATES_OF_IT.test(plain) && LAPSING.has(phaseOfStatus(plain)) ? found('lapsing') : null;
}

/** Folded, with every host name as the word "name" and without addresses. */
function plainOf(sentence: string): string {
  return sentence.replace(ADDRESSES, ' ').replace(NAMES, (name) => (/[a-z]/.test(name) ? 'name' : name));
}

/** The same of a text as it was received: a title, a description, a status. */
export const isRefusal = (text: string) => saysRefused(plainOf(fold(text)));
export const isWithheld = (text: string) => saysWithheld(plainOf(fold(text)));
export const isPremium = (text: string) => saysPremium(plainOf(fold(text)));

function saysRefused(sentence: string): boolean {
  return REFUSALS.some((pattern) => pattern.test(sentence)) && !ONLY_THREAT.test(sentence);
}

function saysWithheld(sentence: string): boolean {
  return WITHHELD.some((pattern) => pattern.test(sentence)) && !NOT_WITHHELD.test(sentence);
}

function saysPremium(sentence: string): boolean {
  return PREMIUM.test(sentence) && !NOT_PREMIUM.test(sentence);
}

function isNotFound(sentence: string): boolean {
  if (DENIED.test(sentence)) return false;
  const named = NOT_FOUND_NAMED.exec(sentence);
  if (named) return true;
  const begins = NOT_FOUND_BEGINS.exec(sentence) ?? NOT_FOUND_BEGINS_ABROAD.exec(sentence);
  return begins !== null && !OF_SOMETHING_ELSE.test(sentence.replace(IN_A_REGISTER, ' ').replace(NAMES, ' '));
}
