import { fold } from './fold';
import type { Phase } from './phases';

/**
 * Words of a status to phases, in the order in which they win. EPP's own (RFC 5731 2.3, RFC 3915 3.1; in RDAP by RFC 8056) are compared
 * without case, spaces and marks; what registries write besides, as words. Read from the left: a wording that holds a shorter one
 * stands before it.
 */
const EPP: [status: string, phase: StatusPhase][] = [
  ['pendingrestore', 'redemption'],
  ['redemptionperiod', 'redemption'],
  ['redemptiongraceperiod', 'redemption'],
  ['pendingdelete', 'pending-delete'],
  ['autorenewperiod', 'auto-renew'],
  ['autorenewgraceperiod', 'auto-renew'],
];

/**
 * Beside phases, what only the rest of the answer decides: `suspended` and `deactivated`, whether the registration has run out;
 * `unavailable`, `withheld-alone` and `unclear`, whether there is a registration at all.
 */
export type StatusPhase =
  | Phase
  | 'suspended'
  | 'deactivated'
  | 'premium'
  | 'unavailable'
  | 'withheld-alone'
  | 'unclear';

const WORDS: [pattern: RegExp, phase: StatusPhase][] = [
  // what sounds like more than it is
  [/\b(client|server|registrar|registry)?[ -]?(transfer|update|delete|renew)[ -]?(prohibited|locked|lock)\b/, 'active'],
  [/\b(add|transfer|renew)[ -]?(grace[ -]?)?period\b/, 'active'],
  [/\b(pending)[ -]?(create|renew|transfer|update|verification|confirmation)\b/, 'active'],
  [/\bregistered until\b|\b(not|nicht|no) (expired|suspended|on hold|deleted|blocked)\b/, 'active'],
  // the former owner may still have it back
  [/\b(pending ?delete|pendingdelete)\W+(redemption|pending ?restor|restor)/, 'redemption'],
  [/\bquarant|\bkarant|\bcuarenten|\bqvarant|\bkvarant|карантин|\bkarenz|\bcooling[ -]off/, 'redemption'],
  [/\b(redemption|restorable|pending ?restor(e|ation)|waiting for restor|awaiting restor|recovery period|restore period|(in|under) restor\w+|reinstat|rgp)\b/, 'redemption'],
  [/\b(transition(al)? period|in transit(ion)?|transit|ubergangsphase|periode de transition|periodo di transizione)\b/, 'redemption'],
  [/\b(can|may) (still )?be (restored|recovered|redeemed|reinstated)\b|\bwiederherstell|\brestaurab|\brestaura(cion|ble)|\bsuspended[^.]{0,40}(expir|renew|non-?payment)|\bexpired[^.]{0,30}(and|,|;|-)? ?suspended/, 'redemption'],
  // nobody may
  [/\b(pending[ -]?(deletion|delete|purge|release|removal))\b|pendingdelete|\bpendingrelease\b/, 'pending-delete'],
  [/\b(to be|will be|about to be|being|is being|scheduled (for|to be)|marked (for|to be)|awaiting|waiting for|in|up for|queued for|candidate for|flagged for) (deletion|deleted|release|released|removal|removed|purge|purged|dropped|cancellation|the release process)\b|\bfor (deletion|release)\b|\bdelete ?candidate|\bdeletion (pending|scheduled|in progress)|\brelease[ -](process|queue|list|pending)|\btbr\b|\bcancell?ed\b/, 'pending-delete'],
  [/\bdeactivated[^.]{0,20}(before|pending|until|prior|awaiting|for)[^.]{0,20}(delet|releas|remov)|\bdeactivated, (to be|pending) (delet|releas)/, 'pending-delete'],
  [/\b(wird|zur|in) (geloscht|loschung|freigabe)|\bloschung (vorgemerkt|steht)|\ben cours de (suppression|liberation)|\ba supprimer\b|\bpendiente de (eliminacion|borrado|liberacion|baja)|\ben (proceso de )?(eliminacion|liberacion)|\bem (processo de )?(liberacao|exclusao)|\bprocesso de liberacao|\bin (cancellazione|fase di cancellazione)|\bda cancellare\b|\bdo (usuniecia|skasowania)|\bke smazani|\bna vymazanie|\btorles|\bslettes\b|\bunder sletning|\bavregistreras|\bpoistetaan|\bsilinecek|на удалени|удаляется|освобождается|к удалению|削除予定|解放待ち|待删除/, 'pending-delete'],
  // the owner may renew it as usual
  [/\b(auto|late|renewal|renew|expiry|expiration|expired)[ -]?(renew(al)?)?[ -]?(grace|grace[ -]?period)\b|\bgrace ?period\b|\bin grace\b|^grace$/, 'auto-renew'],
  [/\b(renewal|payment) (is )?(required|due|overdue|outstanding|pending|late)\b|\bawaiting (renewal|payment)|\bpast due\b|\bnot renewed\b|\bunpaid\b|\brenewable\b|\bto be renewed\b|\bpending[ -]?suspension\b|\bexpired\b|\blapsed\b|\bvalidity (expired|ended)|\bout ?of ?zone\b|\boutzone\b|\bunguarded\b/, 'auto-renew'],
  [/\babgelaufen\b|^expiree?\b|\bechu\b|\bvencid[oa]\b|\bcaducad[oa]\b|\bexpirad[oa]\b|\bscadut[oa]\b|\bwygas(l|ny)|\bpo splatnosti|\bexpirovan|\bverlopen\b|\budlobet\b|\butlopt\b|\butgang(en)?\b|\bvanhentunut|\blejart\b|\bsuresi dol|просрочен|истек|не продлен|期限切れ|已过期/, 'auto-renew'],
  // nobody is to have it
  [/\b(reserved|blocked|banned|withheld|forbidden|prohibited|prohibition|restricted name|not allowed|not registrable|unregistrable|unassignable|ineligible|excluded|withdrawn|protected|disallowed|not open)\b/, 'not-registrable'],
  [/\breserviert|\bgesperrt|\breserve\b|\binterdit|\bbloque|\breservad|\bbloquead|\bprohibid|\briservat|\bbloccat|\bnon assegnabile|\bgereserveerd|\bgeblokkeerd|\buitgesloten|\bzastrzezon|\bzarezerwowan|\brezervovan|\bblokovan|\bfoglalt nev|\breserveret|\breservert|\breserverad|\bvarattu|\brezerve|зарезервирован|заблокирован|予約|保留/, 'not-registrable'],
  [/\bpremium\b/, 'premium'],
  [/\bunavailable\b/, 'withheld-alone'],
  [/^(invalid|unknown|undefined|error)\b|\b(at|in|on) auction\b/, 'unclear'],
  [/\b(not available|nicht verfugbar|non disponibile|no disponible|indisponible|niet beschikbaar|nao disponivel)\b/, 'unavailable'],
  [/\bdeactivated\b|\bdeaktiviert|\bdesactive|\bdesactivad|\bdisattivat|\bdeaktiveret|\bgedeactiveerd/, 'deactivated'],
  [/\bsuspended\b|\bsuspension\b|\bsuspendid|\bsospes|\bsuspendu|\bausgesetzt|\bgeschorst|\bzawieszon|приостановлен/, 'suspended'],
]; // biome-ignore format: a pattern a line

