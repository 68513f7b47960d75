/**
 * How registries write WHOIS answers (RFC 3912 fixes no format): one table for all of them. Compared in small letters without
 * accents, spaces and marks, so that `Expiry date......:` and `[Expiry Date]` are the same label.
 */
export type WhoisField =
  | 'domain'
  | 'registered'
  | 'expires'
  /** When the registrar's own term ends, beside the registry's date. */
  | 'registrarExpires'
  /** When the registry will delete it, and when it will be free: stated by some registries, and no expiry. */
  | 'deletesAt'
  | 'freeAt'
  | 'changed'
  | 'registrar'
  | 'registrant'
  | 'status'
  | 'nameServer'
  | 'referral'
  /** Known, and of no use here: it must not be taken for another. */
  | 'none';

const LABELS: Record<WhoisField, string> = {
  domain:
    'domain, domain name, domainname, domain ace, ascii, domain name ascii, idn domain name, query, requested domain, domainbezeichnung, domane, nom de domaine, nom du domaine, domaine, dominio, nombre de dominio, nombre del dominio, nome de dominio, nome a dominio, nome dominio, domeinnaam, domein, domena, nazwa domeny, domenove jmeno, domene, domain navn, domannamn, verkkotunnus, alan adi, домен, доменное имя, ドメイン名, 域名, 도메인이름',
  registered:
    'creation date, created, created on, create date, created date, date created, creation time, registered, registered on, registered date, registration date, registration time, date registered, date of registration, domain registered, domain dateregistered, domain registration date, domain creation date, domain created, domain record activated, domain name commencement date, commencement date, activated, activated on, activation date, first registered, original created, registered since, domain create date, record created, record created on, record created date, entry created, assigned, delegated, connected date, erstellt, erstellt am, registriert, registriert am, registrierungsdatum, date de creation, cree le, enregistre le, date d enregistrement, fecha de creacion, fecha de registro, fecha de alta, creado, creado el, registrado, data de criacao, criado, criado em, registrado em, data de registo, data di creazione, data creazione, creato, creato il, registrato il, utworzony, utworzona, data utworzenia, data rejestracji, angelegt, geregistreerd, datum registratie, geregistreerd op, oprettet, registreret, opprettet, skapad, registrerad, luotu, rekisteroity, registrovana, registrovano, vytvoreno, regisztralva, bejegyezve, inregistrat la, inregistrat, kayit tarihi, olusturulma tarihi, дата регистрации, зарегистрирован, создан, 登録年月日, 登録日, 接続年月日, 注册时间, 注册日期, 등록일',
  expires:
    'registry expiry date, registry expiration date, expiry date, expiration date, expiration time, expiry time, expires, expires on, expires at, expire, expire date, expire on, expired, expired date, exp date, exp, expiry, expiration, expiration on, date of expiry, date expires, paid till, paid until, paid up to, valid until, valid till, valid to, valid thru, validity, validity date, renewal date, renewal, renew date, renews on, record expires, record expires on, record expired, record expires date, domain expires, domain expires on, domain expiration, domain expiration date, domain expiry date, domain datebilleduntil, billed until, registered until, registration expires, registration expiration date, registration valid until, expiration du contrat, ablaufdatum, lauft ab am, lauft ab, ablauf, gultig bis, date d expiration, expire le, expiration le, date d echeance, fecha de expiracion, fecha de vencimiento, fecha de caducidad, vence, vence el, vencimiento, expira, expira el, data de expiracao, data de expiracion, expiracao, expira em, validade, data de validade, data di scadenza, data scadenza, scadenza, scade, scade il, data wygasniecia, wygasa, koniec okresu rozliczeniowego, vervaldatum, verloopt op, verloopt, geldig tot, udlober, udlobsdato, utloper, utlops dato, utgar, forfallsdato, voimassaolo paattyy, paattyy, datum expirace, expirace, platnost do, lejarat, ervenyes, expira la, bitis tarihi, son kullanma tarihi, дата окончания, оплачен до, действителен до, 有効期限, 有効期間満了日, 到期时间, 到期日期, 过期时间, 사용종료일, 만료일',
  registrarExpires: 'registrar registration expiration date, registrar expiration date, registrar expiry date',
  deletesAt:
    'delete, delete date, deletion date, date to delete, date of deletion, to be deleted, to be deleted on, deleted on, purge date, scheduled deletion, scheduled deletion date, pending delete date, delete after, deletion scheduled for, date de suppression, loschdatum, wird geloscht am, geloscht am, fecha de eliminacion, data di cancellazione, data usuniecia, datum smazani, slettes',
  freeAt:
    'free date, free on, date free, available, available from, available on, available at, available date, date available, availability date, release date, released, released on, release on, to be released, to be released on, date to release, date of release, drop date, dropped on, will be available, will be available on, will be free on, out of quarantine, date out of quarantine, quarantine until, quarantine end, end of quarantine, quarantine ends, in quarantine until, transition period until, end of transition period, redemption end date, re-registration from, register from, frei ab, wieder frei ab, freigabe, freigabedatum, freigabe am, libre le, disponible le, date de liberation, fecha de liberacion, disponible desde, data de liberacao, data di rilascio, uwolnienie, data uwolnienia, vrijgave, vrij op, einde quarantaine, uit quarantaine, frigives, frigivelsesdato, vapautuu, vapautumispaiva, uvolneni, дата освобождения, освобождается, 解放予定日, 登録可能日',
  changed:
    'updated date, updated, updated on, update date, last updated, last updated on, last updated date, last update, last modified, last modified on, last change, last changed, modified, modified on, modified date, modification date, modification time, changed, changed on, changed date, domain last updated date, domain datelastmodified, record last updated on, record last updated, record last modified, last transferred date, letzte anderung, geandert, geandert am, derniere modification, modifie le, mis a jour, date de modification, ultima actualizacion, actualizado, ultima modificacion, ultima modifica, ultimo aggiornamento, aggiornato, ostatnia modyfikacja, alterado, ultima alteracao, laatst gewijzigd, gewijzigd, datum laatste wijziging, sidst andret, sist endret, andrad, senast andrad, muokattu, zmeneno, upravena, utolso modositas, guncelleme tarihi, дата изменения, 最終更新, 更新日, 更新时间, 최근정보변경일',
  registrar:
    'registrar, registrar name, sponsoring registrar, sponsoring registrar organization, registrar organization, registrar organisation, registrar company, registrar handle, current registrar, registered through, registered by, registration service provider, authorized agency, authorised agency, maintainer, holder of registration service, registrierstelle, registrar nom, bureau d enregistrement, agente registrador, entidad registradora, registrador, entidade gestora, rejestrator, registratore, registrator, urejevalec, kayit firmasi, kayit operatoru, регистратор, 注册商, 指定事業者, 등록대행자',
  registrant:
    'registrant, registrant name, registrant organization, registrant organisation, domain holder, domain holder organization, holder, holder name, holder c, owner, owner name, owner organization, owner c, organization using domain name, org, inhaber, domaininhaber, titulaire, titular, titolare, abonnent, abonent, houder, indehaver, innehavare, haltija, drzitel, tulajdonos, registrant contact, person, владелец, администратор домена, 登録者名, 組織名, 注册人, 注册者, 등록인',
  status:
    'domain status, status, state, registration status, registry status, domain state, domain name status, current status, eppstatus, epp status, status epp, query status, ren status, domain type, domaintype, hold status, lifecycle, lifecycle status, life cycle, phase, grace status, rgp status, zustand, statut, statut du domaine, estado, estado del dominio, estatus, situacao, estado do dominio, stato, stato del dominio, stan, stan domeny, tilstand, tila, stav, allapot, durum, статус, состояние, 状態, 域名状态, 도메인상태',
  nameServer:
    'name server, name servers, name server handle, nameserver, nameservers, name server hostname, nserver, ns, ns 1, ns 2, ns1, ns2, dns, dns server, dns servers, dns name, primary name server, secondary name server, primary server, secondary server, domain servers, domain nameservers, domain servers in listed order, host name, hostname, namensserver, serveur de noms, serveurs de noms, servidor dns, servidores dns, servidor de nombres, servidores de nombre, servidor dns 1, servidores de nomes, server dei nomi, serwery nazw, naamservers, navneservere, namnservrar, nimipalvelin, jmenny server, nevszerver, alan sunuculari, серверы имен, ネームサーバ, 域名服务器, 네임서버',
  referral:
    'refer, whois server, registrar whois server, registrar whois, whois, referralserver, referral url, referral server',
  none: 'option expiration date, option created, option expires, registrar iana id, registrar url, registrar abuse contact email, registrar abuse contact phone, last update of whois database, whois database last updated, certificate expires, registration period, registry fee due on, transferred, trademark expiration date, last transferred',
};

