/**
 * What pages say that are not a site's own content: names for sale, parked or lapsed ones, accounts that were shut, what servers show by default,
 * listings of folders, closed doors and pages that script alone draws. Words of hosts, registrars and servers as they are met, in eighteen
 * languages; matched on text in lower case, with curly apostrophes made straight.
 */

/** Kinds of what is not content, in the order in which they are asked: what tells most first. */
export type PlateKind =
  | 'for-sale'
  | 'expired'
  | 'suspended'
  | 'default'
  | 'listing'
  | 'script'
  | 'challenge'
  | 'missing'
  | 'parked';

/** A group of phrases; those that are sure decide on larger pages too. */
interface Plates {
  kind: PlateKind;
  sure: readonly string[];
  /** Only on small pages. */
  likely: readonly string[];
}

const DOMAIN = '(?:domain|domain name|web ?address|name|web ?site|site|url)';
const NAME_DE = '(?:domain|adresse|internetadresse|webadresse|domainname|seite)';
const NAME_FR = '(?:domaine|nom de domaine|site|adresse)';
const NAME_ES = '(?:dominio|nombre de dominio|sitio|página|web)';
const NAME_IT = '(?:dominio|nome a dominio|sito|indirizzo)';
const NAME_NL = '(?:domein|domeinnaam|website|adres)';
const NAME_PT = '(?:domínio|nome de domínio|site|endereço)';