/** Values of a status that say that there is no such domain. */
const FREE =
  /^(\d{3} )?(is )?(free|available|avail|not registered|unregistered|unassigned|unallocated|not assigned|not delegated to anyone|no object found|no match|not found|does not exist|non existent|nonexistent|no such domain|vacant|open|frei|verfugbar|nicht registriert|nicht vergeben|disponible|libre|no registrado|livre|disponivel|nao registrado|disponibile|libero|non registrato|vrij|beschikbaar|niet geregistreerd|wolna|dostepna|volna|volny|szabad|ledig|vapaa|liber|musait|свободен|не зарегистрирован|未登録|未注册)( for registration)?[.!]?$/;

/** What one status says of the phase; null: nothing but that there is a registration. */
export function phaseOfStatus(status: string): StatusPhase | null {
  const plain = status.toLowerCase().replace(/[\s_-]/g, '');
  for (const [epp, phase] of EPP) if (plain === epp) return phase;
  // camelCase and marks of registries become words: pendingDelete/redemptionPeriod
  const words = fold(status.replace(/([a-z])([A-Z])/g, '$1 $2')).replace(/[_/|]+/g, ' ');
  for (const [pattern, phase] of WORDS) if (pattern.test(words)) return phase;
  return null;
}

export function isFreeStatus(status: string): boolean {
  return FREE.test(
    fold(status)
      .replace(/[_-]+/g, ' ')
      .replace(/\(.*?\)/g, '')
      .trim(),
  );
}
