## The verdict on a hold test: headline, causes, odds, reasons.

verdict-tight-and-dry = Tight and dry
verdict-creeping = Nearly tight: it rises slowly
verdict-shallow = Tight, but not deep enough
verdict-leak = It leaks
verdict-moisture = Water is left
verdict-moisture-leak = Water is left, and it { $likely } leaks too ({ $odds })
verdict-leak-and-moisture = It leaks, and water is left
verdict-refrigerant = Refrigerant still comes out of the oil
verdict-vapour = Tight, but vapor still comes off
verdict-hose = Rises no more than its hoses let in
verdict-not-settled = Too early to call
verdict-needle-moved = Does not hold: the needle moved
verdict-unverified = Unverified: a needle cannot show this
verdict-invalid = This hold test cannot be judged

cause-tight-and-dry = tight and dry
cause-shallow = tight, not deep enough
cause-leak = leak
cause-moisture = water
cause-leak-and-moisture = leak and water
cause-refrigerant = refrigerant from the oil
cause-hose = hoses held with it

odds-almost-certain = almost certain
odds-very-likely = very likely
odds-likely = likely
odds-possible = possible
odds-unlikely = unlikely
odds-very-unlikely = very unlikely

reason-dies-out = Rises { $rate } and dies out at about { $level }, under the limit.
reason-levels-off = Levels off at { $level }, with no steady rise left.
reason-creeps = Rises { $rate } ({ $low } to { $high }); it is too early to say whether that dies out.
reason-leak-at-most = No more than { $rate } of it is a leak.
reason-shallow = Levels off at { $level }, above { $limit }: gas that was left in it, or a little water.
reason-leak = Rises steadily, { $rate } once it has settled.
reason-leak-and-moisture = A curved start from water, on a steady rise of { $rate }.
reason-refrigerant = Rises { $rate }, slower and slower, as refrigerant leaves the oil. A leak would not slow down.
reason-vapour = Still rises { $rate }, and bends: water or refrigerant, which look alike so far.
reason-hose = Rises { $rate }, no more than the hoses held with it let in.
reason-slow-water = Rises { $rate } and bends: water that oil or walls give up slowly.
reason-ice = Levels off near { $level }, the vapor pressure of ice at the coldest spot: ice is left.
reason-free-water = Levels off near { $level }, the boiling pressure of water at the coldest spot: liquid water is left.
reason-bound-water = Levels off near { $level }, above the limit but below the boiling pressure of water: water held in oil or walls.
reason-above-saturation = It went above { $level }, where water at the coldest spot stops: water alone cannot do that.
reason-none-hidden = A leak of { $rate } or more could not have hidden.
reason-water-later = Whether water is left too will show once it is tight.
reason-leaks-too = A leak too is { $likely } ({ $odds }), under { $rate }; it shows once the system is dry.
reason-leak-hidden = A leak under { $rate } would be hidden in it.
reason-leaks-water-unclear = It rises steadily, so it leaks. Whether water is left too is not clear yet.
reason-leak-or-refrigerant = It keeps rising: a leak, or refrigerant leaving the oil. A leak keeps its rate, refrigerant slows down.
reason-leak-or-water = Still rising: leak and water look alike until the curve has bent. Let it stand.
reason-flat-so-far = Flat so far, but a leak of up to { $rate } could still hide. Let it stand.
reason-not-settled = The curve does not show yet whether it levels off. Let it stand.

unfit-few-readings = Only { $count } readings in the hold test: at least 6 are needed.
unfit-short = The hold test is { $time } long: at least 60 s are needed to tell a rise from settling.
unfit-atmosphere = The pressure reached the atmosphere: a valve was opened, or a joint let go.
unfit-gauge-outside = The gauge is outside of what was closed off, so it does not read the system.
unfit-gauge-beyond-core = The gauge does not read the system: what the hoses on its side give off stands { $offset } above it, behind a core. Hold at core tools, with the gauge inside.
unfit-small = The isolated volume is { $volume }, too small to judge: the seat of any core tool shows hundreds of microns there.
unfit-needle-moved = The needle came up by { $rise } in { $time }: air gets in, or much liquid boils inside.
unfit-needle-once = The needle was read once only: read it at the start and at the end of the hold test. It can be off by { $level }.
unfit-needle = A needle can be off by { $level }: it cannot show a rise of less than that.

account-dry = levels off, { $level }
account-leak = steady, { $rate }
account-hose = the hoses, { $rate }
account-slow = water from oil, { $rate } now
account-refrigerant = from oil, { $rate } now
account-moisture = water, toward { $level }
account-leak-and-moisture = water, toward { $level }, and { $rate }

## Where a standard and the curve part.

parts-leak = Passes { $names }, but rises { $rate } without bending: it leaks.
parts-leak-and-water = Passes { $names }, but rises { $rate } beside the water, without bending: it leaks.
loss-empties = At working pressure such a leak would empty this system in about { $soon } to { $late }.
loss-charge-unknown = What it would do to the charge is not known: the nameplate weight is not on the sheet.
loss-seen-from = This hold test sees leaks from about { $leak }. Smaller ones need the pressure test and a leak detector.
parts-rises-to = Passes { $names } within the minutes asked for, but keeps rising: { $level } in an hour.
parts-rises-on = Passes { $names } within the minutes asked for, but keeps rising.
parts-too-early = { $count ->
    [one] { $names } would pass it by now; the curve itself does not say so yet.
   *[other] { $names } would all pass it by now; the curve itself does not say so yet.
}
parts-hoses = Passes { $names }, but with hoses in it this hold test cannot show a leak under { $rate }.
parts-fails = Tight and dry by its curve, but { $name } fails it: { $reason }.

