import { remember } from '../remember';
import { foldTerm } from '../topics/subject-table';

/** Anchors come again and again. */
const MOST_KEPT = 10_000;

/** What abused names sell. */
export const SELLING_KINDS = [
  'pills',
  'gambling',
  'loans',
  'adult',
  'replicas',
  'essays',
  'crypto',
  'downloads',
  'cheap-deals',
] as const;
export type SellingKind = (typeof SELLING_KINDS)[number];

/**
 * Words that sell, by what they sell, in many languages: lower case, marks of letters taken away. `alone` needs no other; of `together` it takes
 * two different ones, or one with a word of commerce. A trailing * stands for any ending.
 */
const WORDS: Record<SellingKind, { alone: string; together: string }> = {
  pills: {
    alone: `viagra* cialis* levitra sildenafil* tadalafil* vardenafil* kamagra tramadol* xanax alprazolam ambien zolpidem phentermine* adderall oxycodone
      hydrocodone oxycontin percocet modafinil provigil clomid nolvadex propecia finasteride accutane valium diazepam lorazepam klonopin carisoprodol
      fioricet lasix zithromax prednisone ivermectin ozempic semaglutide potenzmittel* abnehmpillen виагра* сиалис* дженерик* 伟哥 威而鋼 バイアグラ 비아그라 시알리스`,
    together: `pill pills pille pillen pilule pilules pildora pildoras pillola pillole tablets tabletten comprimes pastillas generic generika generique generico
      prescription rezept rezeptfrei ordonnance receta ricetta recept pharmacy pharmacie farmacia apotheke apotheek dosage erectile erektion erection potency steroids steroide
      antibiotic* painkiller* аптека таблетки препарат* 药 処方`,
  },
  gambling: {
    alone: `casino* kasino* poker* pokies slotomania roulette blackjack baccarat jackpot* sportsbook* bookmaker* sportwetten tragaperras tragamonedas gokkast*
      freispiele spielautomat* scommesse apuestas judi togel sbobet bandar* slot88 gacor* казино рулетк* ставки слоты букмекер* игровые 赌场 娱乐城 博彩 彩票 投注 百家乐
      老虎机 時時彩 时时彩 カジノ パチンコ スロット 카지노 토토 바카라 슬롯 슬롯사이트 пин-ап вулкан 1xbet`,
    together: `slot slots bet bets betting wager* odds bingo lotto lottery spins bonus bonuses bonos deposit gambling gamble* gluecksspiel glucksspiel wetten wedden gokken 
      cotes cuotas quoten quoteringen gratis giri gratuits tipster* высокие бонус* 送彩金`,
  },
  loans: {
    alone: `payday paydayloan* sofortkredit* minikredit* minilening* microcredito* microcredit* кредит* займ* микрозайм* 贷款 借款 キャッシング 대출 krediidid pozyczk* chwilowk* pujcka pujcky`,
    together: `loan loans lender* lending borrow* kredit kredite darlehen pret prets emprunt* prestamo* prestito prestiti lening leningen emprestimo* lån laan lainaa lainat
      debt debts schufa bkr ratenkredit cash advance apr instant guaranteed approval mortgage* remortgage* refinance bad credit unsecured schulden`,
  },
  adult: {
    alone: `porn* porno* xxx milf* escort* hentai* camgirl* webcams nudes erotik* erotic* sexe sexchat sexkontakte hookup* fetish* onlyfans prostitut* putas sexo bordell* порно*
      секс эскорт проститутк* 成人 色情 情色 アダルト エロ 야동 섹스`,
    together: `sex sexy adult adults nude nudes naked webcam cam cams dating singles hot girls girl lesbian gay shemale amateur videos toys swinger* massage`,
  },
  replicas: {
    alone: `replica* repliken replique* replicas 高仿 名牌 名表 复刻 正品 ブランドコピー スーパーコピー 레플리카`,
    together: `fake outlet imitation rolex* vuitton* gucci moncler* louboutin* jordans ugg uggs hermes prada birkin nike yeezy* pandora oakley* rayban* burberry* watches watch handbag* handbags bags sneakers jerseys designer luxury montres relojes orologi horloges uhren bolsos borse wholesale factory cheap 手表 包包 专卖 包邮`,
  },
  essays: {
    alone: `essaywriter* essaysite* ghostwriting hausarbeiten курсовая рефераты дипломная`,
    together: `essay essays dissertation* assignment* coursework thesis homework termpaper* paper papers writing write writer writers service services help buy custom plagiarism hausarbeit bachelorarbeit masterarbeit scriptie tesis tfg memoire`,
  },
  crypto: {
    alone: `bitcoin* crypto* kryptow* cryptocurrenc* airdrop* ethereum* dogecoin altcoin* forex binary-options defi nft nfts memecoin* биткоин* крипто* форекс 比特币 ビットコイン 비트코인`,
    together: `presale token tokens coin coins wallet blockchain trading trader signals robot mining staking exchange profit* invest* broker leverage usdt double`,
  },
  downloads: {
    alone: `keygen* warez crack cracks cracked nulled torrent* serialkey* activator repack* apk кряк скачать 破解 下载`,
    together: `download downloads free full version mod serial key activation unlocked mp3 stream streaming movies hd 1080p watch online`,
  },
  'cheap-deals': {
    alone: ``,
    together: `cheap cheapest discount* coupon* promo voucher* wholesale clearance outlet billig* guenstig gunstig pas cher barato* baratas economic* goedkoop* дешево распродажа скидк* купить 便宜 促销 特价 激安`,
  },
};