const PLATES: readonly Plates[] = [
  {
    kind: 'for-sale',
    sure: [
      `(?:this|the|your)? ?${DOMAIN}(?: [\\w.-]+)? (?:is|may be|could be|might be) (?:now |available |currently |listed )*(?:for sale|to buy|for purchase)`,
      `\\b[\\w-]+\\.[a-z]{2,}(?:\\.[a-z]{2,})? (?:is|may be) (?:now |available )*for sale`,
      '(?:domain|domain name|web ?address) for sale', `buy (?:this|the) ${DOMAIN}`, `make (?:us )?an offer (?:for|on) (?:this|the) ${DOMAIN}`,
      `(?:inquire|enquire) (?:about|for) (?:this|the) ${DOMAIN}`, `interested in (?:buying )?this ${DOMAIN}`, `(?:purchase|lease) this ${DOMAIN}`,
      `(?:diese|die) ${NAME_DE}(?: [\\w.-]+)? (?:steht|ist|kann)(?: \\S+){0,3} (?:zum verkauf|zu verkaufen|käuflich|erworben|gekauft)`,
      '(?:domain|internetadresse|domainname) (?:zu verkaufen|kaufen|zum verkauf)', `[\\w-]+\\.[a-z]{2,} (?:steht zum verkauf|zu verkaufen)`,
      `(?:ce|le) ${NAME_FR}(?: [\\w.-]+)? est (?:à vendre|en vente)`, '(?:domaine|nom de domaine) à vendre', `acheter ce ${NAME_FR}`, `[\\w-]+\\.[a-z]{2,} est (?:à vendre|en vente)`,
      `(?:este|el) ${NAME_ES}(?: [\\w.-]+)? est[áa] (?:en venta|a la venta)`, '(?:dominio|nombre de dominio) en venta', `comprar? este dominio`, `[\\w-]+\\.[a-z]{2,} est[áa] (?:en|a la) venta`,
      `(?:questo|il) ${NAME_IT}(?: [\\w.-]+)? (?:è|e') in vendita`, '(?:dominio|nome a dominio) in vendita', `acquista(?:re)? questo dominio`, `[\\w-]+\\.[a-z]{2,} (?:è|e') in vendita`,
      `(?:deze|dit|de) ${NAME_NL}(?: [\\w.-]+)? (?:is|staat) te koop`, 'domein(?:naam)? te koop', `koop (?:deze|dit) domein`, `[\\w-]+\\.[a-z]{2,} (?:is|staat) te koop`,
      `(?:este|o) ${NAME_PT}(?: [\\w.-]+)? est[áa] à venda`, '(?:domínio|nome de domínio) à venda', `comprar este domínio`, `[\\w-]+\\.[a-z]{2,} est[áa] à venda`,
      'domena(?: \\S+)? (?:jest )?(?:na sprzedaż|do sprzedania|wystawiona na sprzedaż)', 'kup tę domenę',
      'dom[äa]n(?:en|namnet)?(?: \\S+)? är till salu', 'domæne(?:t)?(?: \\S+)? er til salg', 'domene(?:t)?(?: \\S+)? er til salgs', 'verkkotunnus(?: \\S+)? on myytävänä', 'myytävä verkkotunnus',
      'doména(?: \\S+)? je (?:na prodej|k prodeji)', 'doména na prodej', 'eladó domain', 'domeniul(?: \\S+)? este de vânzare',
      '(?:bu )?alan adı(?: \\S+)? satılık', 'satılık alan adı', 'домен(?: \\S+)? (?:продается|продаётся|выставлен на продажу)', 'купить (?:этот )?домен', 'домен(?: \\S+)? продається',
      'このドメインは(?:販売|売り出)', 'ドメイン(?:を)?(?:販売中|売ります|売却)', '(?:本|该|此)?域名(?:\\S{0,6})?(?:出售|转让|待售)', '域名出售', '網域(?:\\S{0,4})出售', '이 도메인(?:은|을)?(?: \\S+){0,2} ?(?:판매|팝니다)',
    ],
    likely: [],
  },
  {
    kind: 'expired',
    sure: [
      `(?:this |the |your )?${DOMAIN}(?: registration)?(?: [\\w.-]+)? (?:has |is |was )?(?:recently |just )?(?:expired|lapsed)`, `[\\w-]+\\.[a-z]{2,} (?:has )?expired`, 'renew (?:it|your domain|this domain) now', `${DOMAIN} (?:pending|awaiting) (?:renewal|deletion)`,
      `(?:diese|die) ${NAME_DE}(?: [\\w.-]+)? ist abgelaufen`, 'domain (?:ist )?abgelaufen', `(?:ce|le) ${NAME_FR}(?: [\\w.-]+)? (?:a|est) expiré`, 'domaine expiré',
      `(?:este|el) ${NAME_ES}(?: [\\w.-]+)? ha (?:expirado|caducado)`, 'dominio (?:expirado|caducado)', `(?:questo|il) ${NAME_IT}(?: [\\w.-]+)? (?:è|e') scaduto`, 'dominio scaduto',
      `(?:deze|dit|de) ${NAME_NL}(?: [\\w.-]+)? is verlopen`, 'domein(?:naam)? (?:is )?verlopen', `(?:este|o) ${NAME_PT}(?: [\\w.-]+)? expirou`, 'domínio expirado',
      'domena(?: \\S+)? wygasła', 'dom[äa]nen(?: \\S+)? har (?:gått ut|löpt ut|upphört)', 'domænet(?: \\S+)? er udløbet', 'domenet(?: \\S+)? (?:er|har) utløpt', 'verkkotunnus(?: \\S+)? on vanhentunut',
      'doména(?: \\S+)? (?:expirovala|vypršela)', 'срок (?:регистрации|действия) домена(?: \\S+)? (?:истек|истёк)', 'alan adının süresi (?:doldu|dolmuş)', 'ドメイン(?:の有効期限|は期限)', '域名已(?:过期|到期)', '도메인(?:이|의)? ?(?:만료|기간)',
    ],
    likely: [],
  },
  {
    kind: 'suspended',
    sure: [
      '(?:this |the |your )?(?:hosting )?(?:account|web ?site|site|domain)(?: \\S+)? (?:has been|is|was) (?:temporarily |currently )?(?:suspended|disabled|deactivated|blocked by)', 'account (?:has been )?suspended', 'suspended (?:page|domain|website)', 'contact your (?:hosting|web) ?(?:host|provider|hosting provider)',
      '(?:konto|account|website|webseite|webpaket|präsenz|domain)(?: \\S+)? (?:wurde|ist)(?: \\S+){0,2} (?:gesperrt|deaktiviert)', '(?:compte|site|hébergement)(?: \\S+)? (?:a été|est) (?:suspendu|désactivé)',
      '(?:cuenta|sitio|página|web)(?: \\S+)? (?:ha sido|está|fue) (?:suspendid|desactivad|bloquead)[ao]', 'cuenta suspendida', '(?:account|sito|hosting)(?: \\S+)? (?:è stato|è|e\') (?:sospes|disattivat)o', '(?:account|website|site|domein)(?: \\S+)? is (?:tijdelijk )?(?:opgeschort|geblokkeerd|gedeactiveerd|uitgeschakeld)',
      '(?:conta|site)(?: \\S+)? (?:foi|está) suspens[ao]', '(?:konto|strona)(?: \\S+)? zostało? ?(?:zawieszon|zablokowan)[aeoy]', 'kontot? (?:är|har blivit) (?:avstängt|spärrat)', 'kontoen er (?:suspenderet|spærret|sperret|suspendert)', 'účet (?:byl )?(?:pozastaven|zablokován)',
      '(?:аккаунт|сайт|хостинг)(?: \\S+)? (?:заблокирован|приостановлен|отключ[её]н)', 'hesap(?: \\S+)? askıya alın', 'アカウント(?:は|が)?(?:停止|凍結)', '(?:账户|帐户|账号|网站)已(?:被)?(?:暂停|停用|关闭)', '계정(?:이)? ?(?:정지|중지)',
    ],
    likely: ['suspended', 'gesperrt', 'suspendu', 'suspendida', 'sospeso', 'opgeschort'],
  },
  {
    kind: 'default',
    sure: [
      '(?:apache2?|nginx|iis|lighttpd|caddy|tomcat|litespeed|openresty)(?: \\S+){0,4} (?:default|test|welcome|placeholder) page', 'welcome to (?:nginx|iis|apache|caddy|openresty|lighttpd|centos|tomcat|plesk|cpanel)', '(?:default|test) page for (?:the )?(?:apache|nginx|\\S+ http)', 'test page for',
      'it works! ?(?:this is the default|$)', '^it works!?$', 'default (?:web|server|plesk|domain|web ?site|index) ?(?:page|site)', 'if you see this page, the (?:\\S+ )?web ?server is', 'this is the default (?:welcome|web|index|server)? ?page', 'web server(?: \\S+){0,3} is running(?: but| successfully)', 'no content has been added', 'has not (?:yet )?been (?:configured|published|set up)', 'future home of (?:something|a|the)', 'hosting (?:account|space) (?:has been|was) (?:created|set up|activated)', 'this (?:server|web ?site|site) is (?:not yet|being) configured',
      'standard(?:seite|website) (?:des|ihres|von)', 'hier entsteht (?:in kürze )?(?:eine?|unsere?|der|die) (?:neue )?(?:internetpräsenz|website|webseite|homepage|internetseite|internetauftritt|web)', 'diese (?:domain|website|webseite|internetpräsenz) (?:wurde|ist)(?: \\S+){0,3} (?:eingerichtet|registriert|reserviert)',
      'page par défaut', 'site (?:web )?en cours de (?:création|construction)', 'ce (?:site|domaine) (?:a été|vient d.être) (?:créé|enregistré|réservé)', 'página (?:web )?(?:por defecto|predeterminada)', 'pagina (?:predefinita|di default|di cortesia)', 'standaard ?pagina', 'deze (?:website|domeinnaam) is (?:gereserveerd|geregistreerd)', 'página padrão', 'domyślna strona', 'standardsida', 'výchozí stránka', 'тестовая страница', '默认(?:页面|首页)', 'デフォルトページ', '기본 페이지',
      'just another (?:wordpress|web) ?(?:site|blog)?.{0,40}hello world', 'hello world!? welcome to (?:your|wordpress)',
    ],
    likely: ['^hello,? world!?$', '^test(?: page)?$', '^index$', 'apache/\\d', 'nginx/\\d', 'lorem ipsum dolor'],
  },
  {
    kind: 'listing',
    sure: ['index of /', 'parent directory', 'directory listing (?:for|of|denied)', 'verzeichnis von /', 'index de /', 'indice di /', 'übergeordnetes verzeichnis', 'name last modified size'],
    likely: [],
  },
  {
    kind: 'script',
    sure: ['(?:this )?(?:page|site|website) uses frames', "browser (?:does not|doesn't) support (?:them|frames)", 'frames(?:et)? (?:werden|is|are) (?:nicht|niet|not) (?:unterstützt|ondersteund|supported)', 'you need to enable javascript to (?:run|use|view|see) this (?:app|application|site|page)', 'this (?:app|application|site|website|page) (?:requires|needs|works best with) javascript', 'please (?:enable|activate|turn on) javascript(?: in your browser)?(?: to (?:view|use|see|run|display|continue using)| and reload|\\.|!|$)', "doesn't work (?:properly )?without javascript", 'javascript (?:is|must be) (?:required|disabled|enabled)', 'bitte (?:aktivieren sie )?javascript(?: in ihrem browser)? ?(?:aktivieren)?', '(?:veuillez )?activ(?:er|ez) javascript', 'active javascript', 'habilit[ae] javascript', 'abilit(?:a|are) javascript', 'schakel javascript in', 'ative o javascript', 'włącz javascript', 'включите javascript', 'aktivera javascript'],
    likely: ['^loading\\.*…?$', '^please wait\\.*…?$', '^wird geladen\\.*…?$', '^chargement\\.*…?$', '^cargando\\.*…?$', '^caricamento\\.*…?$', '^laden\\.*…?$', '^загрузка\\.*…?$'],
  },
  {
    kind: 'challenge',
    sure: ['checking (?:your browser|if the site connection is secure|that you)', 'verify(?:ing)? (?:that )?you are (?:a |not a )?(?:human|person|robot)', 'unusual (?:traffic|requests)', '(?:java)?scripts? and cookies to continue', 'attention required', 'security check to access', 'access (?:to this (?:page|site|resource) (?:is|has been) )?(?:denied|forbidden|blocked)', '^403 forbidden', 'you (?:have been|are) blocked', 'just a moment', 'one moment, please', 'zugriff verweigert', 'accès (?:refusé|interdit)', 'acceso (?:denegado|prohibido)', 'accesso negato', 'toegang geweigerd', 'acesso negado', 'odmowa dostępu', 'доступ (?:запрещ[её]н|ограничен)', '访问被拒绝', 'アクセスが拒否'],
    likely: ['captcha', '(?:are|is|that) you (?:are )?(?:a |an )?(?:person|human|robot)', 'request (?:was )?blocked', 'not available in your (?:country|region)', 'accept (?:all )?cookies', 'before you continue'],
  },
  {
    kind: 'missing',
    sure: ['(?:error )?404[ :.,-]+(?:page |file |error |seite |page |página )?(?:was )?(?:not found|nicht gefunden|non trouvée|no encontrada|non trovata|niet gevonden)', '(?:page|file|site|object) (?:was |could |can |is )?(?:not|no longer) (?:be )?(?:found|exists?|available)', 'no such (?:page|site|file|domain|account)', '(?:500|502|503|504)[ :-]+(?:internal server error|bad gateway|service (?:temporarily )?unavailable|gateway time-?out)', '(?:error establishing a|unable to connect to the|cannot connect to|could not connect to(?: the)?) database', 'fatal error:', 'internal server error', 'bad gateway', 'service (?:temporarily )?unavailable', '(?:seite|datei) (?:wurde )?nicht gefunden', 'page (?:introuvable|non trouvée)', 'página no encontrada', 'pagina non trovata', 'pagina (?:is )?niet gevonden', 'página não encontrada', 'nie znaleziono strony', 'sidan (?:kunde inte hittas|hittades inte)', 'siden (?:blev ikke fundet|ble ikke funnet)', 'stránka nenalezena', 'страница не найдена', 'sayfa bulunamadı', 'ページが見つかりません', '页面(?:未找到|不存在)', '페이지를 찾을 수 없'],
    likely: ['^404', 'not found$', 'does not exist', 'nothing (?:was )?found here', 'server error', 'site not found', 'technical difficulties', 'temporarily (?:unavailable|down|offline)', '(?:down|closed|offline) for maintenance', 'wartungsarbeiten', 'en maintenance', 'en mantenimiento', 'in manutenzione', 'in onderhoud'],
  },
  {
    kind: 'parked',
    sure: [
      `(?:this |the )?(?:web ?page|${DOMAIN})(?: [\\w.-]+)? (?:is|has been) (?:currently )?parked`, 'parked (?:free|by|at|with|domain|page)', 'domain parking', `this ${DOMAIN} (?:is|has been|was) (?:recently |just )?(?:registered|reserved)(?: (?:by|with|at|for|through))`, 'related searches', 'sponsored (?:listings|results)', 'search ads',
      `(?:diese|die) ${NAME_DE}(?: \\S+){0,6} geparkt`, 'geparkte (?:domain|seite)', 'verwandte suchanfragen', 'gesponserte (?:links|ergebnisse)', `(?:ce|le) ${NAME_FR}(?: \\S+){0,5} (?:parqué|en parking|réservé|garé)`, 'page de parking', 'recherches (?:associées|apparentées)', 'liens (?:sponsorisés|commerciaux)',
      `(?:este|el) ${NAME_ES}(?: \\S+){0,5} est[áa] (?:aparcad|estacionad|reservad|parkead)[ao]`, '(?:página|dominio) (?:estacionad|aparcad)[ao]', 'búsquedas relacionadas', 'enlaces patrocinados', `(?:questo|il) ${NAME_IT}(?: \\S+){0,5} (?:parcheggiato|in parking|registrato da)`, 'dominio parcheggiato', 'ricerche correlate', '(?:link|collegamenti) sponsorizzati',
      `(?:deze|dit|de) ${NAME_NL}(?: \\S+){0,8} geparkeerd`, 'geparkeerd(?:e)? domein', 'gerelateerde zoekopdrachten', 'gesponsorde (?:links|vermeldingen)', `(?:este|o) ${NAME_PT}(?: [\\w.-]+)? est[áa] (?:estacionado|parqueado|reservado)`, 'pesquisas relacionadas', 'links patrocinados',
      'domena (?:\\S+ )?(?:jest )?zaparkowana', 'strona zaparkowana', 'dom[äa]nen är parkerad', 'parkerad dom[äa]n', 'domænet er parkeret', 'domenet er parkert', 'verkkotunnus on pysäköity', 'doména je (?:zaparkovan|registrovan|parkovan)', 'домен (?:\\S+ )?(?:припаркован|зарегистрирован)', 'alan adı park edilmiş', 'ドメイン(?:パーキング|は取得されています)', '域名停放', '파킹',
    ],
    likely: ['related links', 'sponsored links', 'under construction', 'coming soon', 'website coming', 'im aufbau', 'demnächst', 'en construction', 'bientôt', 'en construcción', 'próximamente', 'in costruzione', 'in allestimento', 'prossimamente', 'in aanbouw', 'binnenkort', 'em construção', 'em breve', 'w budowie', 'under uppbyggnad', 'under konstruktion', 've výstavbě', 'сайт (?:находится )?в разработке', 'yapım aşamasında', '準備中', '建设中', '준비 ?중', 'parked'],
  },
]; // biome-ignore format: a language a line

