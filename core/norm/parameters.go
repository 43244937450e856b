package norm

// The parameters of the judge, all in one place. What each does to precision and recall is
// measured in docs/judging.md.
const (
	// How much must be known.
	LookFrom = 5  // screens from which something is said of a thing
	FirmFrom = 14 // screens and pieces of a workspace from which it is more than worth a look

	// What a departure must be to be told.
	StrayFrom    = 0.45 // how likely a slip it is to be a stray
	leastShare   = 0.6  // a habit has at least this share of its leaf
	unlikeWords  = 0.4  // how likely other words are a slip where they may mean another thing
	ownTitle     = 0.5  // the same where the others say the screen's title
	strangeWords = 0.8  // the same for words of no known meaning
	optionalText = 0.5  // how likely a text that is left out is a slip: there may be nothing to say
	optionalPart = 0.4  // the same for a part that differs wherever it is
	saidState    = 0.4  // the same for a badge's tone that says a state where most say none, and an emphasis in texts
	saidDanger   = 0.3  // the same for what says of an action that it takes away, where its words leave that open
	saidPlain    = 0.3  // the same for a button that is said to send nothing, where the others do not say
	saidStep     = 0.4  // the same for a text of no other purpose in one of several steps that others have, too
	manyLooks    = 4    // a screen that shows so many values of a prop in one place tells things apart by it …
	sameLook     = 3    // … or one of them so often beside the others' …
	screenSays   = 0.3  // how likely a setting is a slip that the screen's own name or route says
	shortestSaid = 3    // letters of such a value
	variedScreen = 0.4  // … so that none of them is as likely a slip
	looseOrder   = 0.7  // the same for the order of parts of a page

	// Slips against two habits.
	leastSlips = 0.003 // what a workspace's rate of slips may be, at least …
	mostSlips  = 0.15  // … and at most
	usualSlips = 0.05  // the rate where nothing is known
	kindWeight = 30    // a kind's rate follows its own leaves so many times as much as all others
	slipSpread = 20.0  // how firmly a leaf's own rate of slips follows that of its kind
	lowSecond  = 0.15  // the smaller of two habits is shared by at least so many …
	highSecond = 0.5   // … and at most so many
	oneHabit   = 0.9   // how often a leaf has one habit and not two, beforehand …
	oneLeaves  = 10.0  // … counted as so many leaves of each kind
	oneSteps   = 4.0   // this is kept in steps of its log odds, so that it seldom moves …
	mostOne    = 0.95  // … and is at most so
	manyMinds  = 20.0  // log odds against one habit where no answer has half of the screens
	gridSteps  = 16    // shares of the smaller habit that are thought of

	// What is no slip because its surroundings do so, too.
	ownHabit     = 0.1  // how often a context has a habit of its own, beforehand …
	ownScreens   = 3.0  // … counted as so many contexts
	loneContext  = 3    // a context of one screen counts so many tenths of one of several
	ownAlone     = 0.25 // the same for what is seen on a single screen of its kind
	fewOfOwn     = 0.34 // … unless on that screen no more than such a share departs
	ownFormat    = 0.02 // the same for how a field of a known type is written …
	ownComponent = 0.12 // … and for what takes or shows it
	ownRate      = 20.0 // a leaf's rate of slips follows the workspace's as if that were so many screens
	ownCorner    = 0.05 // how often departures always in one corner of a screen are its habit …
	factsTried   = 10.0 // … so many facts being tried

	// Questions.
	askBelow = 0.1  // two habits are asked about where the log odds of slips are below this
	TwoCover = 0.85 // the two sides cover at least this share …
	Both     = 0.25 // … and at most this share of the smaller side's screens stands on both

	// Moving from one answer to another.
	movingFrom = 8   // screens of known age from which time is looked at
	movedShare = 0.8 // before a day at least so many give the one answer, and from then on the other
	movedOdds  = 3.0 // log odds that it is so, the days tried and the second share counted in

	// Contexts.
	deepest      = 5   // facts in a path
	sideScreens  = 3   // screens on each side of a split, and of a question
	growFrom     = 6   // screens from which contexts are looked for
	firm         = 0.8 // a branch with a habit this firm is split only for good reason
	sampled      = 400 // screens that contexts are looked for in, those with the lowest hashes
	mostMinds    = 24  // values told apart when contexts are looked for
	sampledParts = 40  // screens that a part is looked at on

	// The mixes of spots, which help in choosing while a screen is made.
	Share    = 0.8  // a norm's value must be more common than this …
	Sure     = 0.95 // … with this probability
	Kappa    = 1.0  // weight of the more general spot's mix, in screens
	LeanFrom = 5    // screens from which a spot leans; fewer are only counted
	NormFrom = 13   // screens from which a norm may hold
	steps    = 32   // a prior is rounded to this part
)
