import { fixed, tenths as number } from '../formats/figures';
import { ANCHOR_KINDS, type AnchorKind } from '../links/anchor-kind-names';
import { SPAM_FROM } from '../spam/threshold';
import { statusName } from '../wording/status';
import { type FoundPages, foundCount, isPageQuestion, type PageQuestion } from './page-questions';

/** How a point of the list stands. */
export const DILIGENCE_STATES = ['fine', 'look', 'bad', 'open'] as const;
export type DiligenceState = (typeof DILIGENCE_STATES)[number];

/** What a careful buyer makes sure of, in the order of what it costs to be wrong. Those by hand nobody but the buyer can answer. */
export const DILIGENCE_ITEMS = {
  available: { question: 'Can it be had, asked down to the registrar?', byHand: false },
  record: { question: 'Since when has it been registered, and by one owner?', byHand: false },
  marks: { question: 'Is a trademark like it, and would it be in conflict?', byHand: false },
  past: { question: 'What was there, and for how long?', byHand: false },
  continuity: { question: 'Was it one site with one subject and language?', byHand: false },
  referrers: { question: 'How many of its referring domains count?', byHand: false },
  standing: { question: 'Are the links still there?', byHand: false },
  network: { question: 'Do its links come from one owner?', byHand: false },
  anchors: { question: 'With which words is it linked?', byHand: false },
  forwarding: { question: 'Is its strength its own?', byHand: false },
  spam: { question: 'Is it spam, by the rules or your mark?', byHand: false },
  read: { question: 'Did you read its captures yourself?', byHand: true },
  searched: { question: 'Does a search still show pages of it?', byHand: false },
  listed: { question: 'Do directories list it?', byHand: false },
  mentioned: { question: 'Do others mention it?', byHand: false },
  claims: { question: 'Is anybody else likely to claim it?', byHand: true },
  costs: { question: 'What will it cost to keep, renewal included?', byHand: true },
} as const;
export type DiligenceItem = keyof typeof DILIGENCE_ITEMS;
export const DILIGENCE_KEYS = Object.keys(DILIGENCE_ITEMS) as DiligenceItem[];

/** A point as it was answered by hand; the last that was not taken back counts. */
export interface Tick {
  item: DiligenceItem;
  at: number;
  state: Exclude<DiligenceState, 'open'>;
  note: string;
  /** Who answered it. */
  who: string;
}

export interface DiligencePoint {
  item: DiligenceItem;
  question: string;
  state: DiligenceState;
  /** What is known, or what would tell. */
  answer: string;
  /** When that was found out, ms since 1970 UTC; null: not yet, or nobody says. */
  at: number | null;
  /** Who says so. */
  by: 'found' | 'you' | null;
  /** Who answered it by hand; null: nobody did. */
  who: string | null;
  /** What was found, where the person overruled it. */
  found: { state: DiligenceState; answer: string; at: number | null } | null;
  /** Of a question that pages answer: who can be asked, where a person opens it, and the pages that were named. */
  asking: { who: string | null; link: string | null; pages: FoundPages['pages'] } | null;
}

/** What is known, as far as the list asks for it; null: not known. */
export interface DiligenceFacts {
  now: number;
  phase: string;
  phaseAt: number | null;
  /** Whether a registrar answered, as the last of those that were asked. */
  registrarSaid: string | null;
  recordAt: number | null;
  registeredAt: number | null;
  drops: number | null;
  capturesAt: number | null;
  contentYears: number | null;
  drift: number | null;
  languageSwitches: number | null;
  subjectSwitches: number | null;
  effective: number | null;
  referringDomains: number | null;
  linksAt: number | null;
  referrersAt: number | null;
  /** Referrers that were looked at again, and those of them whose links are gone. */
  looked: number;
  gone: number;
  networkSites: number;
  /** Domains by kind of anchor. */
  anchors: Partial<Record<AnchorKind, number>>;
  forwardsTo: string | null;
  frontAt: number | null;
  spamRisk: number | null;
  spamAt: number | null;
  judged: string | null;
  judgedAt: number | null;
  wordMarks: number | null;
  marksAt: number | null;
  markVerdict: 'clear' | 'conflict' | 'unsure' | null;
  markVerdictAt: number | null;
  /** What services said of the questions that pages answer. */
  foundPages: Partial<Record<PageQuestion, FoundPages>>;
}

/** Who can be asked the questions that pages answer, and where a person opens them. */
export type Asking = (item: PageQuestion) => { who: string | null; link: string | null };
const NOBODY: Asking = () => ({ who: null, link: null });