/** Words of commerce: with one of them, one word of `together` sells. */
const COMMERCE =
  /^(buy|buying|order|online|best|top|cheap\w*|free|deals?|offers?|price\w*|sale|shop|store|reviews?|sites?|kaufen|bestellen|gunstig\w*|billig\w*|beste\w*|acheter|achat|cher|ligne|meilleur\w*|comprar|barato\w*|mejor\w*|linea|acquistare|comprare|migliori?|kopen|goedkoop|apply|instant|fast|no|without|ohne|sans|sin|senza|zonder|get|win|real|money|2\d{3}|купить|цена|онлайн|лучш\w*)$/;

/** Words of reports, songs and help: who writes so speaks of a thing, and does not sell it. */
const REPORT =
  /^(refused?|rejected?|seized|fined|jailed|arrested|raids?|robbery|robbed|plans?|row|bans?|banned|protests?|wins|won|loses|lost|closes|closed|inquiry|scandal|history|song|film|novel|museum|exclusion|self-exclusion|addiction|awareness|victims?|warning|police|court|councillors?|mp|charity|anonymous)$/;

/** Turns of phrase that only look as if they sold something. */
const LOOK_ALIKE =
  /\b(photo(graph)?s? credit|image credit|credit(s)? to|bonus (track|episode|chapter|material|features?|disc|round|points)|(library|museum|book|inter-?library|equipment|tool|student) loans?|on loan|loan of|(blue|film|play|test|trial|penalty) slots?|time slots?|slot (car|machine museum|nuts?)|coin (collect\w*|club|fair|dealers?|auction)|coins? and medals|you bet|a good bet|bet(ting)? shop (history|museum)|credit union|poker (night|run|hand of the)|bingo (night|hall)|pharmacy (opening|hours|college|school|department|student|practice)|(village|community|local|town|chemist|hospital|duty) pharmacy|pharmacie de (garde|la)|apotheke (am|zum|zur)|farmacia (di turno|comunale|de guardia)|sex (education|discrimination|and relationships?|ed|equality)|adult (education|learning|learners?|literacy|social care|classes|choir|beginners|safeguarding)|single(s)? (malt|parents?|track|use|session|ladies|tennis)|cam(shaft| belt)?\b(?! girls?| sex| site)|(help|advice|support|trouble|problems?) (with|for|about|on|to stop) (payday |your |online )?(loans?|debts?|gambl\w+|betting|gamblers?)|(payday )?(loan|gambl\w+|betting) (help|advice|support|addiction|reform|charity)|debt (advice|charity|counsel\w*|help|relief|centre|support|line)|schuldner\w*|gambl\w+ (support|help|addiction|harm|anonymous|aware\w*|problem)|problem gambl\w+|responsible gambl\w+|essay (prize|competition|contest|collection|film|on|by|about)|personal essays?|photo essay|replica (railway|engine|ship|boat|aircraft|plane|car|armou?r|sword|village|museum)|full(-| )size replica|research papers?|white papers?|working papers?|conference papers?|paper (mill|craft|boat)|token (ring|economy)|access tokens?|data mining|coal mining|mining (museum|heritage|history|engineering)|exchange (rate|student|programme|visit)s?|stock exchange|(bus|rail|train|cheap) days? out|discount(s)? for members|free (download of the )?(manual|software|leaflet|guide))\b/giu;

