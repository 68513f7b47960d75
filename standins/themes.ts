import { hash, type Random } from './random';

/** What a made-up site is about, and how its pages talk. */
export interface Theme {
  /** Subject it belongs to, as `area.subject`. */
  subject: string;
  nouns: string[];
  verbs: string[];
}

const THEME_TEXT = `
farming.beekeeping | hives frames foundation colony queens drones nuc supers smoker veil brood nectar forage heather propolis varroa mites honey extractor apiary swarms skeps candles mead | inspect requeen feed extract requeened overwinter
crafts.letterpress | type cases formes chases quoins platens rollers ink gauge sorts galleys composing sticks leading proofs woodcuts imprint broadsides presses treadle typefaces | compose lock ink print impose distribute
sky.astronomy | telescopes eyepieces refractor clusters nebulae planets meteors comets aperture mount declination eclipse moon galaxies seeing observatory constellations charts magnitude dark skies | observe align track sketch stargaze
community.villages | parish hall fete council footpaths bench newsletter hedges bus shelter green committee jubilee raffle clerk neighbours verge allotments playground minutes | meet repair organise vote
farming.gardening | borders perennials bulbs compost seedlings cuttings roses slugs beds mulch lawns greenhouse dahlias allotment trowel hedges shrubs | sow prune divide dig weed plant
farming.fruit | orchards rootstocks scions apples pears damsons quinces blossom grafting canker espaliers cider press plums thinning bullfinches | graft prune harvest thin store
crafts.pottery | clay glazes kilns slip wheel cones bisque stoneware teapots mugs wedging porcelain raku shelves ash celadon | throw fire glaze turn wedge
crafts.weaving | looms warps heddles shuttles wefts fleece spindles dyes indigo skeins treadles twill tapestry yarn felting | weave spin dye card
crafts.woodwork | chisels dovetails mallets planes lathe bowls tenons oak ash bench vice veneers spokeshave shavings joints | plane turn carve sharpen glue
sky.nature | birds nests otters hedgehogs moths butterflies ringing hides waders warblers wetland meadow badgers reserve swifts orchids | watch count record survey
sky.geology | fossils ammonites strata limestone quarries crystals basalt trilobites hammers outcrops minerals geodes sediments shale | collect map polish split
home.building | roofs slates plaster bricks mortar lofts scaffolding extensions lintels damp joists insulation render guttering builders | rebuild plaster point lay quote
home.plumbing | boilers radiators pipes leaks valves cisterns taps thermostats drains immersion plumbers washers flux stopcock | fit bleed drain service
home.property | tenants landlords lettings leases flats viewings valuations mortgages deposits surveys estate agents rents freehold | let sell value buy
food.baking | loaves sourdough flour dough ovens starters crusts rolls scones buns yeast rye pastry crumb bakery | knead prove bake shape
food.cooking | recipes soups stews sauces garlic onions roasts simmering herbs pans stock dumplings ingredients suppers | simmer chop stir season
food.beer | hops malt mash casks ales stout fermenter brewery pints bitters yeast wort sparging taproom porter | brew mash ferment tap
food.wine | vines grapes vintages cellars corks tastings tannins barrels vineyard whites reds terroir decanters bottles | taste press age pour
health.dentistry | teeth crowns implants gums braces fillings hygienists dentures veneers molars dentists whitening plaque | clean fill straighten examine
health.fitness | gym weights squats circuits stretches yoga trainers treadmill classes muscles cardio planks kettlebells | train lift stretch warm
health.pets | dogs cats puppies kennels vets vaccinations leads grooming kittens rabbits fleas obedience collars breeds | groom walk feed vaccinate
sport.football | strikers goals fixtures leagues midfield referees penalties pitches keepers corners cup ties clubs kits defenders | score defend kick substitute
sport.cricket | wickets innings overs bowlers batsmen pavilion scorers nets umpires stumps slips boundary tea crease | bat bowl field declare
sport.cycling | bikes saddles wheels gears chains hills tyres pedals peloton brakes audax helmets lanes punctures | ride climb pedal tour
sport.watersports | dinghies sails oars regattas kayaks moorings tides paddles hulls rowing buoys coxes slipway | sail row race capsize
travel.walking | paths stiles ridges rambles boots maps summits waymarks valleys routes gates rucksacks hikers fells | walk hike climb stroll
travel.camping | tents caravans pitches stoves awnings campsites pegs motorhomes campfires groundsheets sleeping bags | camp pitch tour cook
travel.hotels | rooms breakfast guests booking suites reception lodge stays cottages bedrooms bathrooms sheets tariff | stay book rest dine
travel.fishing | rods reels trout carp flies lures bait swims tackle anglers tench pike rivers casting | cast land net hook
arts.photography | lenses cameras exposures film prints tripods darkroom negatives shutters portraits focus filters bellows | expose develop print focus
arts.choir | sopranos altos tenors basses anthems carols hymns rehearsals conductor harmony choral concerts singers | sing rehearse perform chant
arts.theatre | plays actors scenes stage rehearsals costumes pantomime curtain props audience auditions scripts dancers | perform rehearse act direct
community.history | archives manuscripts records castles archivists tithe deeds excavations chronicles medieval museum censuses historians parchment | research transcribe catalogue date
community.charity | donations volunteers appeals trustees grants fundraising donors shelters relief collections foundation causes | donate raise give help
education.schools | pupils teachers classrooms lessons terms assemblies homework uniforms governors playground headteacher primary | teach learn read play
business.legal | solicitors contracts wills probate courts claims clauses barristers divorces conveyancing litigation judges | advise draft claim appeal
business.accounting | accounts invoices ledgers audits payroll returns vat receipts bookkeepers balances taxes accruals | audit file reconcile post
technology.software | code bugs releases compilers repositories programs functions developers versions patches libraries tests | compile release debug commit
technology.radio | antennas transmitters callsigns receivers bands morse repeaters aerials frequencies valves contacts shortwave amateurs | transmit tune receive log
vehicles.railways | locomotives steam signals carriages tracks stations boilers guards sidings viaducts engines heritage whistles | steam shunt restore run
vehicles.cars | garages engines brakes clutches exhausts tyres servicing gearboxes hatchbacks dealers batteries wipers | service drive replace tow
shopping.weddings | brides venues dresses bouquets vows guests ceremonies invitations cakes bridesmaids veils marquees | marry invite celebrate plan
games.boardgames | chess pawns openings bishops dice boards tournaments endgames checkmates clocks gambits knights | play castle mate win
games.gambling | casino slots jackpots roulette spins bonuses bets poker blackjack wagers odds tables payouts | bet win spin deposit
adult.pills | pills viagra cialis pharmacy tablets dosage prescriptions generics shipping orders discreet | order buy ship save
business.loans | loans payday credit lenders repayments debts advances borrowing cash approvals apr instant | borrow repay apply lend
adult.crypto | bitcoin tokens wallets blockchain coins exchanges mining airdrops signals profits trading | trade invest mine stake
adult.replicas | replica watches handbags designer outlets wholesale sneakers luxury fakes discount | order copy ship buy
`;

