/**
 * The subjects and words that tell them, written for this purpose: an area, then its subjects with words of texts about them. Words are
 * lower case, singular and plural alike count. A subject's first words are those people would search for.
 */
export const SUBJECT_TEXT = `
# Farming and countryside
beekeeping: Beekeeping = bee beekeeping beekeeper hive honey apiary swarm queen brood colony comb nectar pollen smoker varroa drone skep propolis wax mead forage super frame
livestock: Livestock = cattle sheep pig goat herd flock lamb calf ewe ram dairy milking shearing grazing fodder breed heifer barn pasture poultry hen
crops: Arable crops = wheat barley oats maize harvest plough sowing seed yield drill combine field tillage fertiliser rotation grain silo crop agronomy
fruit: Fruit growing = orchard apple pear plum cherry pruning graft rootstock cider blossom quince damson berry harvest espalier scion
forestry: Forestry = forest timber woodland felling coppice sawmill conifer oak spruce plantation logging sapling hedge firewood ranger
gardening: Gardening = garden gardening border perennial compost bulb rose shrub lawn greenhouse seedling mulch pruning allotment vegetable bed weeding
smallholding: Smallholding = smallholding smallholder acre chicken duck hens self-sufficient homestead preserve kitchen garden coop goat fence tractor
machinery: Farm machinery = tractor baler harvester trailer hydraulic implement plough mower loader diesel axle spreader workshop vintage implement
# Crafts and making
letterpress: Letterpress and printing = letterpress type printing press platen forme composing ink roller proof quoin galley chase sorts typeface compositor imprint woodcut broadside
bookbinding: Bookbinding and paper = bookbinding bindery paper binding leather spine signature sewing endpaper marbling folio vellum papermaking deckle
pottery: Pottery and glass = pottery clay kiln glaze wheel ceramic stoneware porcelain firing slip throwing earthenware glassblowing
weaving: Weaving and textiles = weaving loom yarn warp weft spinning fleece dyeing wool knitting tapestry quilt embroidery thread fabric
woodwork: Woodwork = woodwork woodworking joinery chisel lathe carving plane dovetail timber bench veneer cabinet turning spokeshave
metalwork: Metalwork = blacksmith forge anvil hammer welding iron steel casting foundry brass tongs ornamental wrought silversmith
jewellery: Jewellery = jewellery ring necklace silver gold bead gemstone pendant brooch setting enamel clasp carat goldsmith
models: Models and toys = model railway gauge locomotive scale kit diorama miniature toy dollhouse layout wagon painting figure
# Sky and science
astronomy: Astronomy = astronomy telescope star nebula galaxy planet comet meteor eyepiece constellation observatory eclipse aperture moon lunar cluster darksky dark skies stargazing
weather: Weather = weather forecast rainfall barometer temperature cloud storm wind station frost meteorology gauge climate humidity
geology: Geology and fossils = geology rock fossil mineral strata limestone quarry crystal volcano sediment ammonite granite outcrop
biology: Biology = biology cell gene species evolution dna microscope bacteria protein organism laboratory genome botany zoology
chemistry: Chemistry = chemistry molecule reaction acid compound solvent element catalyst polymer laboratory titration bond organic
physics: Physics = physics quantum particle energy relativity magnet wave optics laser gravity electron experiment theory
mathematics: Mathematics = mathematics algebra theorem geometry equation proof calculus number integral matrix topology puzzle statistics
nature: Wildlife and nature = wildlife bird birdwatching nest butterfly moth otter hedgehog habitat reserve meadow species wetland waxwing badger conservation owl
# Home and building
building: Building and renovation = building builder renovation brick roof plaster extension loft scaffold mortar insulation concrete contractor
interiors: Interiors = interior furniture curtain wallpaper sofa decor lamp cushion carpet paint colour scheme upholstery
plumbing: Plumbing and heating = plumber plumbing boiler radiator heating pipe leak valve tap stove chimney thermostat drain
electrics: Electrical work = electrician wiring socket fuse circuit switch cable lighting rewire voltage installation earthing
cleaning: Cleaning and upkeep = cleaning cleaner laundry carpet stain vacuum window gutter hygiene mop detergent pressure washing
property: Property = property estate agent rent letting landlord tenant house sale mortgage valuation flat lease conveyancing
security: Locks and security = locksmith lock alarm burglar cctv safe key door security guard camera deadbolt
pools: Pools and outdoors = pool swimming hot tub decking patio fence paving pergola barbecue terrace awning chlorine
# Food and drink
baking: Baking = bakery baking bread sourdough flour oven dough cake pastry yeast loaf biscuit scone icing
cooking: Cooking and recipes = recipe cooking kitchen soup sauce roast ingredient simmer chef spice garlic onion dish menu stew
restaurants: Restaurants and pubs = restaurant pub menu table booking chef dinner lunch inn tavern bistro waiter tasting
wine: Wine = wine vineyard grape vintage cellar bottle tasting merlot barrel sommelier winery cork tannin
beer: Beer and brewing = beer brewing brewery ale hops malt mash fermentation keg stout lager cask yeast taproom
coffee: Coffee and tea = coffee tea espresso bean roast brew grinder teapot barista leaf cup blend cafe kettle
preserves: Preserves and cheese = jam preserve marmalade chutney pickle jar cheese rennet curd jelly sugar pectin ladle smokehouse
nutrition: Nutrition and diet = nutrition diet vitamin protein calorie vegan vegetarian fibre weight meal supplement sugar healthy eating
# Health
medicine: Medicine = medicine doctor patient treatment clinic symptom diagnosis surgery hospital disease therapy prescription nurse
dentistry: Dentistry = dentist dental tooth teeth gum implant crown braces hygienist filling whitening orthodontic
mental: Mental health = anxiety depression counselling therapist mental stress mindfulness therapy wellbeing grief psychology support
fitness: Fitness = fitness gym workout exercise training muscle yoga pilates strength stretch coach cardio squat
alternative: Complementary care = acupuncture herbal massage homeopathy reiki aromatherapy osteopath remedy healing chiropractic essential oil
parenting: Parenting and birth = baby pregnancy birth midwife toddler breastfeeding nursery parent infant nappy antenatal mother
eldercare: Care of the elderly = care home elderly carer dementia residential ageing pension respite mobility stairlift nursing
pets: Pets and vets = pet dog cat vet puppy kitten veterinary grooming kennel collar vaccination breed training rabbit
# Sport
football: Football = football goal league striker midfield club pitch referee penalty cup fixture team goalkeeper
cricket: Cricket = cricket wicket bowler batsman innings over pavilion run stumps umpire batting bowling
cycling: Cycling = cycling bicycle bike cyclist saddle wheel gear peloton frame ride trail brake chain cycle tyre
running: Running and athletics = running marathon runner race track sprint athletics trail jog hurdles relay pace
watersports: Water sports = sailing boat rowing canoe kayak regatta surf dinghy paddle swimmer diving yacht oar
equestrian: Horses = horse riding equestrian pony saddle stable jump dressage bridle hoof rider paddock mare
golf: Golf = golf green tee club handicap fairway putter bunker caddie course swing birdie
martial: Combat sports = combat boxing karate judo martial wrestling fighter belt dojo sparring fencing punch kick
# Travel and outdoors
walking: Walking and hiking = walk walking footpath hiking trail ramble stile map hill boots rucksack route summit valley
camping: Camping = camping tent caravan campsite motorhome pitch awning stove sleeping bag campfire touring
hotels: Hotels and stays = hotel guest room bed breakfast booking lodge cottage holiday let suite reception stay
tours: Tours and sights = tour guide sightseeing excursion travel itinerary museum destination visitor attraction trip
flights: Flights and rail = flight airline airport ticket luggage train railway timetable station departure passenger
climbing: Climbing and mountains = climbing mountain rope crag boulder belay alpine summit glacier harness route ice axe
fishing: Fishing = fishing angling angler trout carp rod reel bait fly lure tackle river catch salmon
skiing: Winter sports = ski skiing snowboard slope piste snow lift avalanche chalet ice skating curling
# Arts
painting: Painting and drawing = painting painter watercolour canvas brush portrait landscape gallery easel pigment sketch drawing exhibition
photography: Photography = photography photographer camera lens exposure darkroom portrait shutter film print focus tripod
music: Music making = music musician orchestra violin piano guitar band concert composer melody rehearsal brass recording
choir: Choirs and singing = choir singing choral soprano alto tenor bass conductor hymn anthem rehearsal carol vocal
theatre: Theatre and dance = theatre play stage actor rehearsal drama pantomime audience ballet dance dancer choreography costume
film: Film and television = film cinema director screen movie actor script television documentary episode screening trailer
literature: Books and writing = book novel author poetry poem reader publisher chapter story fiction writing library manuscript
design: Design and typography = design designer typography graphic logo font layout poster illustration brand identity colour
# Community and society
villages: Village life = village parish hall committee fair council newsletter fete neighbour community hedge green market bench
clubs: Clubs and societies = club society member meeting committee annual subscription secretary membership minutes treasurer social
charity: Charity = charity donation volunteer fundraising appeal donor trustee cause foundation grant giving relief
religion: Faith = church prayer faith bible worship parish priest mosque temple sermon vicar congregation chapel
politics: Politics = election party vote policy parliament councillor campaign candidate minister government debate manifesto
history: Local history and archives = history archive archivist museum heritage manuscript medieval record castle census historian antiquity parish register
genealogy: Family history = genealogy ancestor family tree surname census baptism descendant lineage pedigree grandfather burial
environment: Environment = environment climate carbon recycling sustainability renewable pollution conservation biodiversity emission waste
# Education
schools: Schools = school pupil teacher classroom primary curriculum headteacher lesson homework term uniform playground
university: Universities = university degree student lecture research faculty campus thesis professor graduate undergraduate seminar
languages: Language learning = language grammar vocabulary spanish french german english translation speaking fluent verb pronunciation tutor
tutoring: Tutoring and exams = tutor exam revision grade test tuition mock paper syllabus coaching marks
training: Vocational training = apprenticeship course qualification certificate skills training diploma vocational instructor assessment
earlyyears: Early years = nursery kindergarten playgroup toddler preschool childminder toys play songs crayons storytime
libraries: Libraries = library librarian catalogue lending shelf reading loan reference borrower bookmobile periodicals
special: Special needs = autism dyslexia special needs disability inclusion sensory support learning difficulties aids sign braille
# Business and money
accounting: Accounting and tax = accountant accounting tax bookkeeping vat payroll audit invoice ledger return balance
banking: Banking and saving = bank savings account deposit interest credit union current branch cheque transfer
investing: Investing = investment share stock fund portfolio bond dividend market trading equity broker index
insurance: Insurance = insurance policy premium claim cover underwriter broker liability excess indemnity
loans: Loans and credit = loan payday credit debt borrow lender repayment apr instant cash advance consolidation bad credit
legal: Law = solicitor lawyer law court legal contract barrister litigation will probate claim judge divorce
marketing: Marketing = marketing advertising campaign brand seo customer email content audience conversion agency social
jobs: Jobs and recruiting = job recruitment career vacancy cv interview employer salary candidate hiring staffing
# Technology
software: Software = software program developer code open source release bug api download compiler repository version
webdesign: Web design and hosting = website web hosting wordpress html css domain server developer responsive theme page
hardware: Computers and repair = computer laptop repair memory processor disk keyboard monitor motherboard upgrade printer
phones: Phones = phone mobile smartphone tablet sim network app handset broadband signal charger
electronics: Electronics = electronics circuit resistor soldering microcontroller sensor transistor amplifier oscilloscope capacitor robot
radio: Amateur radio = radio amateur antenna transmitter frequency callsign morse receiver shortwave repeater band ham
security: Information security = encryption password malware firewall phishing vulnerability hacker privacy breach security patch
data: Data and research computing = data database analysis machine learning algorithm model statistics cloud dataset training
# Vehicles and transport
cars: Cars = car garage engine mot tyre exhaust dealer service vehicle clutch driver brake saloon hatchback
motorcycles: Motorcycles = motorcycle motorbike rider helmet engine scooter exhaust chopper sidecar throttle chain
classic: Classic cars = classic car restoration vintage concours carburettor chrome coachwork marque rally spares chassis
trucks: Freight and haulage = haulage lorry truck freight logistics pallet delivery courier warehouse removals transport
boats: Boats and canals = narrowboat canal lock mooring barge marina hull engine cruise chandlery towpath keel
aviation: Aviation = aircraft pilot glider aeroplane runway flying airfield cockpit helicopter propeller hangar airshow
railways: Railways = railway steam locomotive signal station track heritage line carriage engine tank viaduct guard
driving: Driving lessons = driving instructor lesson learner test licence theory parking manoeuvre pass motorway
# Shopping and style
fashion: Fashion = fashion dress clothing style shirt coat shoe collection designer wear trend tailor skirt
beauty: Beauty and hair = beauty salon hair makeup skin nail cosmetic stylist facial shampoo lipstick lash
gifts: Gifts and flowers = gift flower florist bouquet hamper card wrapping present basket wreath occasion
antiques: Antiques and collecting = antique auction collector coin stamp porcelain dealer valuation militaria clock restoration lot
toys: Toys and children's goods = toy doll puzzle teddy pram plush children playset rattle blocks
secondhand: Second-hand and markets = market stall bargain secondhand jumble flea trader vintage swap boot sale
weddings: Weddings = wedding bride groom venue dress bouquet ceremony invitation reception bridesmaid veil
deals: Deals and coupons = deal coupon discount offer voucher cheap save clearance promo code sale bargains
# Games and leisure
videogames: Video games = game gaming console player level quest multiplayer controller arcade pixel speedrun mod
boardgames: Board games and chess = chess board game pawn dice tournament opening checkmate bridge strategy puzzle backgammon
gambling: Gambling = casino poker slot slots bonus jackpot roulette betting bet blackjack spins wager sportsbook bingo gambling
lottery: Lotteries and prizes = lottery draw ticket prize winner numbers raffle scratch jackpot syndicate sweepstake
hobbies: Collecting and hobbies = hobby collector enthusiast kite magic juggling metal detecting puppetry swap meet conjuring
events: Festivals and events = festival event fireworks parade stage marquee carnival programme weekend lineup stalls
quizzes: Quizzes and humour = quiz trivia joke funny meme riddle humour cartoon comic laugh pub
astrology: Astrology and divination = horoscope astrology tarot zodiac psychic aries scorpio reading medium numerology spell
# Adult and risky
adult: Adult = porn xxx sex adult escort webcam nude erotic dating hookup fetish milf
pills: Pills and pharmacy spam = viagra cialis pills pharmacy tablets prescription cheap online generic dosage levitra tramadol
replicas: Replica goods = replica watch handbag designer fake luxury outlet cheap sneakers wholesale
essays: Essay mills = essay write writing assignment homework plagiarism cheap dissertation deadline order paper thesis help
crypto: Crypto schemes = crypto bitcoin token coin wallet blockchain trading profit exchange mining airdrop forex signal
downloads: Cracks and downloads = crack keygen serial torrent download free full version warez apk mod patch
getrich: Quick money = earn money online income passive fast system secret millionaire affiliate work home opportunity
parked: Names for sale = domain name sale parked buy offer premium registrar inquire owner listing expired
# News and places
localnews: Local news = news gazette reporter headline council local police traffic court editor story weekly
worldnews: World news = world president war economy minister summit crisis border trade sanctions correspondent
sportsnews: Sports news = match score transfer coach season fixture results league standings report win defeat
magazines: Magazines and blogs = blog magazine post article column editor diary feature issue essay opinion
maps: Maps and directories = map directory street postcode address listing route location business search nearby
government: Public services = council service permit tax licence planning housing waste benefit department form register
emergency: Emergency and rescue = rescue ambulance fire brigade lifeboat emergency volunteer crew first aid search callout
transportnews: Getting about = bus timetable traffic roadworks fare stop route tram ferry commuter park ride
# Media and internet
podcasts: Podcasts and talk = podcast episode host listener interview talk audio microphone subscribe series
stations: Radio and television stations = station broadcast presenter studio programme listener frequency airwaves show schedule
forums: Forums and communities = forum thread post reply moderator member discussion topic community board
chat: Meeting and chat = chat friends profile message meet single dating match groups online
video: Video and streaming = video stream channel clip subscriber upload player playlist watch live
newsletters: Newsletters and mailing lists = newsletter subscriber inbox issue digest mailing list archive weekly sign
ebooks: Digital reading = ebook reader download digital edition pdf epub library audio chapter
hosting: Servers and networks = hosting server uptime bandwidth datacentre router network cloud backup latency
# Study of people
psychology: Psychology = psychology behaviour cognition memory emotion personality experiment perception motivation mind
economics: Economics = economics market inflation demand supply wage growth policy trade economist
philosophy: Philosophy = philosophy ethics reason argument logic consciousness moral metaphysics truth philosopher
archaeology: Archaeology = archaeology excavation dig trench roman pottery bronze artefact barrow iron age settlement
geography: Geography = geography river region climate population landscape map erosion coast terrain
linguistics: Language and dialect = dialect linguistics word etymology accent grammar phonetics idiom speech tongue
anthropology: Folklore and customs = folklore custom legend myth tale tradition ritual song superstition maypole
sociology: Society and welfare = society welfare inequality class gender family poverty community survey social
# Industry
manufacturing: Manufacturing = factory manufacturing machine component assembly precision tooling mould plastic production cnc
engineering: Engineering = engineering engineer structural bridge turbine bearing pump design load stress hydraulic survey
energy: Energy = solar panel wind turbine battery electricity power grid generator renewable heat pump energy
chemicals: Chemicals and materials = chemical resin coating adhesive polymer supplier paint rubber silicone industrial powder
packaging: Packaging = packaging box carton label bottle pallet wrap pouch printing container film
mining: Mining and quarrying = mine quarry coal ore drilling extraction aggregate gravel shaft pit
textiles: Textile trade = textile fabric mill cotton wholesale garment yarn dyeing manufacturer apparel
foodtrade: Food trade = wholesale catering supplier ingredient frozen distributor export grocer abattoir cannery
`;