const compiled = PLATES.map(({ kind, sure, likely }) => ({
  kind,
  sure: anyOf(sure),
  likely: likely.length > 0 ? anyOf(likely) : null,
}));

/** Phrases of Latin, Greek and Cyrillic stand as words; other scripts do not part theirs. */
function anyOf(phrases: readonly string[]): RegExp {
  return new RegExp(`(?<![\\p{L}\\p{N}])(?:${phrases.join('|')})`, 'iu');
}

/** Up to so many words a page is a door plate, and its few words decide what it is. */
const SMALL_WORDS = 60;
/** What may stand in a few lines of content as well decides on pages of no more than so many words. */
const FEW_WORDS = 25;
const SCRIPT_WORDS = 30;
/** A larger page has to say it at once, and to be no more than this. */
const LARGER_WORDS = 260;
const AT_ONCE = 260;

/**
 * What a page says that it is, when that is not a site's own content.
 *
 * @returns what was found and the words that decided; null: it is content, or nothing tells.
 */
export function plateOf(title: string, text: string): { kind: PlateKind; words: string } | null {
  const whole = plain(`${title} ${text}`);
  const count = whole === '' ? 0 : whole.split(' ').length;
  if (count > LARGER_WORDS) return null;
  if (count > SMALL_WORDS) {
    const begin = whole.slice(0, AT_ONCE);
    for (const { kind, sure } of compiled) {
      const found = kind === 'parked' ? null : sure.exec(begin)?.[0];
      if (found) return { kind, words: found.trim() };
    }
    return null;
  }
  for (const { kind, sure } of compiled) {
    const found = kind === 'script' && count > SCRIPT_WORDS ? null : sure.exec(whole)?.[0];
    if (found) return { kind, words: found.trim() };
  }
  if (count > FEW_WORDS) return null;
  const parts = [plain(title), plain(text)];
  for (const { kind, likely } of compiled) {
    if (!likely) continue;
    const found = likely.exec(whole)?.[0] ?? parts.map((part) => likely.exec(part)?.[0]).find(Boolean);
    if (found) return { kind, words: found.trim() };
  }
  return null;
}

const plain = (text: string) => text.toLowerCase().replace(/[’`´]/g, "'").replace(/\s+/g, ' ').trim();