const GENERAL_NOUNS =
  'day year people time week place part way thing home group end season evening visitor member page list story question answer idea room friend number hour kind weekend morning photo notice address event help plan price book name road door hand letter note copy corner table week office'.split(
    ' ',
  );
const GENERAL_VERBS = 'see know find make take come think use give keep begin ask show write leave move'.split(' ');
const ADJECTIVES =
  'old new small good local long early late open free warm simple careful quiet first second many few whole other'.split(
    ' ',
  );
const OPENINGS = [
  'This season', 'Last year', 'On Sunday', 'As ever', 'For a start', 'In our experience', 'At the moment', 'Since the spring',
  'Every month', 'By request', 'In short', 'With some luck',
]; // biome-ignore format: a list

export const THEMES: readonly Theme[] = THEME_TEXT.trim()
  .split('\n')
  .map((line) => {
    const [subject, nouns, verbs] = line.split(' | ');
    return { subject, nouns: nouns.split(' '), verbs: verbs.split(' ') };
  });
const bySubject = new Map(THEMES.map((theme) => [theme.subject, theme]));

export function themeOf(subject: string): Theme {
  const theme = bySubject.get(subject);
  if (!theme) throw new Error(`no theme for ${subject}`);
  return theme;
}

/** Honest themes: what an owner might make a site of. */
export const HONEST_THEMES = THEMES.filter(({ subject }) => !/^(adult|games\.gambling|business\.loans)/.test(subject));
export const ABUSE_THEMES = THEMES.filter(({ subject }) => /^(adult|games\.gambling|business\.loans)/.test(subject));

/**
 * A text of sentences. Every third or so is about nothing in particular, and now and then one strays into another subject, as pages do.
 *
 * @param words at least so many.
 * @param stray share of sentences that are about something else.
 */
