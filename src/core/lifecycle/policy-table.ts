/** The shortest and the longest, in days. */
export type Days = [shortest: number, longest: number];

/** The rules of registries, endings of one registry or of one kind together. */
export interface PolicyRow {
  endings: string;
  /** Auto-renew period, redemption, pending delete. */
  days: [autoRenew: Days, redemption: Days, pendingDelete: Days];
  /** Hours at which names are set free, UTC; absent: at any. */
  hours?: [from: number, to: number];
  /** Days of the week on which they are, 0 for Sunday. */
  weekdays?: number[];
  /** The record shows the next expiry while the name is in its auto-renew period. */
  moved?: boolean;
  basis: 'documented' | 'recalled' | 'assumed';
  margin?: number;
  reference: string;
}

const GENERIC: PolicyRow['days'] = [
  [0, 45],
  [30, 30],
  [5, 5],
];
const GTLD = 'RFC 3915; ICANN, Expired Registration Recovery Policy';

/**
 * No registry could be asked while this was written. `documented` are the stages that bind every generic TLD by ICANN's contracts;
 * everything else is recalled from the registries' rules and reckoned with a margin. Where a document is named, it is the one in which
 * the registry keeps these rules. Hours are as observed, where they are known.
 */
export const POLICY_ROWS: PolicyRow[] = [
  // generic TLDs
  { endings: 'com net', days: GENERIC, hours: [18, 20], moved: true, basis: 'documented', reference: `${GTLD}; drop hours as observed` },
  { endings: 'org info', days: GENERIC, hours: [14, 16], moved: true, basis: 'documented', reference: `${GTLD}; drop hours as observed` },
  { endings: 'biz mobi pro asia name xxx jobs tel cat coop aero museum travel post', days: GENERIC, moved: true, basis: 'documented', reference: GTLD },
  { endings: 'xyz online shop site store top club vip app dev live icu cyou sbs click life world space fun website tech work link cloud art page blog today group agency email digital media news studio design solutions services company guru center network systems one win bid loan men date review download stream trade party science racing cricket accountant faith webcam buzz monster rest bar host press wiki ink gdn ltd wang xin ren red pink blue kim black wtf ooo', days: GENERIC, moved: true, basis: 'documented', reference: GTLD },
  // sold like generic ones by the registries of country codes
  { endings: 'tv cc', days: GENERIC, hours: [18, 20], moved: true, basis: 'recalled', margin: 1, reference: 'Verisign, the life of a domain name: as for .com' },
  { endings: 'me', days: GENERIC, hours: [14, 16], moved: true, basis: 'recalled', reference: 'doMEn, as for generic TLDs; drop hours as observed' },
  { endings: 'io ac sh ai', days: [[0, 45], [30, 30], [5, 5]], moved: true, basis: 'recalled', margin: 2, reference: 'Identity Digital, as for generic TLDs' },
  { endings: 'co', days: [[0, 45], [15, 30], [5, 5]], moved: true, basis: 'recalled', margin: 2, reference: 'Registry of .co, life cycle' },
  { endings: 'us', days: GENERIC, moved: true, basis: 'recalled', margin: 2, reference: 'Registry of .us, as for generic TLDs' },
  { endings: 'in', days: GENERIC, moved: true, basis: 'recalled', margin: 2, reference: 'NIXI, as for generic TLDs' },
  { endings: 'la ws fm vc ag lc mn sc bz gg je nf ms tc vg pw gl cx nu', days: [[0, 45], [30, 30], [5, 5]], basis: 'recalled', margin: 5, reference: 'as for generic TLDs' },
  // Europe
  { endings: 'uk', days: [[30, 30], [60, 60], [2, 2]], basis: 'recalled', margin: 1, reference: 'Nominet, expiry of .uk domains: suspended after 30 days, cancelled after 90, free from the 92nd' },
  { endings: 'de', days: [[0, 0], [30, 30], [0, 0]], basis: 'recalled', margin: 1, reference: 'DENIC, Domain Guidelines: redemption grace period of 30 days after deletion' },
  { endings: 'eu', days: [[0, 0], [40, 40], [0, 0]], basis: 'recalled', margin: 1, reference: 'EURid, Registration Policy: quarantine of 40 days after deletion' },
  { endings: 'nl', days: [[0, 0], [40, 40], [0, 0]], basis: 'recalled', margin: 2, reference: 'SIDN, General Terms and Conditions: quarantine of 40 days' },
  { endings: 'be', days: [[0, 0], [40, 40], [0, 0]], basis: 'recalled', margin: 2, reference: 'DNS Belgium, Terms and Conditions: quarantine of 40 days' },
  { endings: 'fr re pm wf tf yt', days: [[0, 45], [30, 30], [0, 1]], moved: true, basis: 'recalled', margin: 2, reference: 'Afnic, Naming Policy: redemption of 30 days after deletion; a daily list of what is free' },
  { endings: 'it', days: [[15, 15], [30, 30], [5, 5]], basis: 'recalled', margin: 2, reference: 'Registro .it, Guidelines: auto-renew of 15 days, redemption of 30, pending delete of 5' },
  { endings: 'es', days: [[0, 10], [10, 10], [0, 1]], basis: 'recalled', margin: 10, reference: 'Red.es, renewal and release of .es' },
  { endings: 'pt', days: [[0, 30], [0, 30], [0, 1]], basis: 'recalled', margin: 7, reference: '.PT, Domain Registration Rules' },
  { endings: 'pl', days: [[30, 30], [0, 0], [0, 1]], basis: 'recalled', margin: 3, reference: 'NASK: blocked for 30 days after the end of the billing period' },
  { endings: 'ch li', days: [[0, 0], [40, 40], [0, 0]], hours: [2, 5], basis: 'recalled', margin: 2, reference: 'SWITCH, General Terms: transitional period of 40 days; a daily list of what becomes free' },
  { endings: 'at', days: [[0, 0], [0, 60], [0, 7]], basis: 'recalled', margin: 7, reference: 'nic.at, General Terms and Conditions' },
  { endings: 'se', days: [[0, 10], [0, 0], [60, 65]], hours: [3, 5], basis: 'recalled', margin: 5, reference: 'Internetstiftelsen: deactivated, then released about 60 days after; the date is stated in WHOIS' },
  { endings: 'no', days: [[0, 0], [30, 90], [0, 1]], basis: 'recalled', margin: 7, reference: 'Norid, Domain name policy for .no: quarantine' },
  { endings: 'dk', days: [[0, 30], [0, 30], [30, 30]], basis: 'recalled', margin: 7, reference: 'Punktum dk, Terms and conditions' },
  { endings: 'fi', days: [[30, 31], [0, 0], [0, 1]], basis: 'recalled', margin: 3, reference: 'Traficom: a grace period after the expiry; the day on which it is available is stated' },
  { endings: 'cz', days: [[60, 61], [0, 0], [0, 1]], basis: 'recalled', margin: 3, reference: 'CZ.NIC, Rules of Domain Names Registration: out of the zone after 30 days, deleted 61 days after the expiry' },
  { endings: 'sk', days: [[0, 30], [0, 30], [0, 14]], basis: 'recalled', margin: 7, reference: 'SK-NIC, Rules' },
  { endings: 'hu', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'Council of Hungarian Internet Providers, Domain Registration Policy' },
  { endings: 'ro', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'ROTLD, registration rules' },
  { endings: 'bg', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'Register.BG, Terms and conditions' },
  { endings: 'gr', days: [[0, 15], [0, 30], [0, 15]], basis: 'recalled', margin: 14, reference: 'Registry of .gr' },
  { endings: 'ie', days: [[0, 44], [0, 30], [0, 14]], basis: 'recalled', margin: 7, reference: '.IE, Registration and Naming Policy' },
  { endings: 'lu', days: [[0, 0], [30, 60], [0, 7]], basis: 'recalled', margin: 10, reference: 'DNS-LU, Terms and conditions' },
  { endings: 'lt', days: [[0, 30], [0, 30], [0, 5]], basis: 'recalled', margin: 7, reference: 'DOMREG, procedural regulation for .lt' },
  { endings: 'lv', days: [[0, 30], [0, 30], [0, 5]], basis: 'recalled', margin: 7, reference: 'NIC.LV, policy for .lv' },
  { endings: 'ee', days: [[0, 45], [0, 30], [0, 14]], basis: 'recalled', margin: 10, reference: 'Estonian Internet Foundation, Domain Regulation: deleted 45 days after the expiry, then put up for auction' },
  { endings: 'si', days: [[0, 30], [30, 30], [0, 5]], basis: 'recalled', margin: 5, reference: 'Register.si, General terms: quarantine of 30 days' },
  { endings: 'hr', days: [[0, 30], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'CARNET, rules for .hr' },
  { endings: 'rs', days: [[0, 30], [0, 30], [0, 7]], basis: 'recalled', margin: 7, reference: 'RNIDS, General Terms: 30 days of renewal after the expiry' },
  { endings: 'is', days: [[0, 60], [0, 30], [0, 7]], basis: 'recalled', margin: 14, reference: 'ISNIC, rules on .is' },
  { endings: 'ru su xn--p1ai', days: [[30, 31], [0, 0], [0, 3]], basis: 'recalled', margin: 2, reference: 'Coordination Center, Terms and Conditions for .RU: 30 days of priority renewal; the free date is stated in WHOIS' },
  { endings: 'ua', days: [[0, 30], [30, 30], [5, 5]], basis: 'recalled', margin: 5, reference: 'Hostmaster, rules for .UA: as RFC 3915' },
  { endings: 'by', days: [[0, 60], [0, 30], [0, 7]], basis: 'recalled', margin: 14, reference: 'Registry of .by' },
  { endings: 'tr', days: [[0, 60], [0, 30], [0, 7]], basis: 'recalled', margin: 14, reference: 'TRABIS, rules for .tr' },
  { endings: 'im', days: [[0, 30], [0, 30], [0, 7]], basis: 'recalled', margin: 14, reference: 'Registry of .im' },
  { endings: 'md mk al ba mt cy ge am az kz uz', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'the registry’s own rules, not known in detail' },
  // the Americas
  { endings: 'ca', days: [[0, 45], [30, 30], [0, 7]], hours: [18, 21], weekdays: [3], moved: true, basis: 'recalled', margin: 1, reference: 'CIRA: redemption of 30 days, then released on a Wednesday (To Be Released)' },
  { endings: 'br', days: [[0, 90], [0, 0], [0, 40]], basis: 'recalled', margin: 14, reference: 'Registro.br: frozen after the expiry, then set free in release processes, about one a month' },
  { endings: 'mx', days: [[0, 45], [0, 30], [0, 15]], basis: 'recalled', margin: 10, reference: 'Registry .MX, General Policies' },
  { endings: 'ar', days: [[0, 45], [0, 30], [0, 7]], basis: 'recalled', margin: 14, reference: 'NIC Argentina' },
  { endings: 'cl', days: [[0, 30], [30, 30], [0, 7]], basis: 'recalled', margin: 7, reference: 'NIC Chile, regulation of .CL: restoration for 30 days' },
  { endings: 'pe ve uy ec bo py cr gt do pa', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'the registry’s own rules, not known in detail' },
  // Asia and the Pacific
  { endings: 'cn xn--fiqs8s', days: [[0, 45], [15, 30], [5, 5]], basis: 'recalled', margin: 5, reference: 'CNNIC, implementing rules of domain name registration' },
  { endings: 'jp', days: [[0, 31], [20, 31], [0, 10]], basis: 'recalled', margin: 7, reference: 'JPRS: suspended after the month of the expiry, and deleted after that' },
  { endings: 'kr', days: [[0, 30], [0, 30], [0, 5]], basis: 'recalled', margin: 7, reference: 'KISA, rules for .kr' },
  { endings: 'tw', days: [[0, 45], [0, 30], [0, 10]], basis: 'recalled', margin: 10, reference: 'TWNIC' },
  { endings: 'hk', days: [[0, 90], [0, 30], [0, 10]], basis: 'recalled', margin: 10, reference: 'HKIRC, Domain Name Registration Policies' },
  { endings: 'sg', days: [[0, 45], [30, 30], [5, 5]], basis: 'recalled', margin: 5, reference: 'SGNIC, registration policies' },
  { endings: 'my', days: [[0, 30], [30, 30], [5, 5]], basis: 'recalled', margin: 7, reference: 'MYNIC' },
  { endings: 'id', days: [[0, 45], [30, 30], [5, 5]], basis: 'recalled', margin: 7, reference: 'PANDI, policies for .id' },
  { endings: 'th vn ph', days: [[0, 45], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'the registry’s own rules, not known in detail' },
  { endings: 'ir', days: [[0, 60], [0, 30], [0, 7]], basis: 'recalled', margin: 10, reference: 'IRNIC, rules for .ir' },
  { endings: 'il', days: [[0, 30], [0, 30], [0, 14]], basis: 'recalled', margin: 10, reference: 'ISOC-IL, rules for .il' },
  { endings: 'ae sa qa kw om bh jo lb pk bd lk np', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'the registry’s own rules, not known in detail' },
  { endings: 'au', days: [[30, 30], [0, 0], [1, 3]], hours: [2, 5], basis: 'recalled', margin: 2, reference: 'auDA, Licensing Rules: 30 days after the expiry, then pending delete; a daily list' },
  { endings: 'nz', days: [[0, 30], [0, 0], [90, 90]], basis: 'recalled', margin: 3, reference: 'InternetNZ, .nz policies: pending release of 90 days after cancellation' },
  // Africa
  { endings: 'za', days: [[0, 45], [20, 30], [5, 5]], basis: 'recalled', margin: 7, reference: 'ZACR, published policies' },
  { endings: 'ng ke ma tn eg gh tz ug', days: [[0, 60], [0, 30], [0, 14]], basis: 'recalled', margin: 14, reference: 'the registry’s own rules, not known in detail' },
  { endings: '*', days: GENERIC, basis: 'assumed', margin: 7, reference: 'assumed for TLDs that are not listed: the stages of generic TLDs' },
]; // biome-ignore format: one registry a line