const FIELDS = new Map<string, WhoisField>(
  Object.entries(LABELS).flatMap(([field, labels]) =>
    labels.split(', ').map((label): [string, WhoisField] => [foldLabel(label), field as WhoisField]),
  ),
);

/** The field that a label stands for; null: none that is known. */
export function fieldOf(label: string): WhoisField | null {
  // what stands before the mark of a time is no label
  return /\d{2}/.test(label) ? null : (FIELDS.get(foldLabel(label)) ?? null);
}

export function foldLabel(label: string): string {
  return label
    .toLowerCase()
    .normalize('NFD')
    .replace(/[\u0300-\u036f]/g, '')
    .normalize('NFC')
    .replace(/ł/g, 'l')
    .replace(/ø/g, 'o')
    .replace(/ı/g, 'i')
    .replace(/[^\p{L}]/gu, '');
}

/** Objects that stand behind a domain in answers of several: their dates and states are theirs. */
export const OTHER_OBJECTS = new Set(
  'contact, person, role, nic-hdl, nic-hdl-br, nic handle, nichdl, nsset, keyset, keysetr, irt, mntner, zone-c, contact id, personname, key-set'
    .split(', ')
    .map(foldLabel),
);

/** Endings whose registries write the day before the month where both are numbers. */
export const DAY_FIRST = new Set([
  'ae', 'ar', 'at', 'au', 'be', 'bg', 'br', 'ch', 'cl', 'co', 'cr', 'cz', 'de', 'dk', 'do', 'ec', 'ee', 'es', 'eu', 'fi', 'fr', 'gg', 'gr', 'gt', 'hk', 'hr',
  'id', 'ie', 'il', 'im', 'in', 'is', 'it', 'je', 'ke', 'li', 'lt', 'lu', 'lv', 'ma', 'md', 'me', 'mk', 'mt', 'mx', 'my', 'ng', 'nl', 'no', 'nz', 'pe',
  'pk', 'pl', 'pt', 're', 'ro', 'rs', 'ru', 'sa', 'se', 'sg', 'si', 'sk', 'su', 'th', 'tn', 'tr', 'ua', 'uk', 'uy', 've', 'vn', 'za',
]); // biome-ignore format: a list
