## Where British English differs.

verdict-vapour = Tight, but vapour still comes off
reason-ice = Levels off near { $level }, the vapour pressure of ice at the coldest spot: ice is left.
compared-less-each-time = Rose { $then } then, { $now } now: less each time, as vapour does. A leak would not fall.
compared-same-each-time = Rose { $then } then, { $now } now: the same each time, as a leak does. Vapour would fall.
advice-stand-longer = Let it stand longer
    .why = It rises so little that a small leak and vapour dying out look alike. The longer, the surer.
advice-pull-water = Keep pumping
    .why = Water leaves only as vapour, and needs warmth and time.
also-warm-it = Warm the compressor and the coldest spot: vapour goes faster for it, a leak does not.
also-ballast-and-oil = Ballast open, fresh oil in the pump, the largest hose on the vapour side.