type Found = { state: DiligenceState; answer: string; at: number | null };
const DAY = 86_400_000;
/** A verdict on whether it can be had is older news after this. */
const FRESH_MS = DAY;
const open = (answer: string): Found => ({ state: 'open', answer, at: null });
const times = (value: number, one: string, many = `${one}s`) => `${number(value)} ${value === 1 ? one : many}`;

/** The list filled in from what is known, with what the person ticked over it. */
export function diligenceOf(
  facts: DiligenceFacts,
  ticks: readonly Tick[],
  askingOf: Asking = NOBODY,
): DiligencePoint[] {
  return DILIGENCE_KEYS.map((item) => {
    const { question } = DILIGENCE_ITEMS[item];
    const found = FINDERS[item]?.(facts) ?? open('only you can tell');
    const tick = ticks
      .filter((one) => one.item === item)
      .reduce<Tick | null>((last, one) => (last === null || one.at >= last.at ? one : last), null);
    const asking = isPageQuestion(item) ? { ...askingOf(item), pages: facts.foundPages[item]?.pages ?? [] } : null;
    if (tick === null)
      return { item, question, asking, ...found, by: found.state === 'open' ? null : 'found', who: null, found: null };
    return {
      item,
      question,
      asking,
      state: tick.state,
      answer: tick.note || TICK_WORDS[tick.state],
      at: tick.at,
      by: 'you',
      who: tick.who,
      found: FINDERS[item] ? found : null,
    };
  });
}

const TICK_WORDS: Record<Tick['state'], string> = {
  fine: 'looked at, fine',
  look: 'looked at, in doubt',
  bad: 'looked at, speaks against it',
};