interface Matcher {
  kind: SellingKind;
  alone: (word: string) => boolean;
  together: (word: string) => boolean;
}

const MATCHERS: readonly Matcher[] = SELLING_KINDS.map((kind) => ({
  kind,
  alone: matcherOf(WORDS[kind].alone),
  together: matcherOf(WORDS[kind].together),
}));
/** Scripts that do not part words: their words are looked for within. */
const UNPARTED = SELLING_KINDS.flatMap((kind) =>
  `${WORDS[kind].alone} ${WORDS[kind].together}`
    .split(/\s+/)
    .filter((word) => /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}\p{Script=Hangul}]/u.test(word))
    .map((word) => ({ word, kind })),
);

/** Words that sell alone, and beginnings of such, by their first letters: pages have many words. */
const START_LETTERS = 3;
const SURE = new Map<string, SellingKind[]>();
const SURE_STARTS = new Map<string, { start: string; kind: SellingKind }[]>();
for (const kind of SELLING_KINDS)
  for (const word of WORDS[kind].alone.split(/\s+/).filter(Boolean)) {
    const start = foldTerm(word.replace(/\*$/, ''));
    if (!word.endsWith('*')) SURE.set(start, [...(SURE.get(start) ?? []), kind]);
    else {
      const key = start.slice(0, START_LETTERS);
      SURE_STARTS.set(key, [...(SURE_STARTS.get(key) ?? []), { start, kind }]);
    }
  }

function matcherOf(list: string): (word: string) => boolean {
  const whole = new Set<string>();
  const starts: string[] = [];
  for (const word of list.split(/\s+/))
    if (word.endsWith('*')) starts.push(foldTerm(word.slice(0, -1)));
    else if (word !== '') whole.add(foldTerm(word));
  return (word) => whole.has(word) || starts.some((start) => word.startsWith(start));
}

/**
 * What the words of an anchor or a short text sell; null: nothing, or it only looks so.
 *
 * @param text in any language and script; at most the first 300 letters are looked at.
 */
export const sellingKind = remember(kindOf, MOST_KEPT);