compared-unjudged = One of the two cannot be judged.
compared-little-then = Rose { $then } then, { $now } now: little, both times.
compared-opened-since = Rose { $then } then, { $now } now: something has opened since.
compared-less-each-time = Rose { $then } then, { $now } now: less each time, as vapor does. A leak would not fall.
compared-same-each-time = Rose { $then } then, { $now } now: the same each time, as a leak does. Vapor would fall.
compared-little-less = Rose { $then } then, { $now } now: a little less. Another hold test would tell.

## What to do next.

advice-find-leak = Find the leak
    .why = It lets air in as long as it is there. No pumping makes it tight.
advice-leak-first = Find the leak
    .why = It lets the water in: the leak first, then dry it.
advice-warm-oil = Warm the oil, keep pumping
    .why = Refrigerant leaves oil by warmth: crankcase heater or a blanket, half an hour or more.
advice-stand-longer = Let it stand longer
    .why = It rises so little that a small leak and vapor dying out look alike. The longer, the surer.
advice-pull-on = Keep pumping
    .why = It is tight. What is left needs more time at the pump.
advice-micron-gauge = Put a micron gauge on it
    .why = A needle that stands still proves neither dry nor tight.
advice-let-it-stand = Let it stand
    .why = Leave it closed and touch nothing.
advice-hold-again = Hold again
    .why = { $reason }
advice-wait-for-standard = Wait for the standard's own minutes
    .why = Verdict is firm. { $standard }: { $reason }.
advice-deeper-or-deviate = Pump deeper, or charge anyway: recorded as a deviation
    .why = Tight and dry by its curve, but { $standard } fails it: { $reason }.
advice-release = Release
    .why = Close the gauge off first, then break the vacuum with refrigerant.
advice-thaw = Warm it, then keep pumping
    .why = Ice goes slowly: break with dry nitrogen, warm the coldest spot, pump again.
advice-pull-water = Keep pumping
    .why = Water leaves only as vapor, and needs warmth and time.
advice-without-hoses = Hold again without the hoses
    .why = This hold test cannot tell a small leak from its hoses. A core tool on each port leaves them out.
advice-without-rig = Hold again without the hoses
    .why = This hold test cannot tell a small leak from its hoses. Close them off, and hold gauge and system alone.

also-one-valve-after-another = Close one valve after the other: what no longer rises is on the other side.
also-nitrogen-and-soap = Dry nitrogen in through the regulator; soap on every joint, an electronic detector where soap does not get.
also-repair-and-retest = Repair, repeat the pressure test, then evacuate again.
also-hold-again = Hold again: refrigerant and water rise less each time, a leak rises as before.
also-detector-at-exhaust = An electronic detector at the pump's exhaust tells refrigerant from water.
also-warm-it = Warm the compressor and the coldest spot: vapor goes faster for it, a leak does not.
also-open-again = Open to the pump again; at the target leave the pump on for some minutes before the next hold test.
also-recorded-unverified = Going on anyway is recorded as unverified, with what it could have missed.
also-no-sun = Keep sun and warm-air guns off it: they move the level.
also-ballast-and-oil = Ballast open, fresh oil in the pump, the largest hose on the vapor side.
also-heat = Heat on the coldest spot and the compressor, kept moving. Never a flame.
also-triple = Three pulls with nitrogen in between if it stays: see Nitrogen breaks in the draw.
also-read-hoses-alone = Or read the hoses alone in the rig proof: then what they do is known.

leak-at-tool = { CAP($part) }: its ball, and the seal of its plunger
    .how = wipe it, seat its gaskets; change it, hold again
leak-at-gauge = The joint under { $part }
    .how = a drop of lubricant on its gasket, hand tight, hold again
leak-at-hose = { CAP($part) }: both ends, and the hose itself
    .how = hold again with it closed off at the core tool
leak-at-manifold = { CAP($part) }: stems, sight glass, blind ports
    .how = cap what is not used; hold again without it
leak-at-port = The { $port }: nothing is on it
    .how = soap on its core; cap it with its gasket
leak-at-valve = { CAP($link) }, { $a } to { $b }: stem, packing, cap
    .how = soap under nitrogen
leak-at-valve-kept = { CAP($link) }, { $a } to { $b }: stem, packing, cap
    .how = soap under nitrogen; its charge is behind it, so an electronic detector too
leak-at-link = { CAP($link) }, { $a } to { $b }: flares or brazed ends
    .how = soap under nitrogen
leak-at-section = { CAP($section) }: its joints and bends
    .how = soap under nitrogen; an electronic detector where soap does not get, with a trace of refrigerant in it

volume-typed = { $volume }, as typed
volume-estimated = About { $volume } ({ $low } to { $high }), estimated as { $system }
quick-unknown = { $value } is no { $field }: choose one of { $known }