export function themeText(theme: Theme, random: Random, words: number, stray = 0.08): string {
  const sentences: string[] = [];
  let count = 0;
  while (count < words) {
    const about = random.chance(stray) ? random.pick(THEMES) : theme;
    const sentence = sentenceOf(about, random);
    count += sentence.split(' ').length;
    sentences.push(sentence);
  }
  return sentences.join(' ');
}

function sentenceOf(theme: Theme, random: Random): string {
  const plain = random.chance(0.3);
  const noun = () => (plain || random.chance(0.35) ? random.pick(GENERAL_NOUNS) : random.pick(theme.nouns));
  const verb = () => (plain || random.chance(0.6) ? random.pick(GENERAL_VERBS) : random.pick(theme.verbs));
  const opening = random.chance(0.4) ? `${random.pick(OPENINGS)} we` : 'We';
  const shape = random.whole(0, 3);
  const adjective = random.pick(ADJECTIVES);
  if (shape === 0)
    return `${opening} ${verb()} the ${noun()} and the ${adjective} ${noun()} of the ${noun()} before they ${verb()}.`;
  if (shape === 1)
    return `The ${adjective} ${noun()} from the ${noun()} will ${verb()} ${random.whole(2, 40)} ${noun()} for you.`;
  if (shape === 2)
    return `How do you ${verb()} a ${noun()} when the ${noun()} is ${adjective}? Ask about the ${noun()}.`;
  return `${opening} ${verb()} with ${noun()}, ${noun()} and ${adjective} ${noun()}; the ${noun()} can ${verb()} later.`;
}

/** Made-up pages in other languages, for sites that changed theirs. */
const FOREIGN: Record<string, string[]> = {
  de: [
    'Wir freuen uns über Ihren Besuch und zeigen Ihnen gern, was in diesem Jahr alles neu ist.',
    'Die Preise gelten bis zum Ende des Monats, danach werden sie nicht mehr angeboten.',
    'Unsere Mitarbeiter beraten Sie jederzeit und beantworten alle Fragen zu unseren Angeboten.',
    'Bitte beachten Sie, dass wir am Wochenende geschlossen haben und nur schriftlich zu erreichen sind.',
    'Viele Kunden haben uns schon geschrieben, wie zufrieden sie mit der schnellen Lieferung waren.',
  ],
  es: [
    'Nuestra tienda ofrece los mejores precios de la región y entrega en todo el país.',
    'Los clientes que compran este mes reciben un descuento especial en su próximo pedido.',
    'Para más información, escríbanos y le contestaremos lo antes posible con mucho gusto.',
    'Cada semana publicamos noticias nuevas sobre los productos que vendemos aquí.',
    'El equipo trabaja desde hace muchos años con la misma ilusión que el primer día.',
  ],
  ru: [
    'Мы предлагаем лучшие цены и быструю доставку по всей стране без лишних вопросов.',
    'Каждый новый игрок получает подарок сразу после регистрации на нашем сайте.',
    'Чтобы узнать больше, напишите нам, и мы ответим вам в течение одного дня.',
    'На этой странице собраны последние новости и самые выгодные предложения месяца.',
    'Наши посетители уже много лет доверяют нам и рассказывают о нас своим друзьям.',
  ],
};
export const FOREIGN_LANGUAGES = Object.keys(FOREIGN);

export function foreignText(language: string, random: Random, sentences: number): string {
  return Array.from({ length: sentences }, () => random.pick(FOREIGN[language])).join(' ');
}

/** Subjects that the world's own names talk of. */
const WORLD_THEMES: Record<string, string> = {
  bees: 'farming.beekeeping',
  press: 'crafts.letterpress',
  sky: 'sky.astronomy',
};
const VALE_THEMES = [
  'community.villages', 'farming.gardening', 'food.baking', 'arts.choir', 'sport.cycling', 'farming.fruit', 'community.history',
  'sky.nature', 'education.schools', 'crafts.pottery', 'arts.theatre', 'sport.cricket', 'crafts.weaving', 'travel.walking',
]; // biome-ignore format: a list

/** What a site of the world is about; of life in the vale, one of its many sides. */
export function worldTheme(subject: string, name: string): Theme {
  const known = WORLD_THEMES[subject];
  return themeOf(known ?? VALE_THEMES[hash(name) % VALE_THEMES.length]);
}