function kindOf(text: string): SellingKind | null {
  const plain = text.slice(0, 300).toLowerCase().replace(LOOK_ALIKE, ' ');
  for (const { word, kind } of UNPARTED) if (plain.includes(word)) return kind;
  const words = (plain.match(/[\p{L}\p{N}][\p{L}\p{M}\p{N}'’-]*/gu) ?? []).map(foldTerm);
  if (words.length === 0) return null;
  if (words.some((word) => REPORT.test(word))) return null;
  const trades = words.some((word) => COMMERCE.test(word));
  let best: SellingKind | null = null;
  let most = 0;
  for (const { kind, alone, together } of MATCHERS) {
    let sure = 0;
    const parts = new Set<string>();
    for (const word of words) {
      if (alone(word)) sure++;
      else if (together(word)) parts.add(word);
    }
    const isTold = parts.size === 1 && trades && words.length <= MOST_ANCHOR && !OFTEN_MEANT_WELL.has(kind);
    const counts = isTold || parts.size >= (kind === 'downloads' ? 3 : 2);
    const score = 2 * sure + (counts ? parts.size : 0);
    if (score > most) [best, most] = [kind, score];
  }
  return best;
}
const MOST_ANCHOR = 7;
/** Kinds whose words honest sites use as well: a single one with a word of commerce is not enough. */
const OFTEN_MEANT_WELL: ReadonlySet<SellingKind> = new Set(['cheap-deals', 'downloads', 'essays', 'replicas']);

/** How many different words of a text sell, by kind: for pages, in which one such word says nothing. */
export function sellingWords(words: Iterable<string>): Map<SellingKind, Set<string>> {
  const found = new Map<SellingKind, Set<string>>();
  for (const word of words) {
    const folded = foldTerm(word.toLowerCase());
    const put = (kind: SellingKind) => found.set(kind, (found.get(kind) ?? new Set()).add(folded));
    for (const kind of SURE.get(folded) ?? []) put(kind);
    for (const { start, kind } of SURE_STARTS.get(folded.slice(0, START_LETTERS)) ?? [])
      if (folded.startsWith(start)) put(kind);
    if (/[^\x20-\u024f]/.test(folded)) for (const { word: part, kind } of UNPARTED) if (word.includes(part)) put(kind);
  }
  return found;
}

/** A phrase that people search for when they want to buy or hire, rather than the name of anything. */
export const isCommercial = remember(isSearchedFor, MOST_KEPT);

function isSearchedFor(anchor: string): boolean {
  if (sellingKind(anchor) !== null) return true;
  const plain = anchor.toLowerCase().replace(LOOK_ALIKE, ' ');
  const words = (plain.match(/[\p{L}\p{N}]+/gu) ?? []).map(foldTerm);
  return words.length >= 2 && words.some((word) => COMMERCE.test(word) || TRADES.test(word));
}

/** Whether words that sell are part of a name: beside them stands a word that neither sells nor belongs to commerce ("Casino Rats"). */
export function isBrand(name: string): boolean {
  const words = (name.toLowerCase().match(/[\p{L}\p{N}]{3,}/gu) ?? []).map(foldTerm);
  return words.some(
    (word) =>
      !LITTLE.has(word) &&
      !COMMERCE.test(word) &&
      !TRADES.test(word) &&
      !MATCHERS.some(({ alone, together }) => alone(word) || together(word)),
  );
}
const LITTLE: ReadonlySet<string> = new Set('the and for our your you with from www com org net example'.split(' '));

const TRADES =
  /^(hire|rental|rentals|services?|company|companies|specialists?|experts?|installers?|repairs?|near|supplies|supplier\w*|quotes?|insurance|removals?|plumbers?|electricians?|solicitors?|lawyers?|attorneys?|dentists?|locksmiths?|roofers?|builders?|seo|agency|miete\w*|mieten|vergleich|anbieter|location|devis|alquiler|presupuesto|noleggio|preventivo|huren|vergelijken|hotels?|flights?)$/;

/** Scripts that letters belong to, the commonest; null: none of these. */
export function scriptOf(text: string): string | null {
  let best: string | null = null;
  let most = 0;
  for (const [script, pattern] of SCRIPTS) {
    const count = text.match(pattern)?.length ?? 0;
    if (count > most) [best, most] = [script, count];
  }
  return best;
}

const SCRIPTS: readonly [string, RegExp][] = [
  ['Latin', /\p{Script=Latin}/gu],
  ['Cyrillic', /\p{Script=Cyrillic}/gu],
  ['Han', /[\p{Script=Han}\p{Script=Hiragana}\p{Script=Katakana}]/gu],
  ['Hangul', /\p{Script=Hangul}/gu],
  ['Arabic', /\p{Script=Arabic}/gu],
  ['Hebrew', /\p{Script=Hebrew}/gu],
  ['Greek', /\p{Script=Greek}/gu],
  ['Thai', /\p{Script=Thai}/gu],
  ['Devanagari', /\p{Script=Devanagari}/gu],
  ['Armenian', /\p{Script=Armenian}/gu],
  ['Georgian', /\p{Script=Georgian}/gu],
];