const FINDERS: Partial<Record<DiligenceItem, (facts: DiligenceFacts) => Found>> = {
  available({ phase, phaseAt, registrarSaid, now }) {
    if (phaseAt === null || phase === 'unknown') return open('nobody was asked yet');
    const isOld = now - phaseAt > FRESH_MS;
    if (phase === 'free') {
      if (registrarSaid === null)
        return { state: 'look', answer: 'available by registration data; no registrar was asked', at: phaseAt };
      return {
        state: isOld ? 'look' : 'fine',
        answer: `available, ${registrarSaid}${isOld ? '; ask again' : ''}`,
        at: phaseAt,
      };
    }
    if (phase === 'not-registrable' || phase === 'active')
      return { state: 'bad', answer: phase === 'active' ? 'registered' : 'cannot be registered', at: phaseAt };
    return { state: 'look', answer: `not yet: ${statusName(phase)}`, at: phaseAt };
  },
  record({ recordAt, registeredAt, drops, phase, phaseAt }) {
    if (phase === 'free' && registeredAt === null)
      return { state: 'look', answer: 'no registration: it is available', at: phaseAt };
    if (recordAt === null && registeredAt === null) return open('the registry has not answered with a record');
    const since = registeredAt === null ? 'date unknown' : `since ${new Date(registeredAt).toISOString().slice(0, 10)}`;
    if (drops === null) return { state: 'look', answer: `${since}; earlier owners are not looked for`, at: recordAt };
    return drops === 0
      ? { state: 'fine', answer: `${since}, one owner as far as it shows`, at: recordAt }
      : { state: 'look', answer: `${since}; changed hands ${times(drops, 'time')}`, at: recordAt };
  },
  marks({ wordMarks, marksAt, markVerdict, markVerdictAt }) {
    if (markVerdict === 'clear') return { state: 'fine', answer: 'clear by your look', at: markVerdictAt };
    if (markVerdict === 'conflict') return { state: 'bad', answer: 'in conflict by your look', at: markVerdictAt };
    if (wordMarks === null) return open('no register was asked');
    if (wordMarks === 0) return { state: 'fine', answer: 'none is like it', at: marksAt };
    return { state: 'look', answer: `${times(wordMarks, 'mark is', 'marks are')} like it; look at them`, at: marksAt };
  },
  past({ capturesAt, contentYears }) {
    if (contentYears === null) return open('its captures are not read');
    if (contentYears < 1)
      return {
        state: 'bad',
        answer: contentYears === 0 ? 'no content was captured' : 'less than a year of content',
        at: capturesAt,
      };
    return {
      state: contentYears >= 3 ? 'fine' : 'look',
      answer: `${number(contentYears)} years with content`,
      at: capturesAt,
    };
  },
  continuity({ drift, languageSwitches, subjectSwitches, capturesAt }) {
    if (drift === null) return open('its captures are not read, or show no content');
    const changes = [
      ...(subjectSwitches ? [`changed its subject ${times(subjectSwitches, 'time')}`] : []),
      ...(languageSwitches ? [`changed its language ${times(languageSwitches, 'time')}`] : []),
      `topic change ${fixed(drift, 2)}`,
    ];
    const isSame = drift < 0.4 && !languageSwitches;
    return {
      state: isSame ? 'fine' : drift > 0.75 || languageSwitches ? 'bad' : 'look',
      answer: changes.join('; '),
      at: capturesAt,
    };
  },
  referrers({ effective, referringDomains, linksAt }) {
    if (referringDomains === null) return open('no link to it is known');
    if (effective === null)
      return { state: 'look', answer: `${times(referringDomains, 'domain')}, not weighed yet`, at: linksAt };
    const share = referringDomains === 0 ? 0 : effective / referringDomains;
    const answer = `${number(effective)} of ${number(referringDomains)} count`;
    return { state: effective < 1 ? 'bad' : share >= 0.5 ? 'fine' : 'look', answer, at: linksAt };
  },
  standing({ looked, gone, referrersAt }) {
    if (referrersAt === null) return open('linking pages are not looked at again');
    if (looked === 0) return { state: 'look', answer: 'no linking page could be looked at', at: referrersAt };
    const share = gone / looked;
    return {
      state: share <= 0.2 ? 'fine' : share >= 0.7 ? 'bad' : 'look',
      answer:
        gone === 0
          ? `all ${number(looked)} that were looked at stand`
          : `${number(gone)} of ${number(looked)} that were looked at are gone`,
      at: referrersAt,
    };
  },
  network({ networkSites, referringDomains, referrersAt }) {
    if (referrersAt === null) return open('who runs its referring domains is not looked at');
    if (networkSites < 3) return { state: 'fine', answer: 'no owner stands out', at: referrersAt };
    const share = networkSites / Math.max(1, referringDomains ?? networkSites);
    return {
      state: share >= 0.5 ? 'bad' : 'look',
      answer: `${number(networkSites)} referring domains are one owner's`,
      at: referrersAt,
    };
  },
  anchors({ anchors, linksAt }) {
    const all = ANCHOR_KINDS.reduce((sum, kind) => sum + (anchors[kind] ?? 0), 0);
    if (all === 0) return open('no words of links are known');
    const ill = (anchors.money ?? 0) + (anchors['other-script'] ?? 0);
    const share = ill / all;
    return {
      state: share < 0.05 ? 'fine' : share > 0.3 ? 'bad' : 'look',
      answer:
        ill === 0 ? 'none sells, none in another script' : `${Math.round(100 * share)}% sell, or are in another script`,
      at: linksAt,
    };
  },
  searched: byPages('searched', (many) => `${many} of it still shown`, 'none of its pages is shown any more'),
  listed: byPages('listed', (many) => `listed on ${many}`, 'listed nowhere'),
  mentioned: byPages('mentioned', (many) => `mentioned on ${many} of others`, 'mentioned nowhere'),
  forwarding({ forwardsTo, frontAt, capturesAt }) {
    if (forwardsTo !== null) return { state: 'bad', answer: `forwards to ${forwardsTo}`, at: frontAt ?? capturesAt };
    if (frontAt === null) return open('its front page was not asked');
    return { state: 'fine', answer: 'it forwards nowhere', at: frontAt };
  },
  spam({ judged, judgedAt, spamRisk, spamAt }) {
    if (judged === 'spam') return { state: 'bad', answer: 'spam by your mark', at: judgedAt };
    if (judged === 'clean') return { state: 'fine', answer: 'sound by your mark', at: judgedAt };
    if (spamRisk === null) return open('too little is known for the rules');
    return {
      state: spamRisk >= SPAM_FROM ? 'bad' : spamRisk >= SPAM_FROM / 2 ? 'look' : 'fine',
      answer: `risk ${spamRisk} of 100; from ${SPAM_FROM} on it is called spam`,
      at: spamAt,
    };
  },
};

/** What pages that a service named say; that there is none is a reason to look, and none against a domain. */
function byPages(item: PageQuestion, some: (many: string) => string, none: string): (facts: DiligenceFacts) => Found {
  return ({ foundPages }) => {
    const found = foundPages[item];
    if (!found) return open('nobody was asked');
    const many = foundCount(found);
    const said = many === 0 ? none : some(times(many, 'page'));
    return { state: many === 0 ? 'look' : 'fine', answer: `${said}, says ${found.who}`, at: found.at };
  };
}

/** How far the list is: points that are answered, and those that speak against. */
export function diligenceTally(points: readonly DiligencePoint[]): {
  all: number;
  answered: number;
  look: number;
  bad: number;
} {
  const many = (state: DiligenceState) => points.filter((point) => point.state === state).length;
  return { all: points.length, answered: points.length - many('open'), look: many('look'), bad: many('bad') };
}
