## The plan: what limits, what to change, what comes next, the day.

limit-behind-check = { $count ->
    [one] { CAP($sections) } stands behind a check valve: pull from both sides of it.
   *[other] { CAP($sections) } stand behind check valves: pull from both sides of them.
}
limit-out-of-reach = The target of { $level } is out of reach of this rig within a day.
gauges-agree = { CAP($far) } and { $near } agree.
gauges-as-planned = { CAP($far) } stands { $apart } above { $near }: what the rig holds back between them, as planned ({ $planned }).
gauges-more = { CAP($far) } stands { $apart } above { $near }, against { $planned } by the plan. Something between them is tighter than the sheet says: a core left in, a kink, a valve not fully open.
gauges-less = { CAP($far) } stands only { $apart } above { $near }, against { $planned } by the plan. Something lets gas in near { $near }, or one of the gauges is off: compare them side by side.
gauges-ballast = The ballast is open: { $near } cannot go deeper, and shows little of what the rig holds back. Compare again once it is closed.
gauges-turned = { CAP($far) } stands { $apart } below { $near }, though gas flows toward { $near }. One of the gauges is off: compare them side by side.
gauges-rig-rises = { CAP($near) } rises faster ({ $rate }) than { $far } ({ $other }): hoses or manifold on its side leak or give off gas.
gauges-system-rises = { CAP($far) } rises faster ({ $other }) than { $near } ({ $rate }): it comes from the system.
gauges-even = { CAP($far) } and { $near } rise alike: they see the same space.
limit-reaches-none = The pump reaches no section: a closed valve, or a core that nothing pushes, is in the way.
limit-hangs = Whether this rig gets to { $level } within a day hangs on one thing: { $unknown }. To know it, { $measure }.
limit-inside = { $inside } of the { $level } stand inside the system's own lines and metering device: wait, or pull from both ends.
taker-pump = Pump and volume
    .about = A larger pump shortens this part only.
taker-rig = Hoses, tools and cores
    .about = Cores out, short and large hoses, no manifold.
taker-lines = The system's own lines
    .about = Pull from both ends, and open what stands between.
taker-rubber = Rubber and seals
    .about = Hoses made for vacuum, and used ones. Change the one that is bad.
taker-water = Water on walls, and free
    .about = Warm the coldest spot. Speed at the system counts, not the pump's plate.
taker-oil = Oil: water and refrigerant in it
    .about = Warm the crankcase for hours before. Stirred oil gives up in minutes what still oil gives up in hours.
limit-way = The way to the pump is the limit ({ $share }): most of it is the { $part }.
limit-pump = The pump is the limit ({ $share }); larger hoses would change little.
limit-both = Pump and hoses share the limit; the { $part } holds back most.
limit-gas = { CAP($part) } holds back most
limit-water = Water keeps coming off; { $part } holds back most
limit-hoses = The hoses keep letting air in; { $part } holds back most
limit-leak = The leak keeps letting air in; { $part } holds back most
feed-gas = gas that was in it
feed-water = water
feed-hoses = hoses
feed-leak = leak

change-pull-core = pull the core at the { $port }
change-pull-core-with-tool = pull the core at the { $port }, with a core tool
change-pull-cores = pull every core, with core tools
change-depressor = take the depressor out of { $part }
change-no-manifold = leave the manifold out
change-hoses = { $count ->
    [one] { $size } vacuum hose
   *[other] { $size } vacuum hoses
}
change-shorter = hoses of { $length }
change-kit-hose = { $item } as { $part }
change-second-hose = another hose, to the { $port }
change-kit-pump = { $item } instead
change-larger-pump = a { $pump }
change-oil = change the pump oil
change-larger-tools = core tools with a { $bore } bore

best-no-pump = No pump is listed in the kit.
best-list-kit = List the pumps, hoses, core tools and gauges on the Kit page.
best-none-fits = The kit has not the hoses, core tools or gauge for any setup on this system.
best-clean = { $setup }: { $time } to the target, and it can be held with no hose inside.
best-with-hoses = { $setup }: { $time } to the target, but hoses stay in the hold test.
best-no-gauge = There is no micron gauge in the kit.
best-few-tools = { $count ->
    [one] 1 core tool in the kit: with three, everything could be closed off.
   *[other] { $count } core tools in the kit: with three, everything could be closed off.
}
this-rig = This rig
rig-number = Rig { $number }

purchase-hoses-3-8 = 3/8 in vacuum hoses
purchase-hoses-1-2 = 1/2 in vacuum hoses
purchase-hoses-3-4 = 3/4 in vacuum hoses
purchase-shorter = shorter hoses
purchase-pull-cores = core tools for every port
purchase-larger-pump = the next larger pump
purchase-larger-tools = core tools with a 3/8 in bore

unknown-volume = Volume
    .measure = measure it: by the early draw, or by expansion from a known cylinder
unknown-water = Water in it
    .measure = weigh what drains, or read where it levels off while it boils
unknown-core = Cores
    .measure = pull the cores, or compare two gauges across one
unknown-bores = Bores of hoses, tools and fittings
    .measure = draw the rig alone to its floor, part by part
unknown-lines = The system's own lines and metering device
    .measure = pull from both ends, or put a second gauge at the far end
unknown-speed = The pump's speed
    .measure = time a draw of a known volume with it
unknown-oil = Refrigerant left in the compressor's oil
    .measure = warm the crankcase; a hold shows how fast it comes off
unknown-pump = The pump
    .measure = read the pump's blank-off, running
unknown-hose = The hoses
    .measure = prove the hoses alone: capped, isolated, timed
unknown-release = How fast water comes off
    .measure = warm the coldest spot; a hold check near the target shows how fast water comes off

breaks-none-gets-there = None of them gets to the target in half a day: warmth, fresh oil or a tighter system come first.
breaks-not-worth = A break takes little more water out: keep pumping.
breaks-enough = One more takes less than a fifth of the water that is left.
breaks-each-counts = Each break still takes a fifth or more of the water that is left.

## The next step, with its reason and its caution.

next-warm-up = Heat on: crankcase heater, blanket, warm room
    .why = Water is expected. Warm it leaves in hours, cold in days. The compressor's oil lets it go only warm.
    .caution = Warm air kept moving, never on one spot: it blisters paint. Never a flame. Nothing that could start the compressor.
next-start = Start the pump, ballast closed
    .why = { $opened ->
        [with-manifold] Open every core tool and every manifold valve.
       *[plain] Open every core tool.
    }
    .caution = Lock the power to the unit off: a compressor must never run in a vacuum.
next-start-with-ballast = Start the pump, ballast open
    .why = { $opened ->
        [with-manifold] Open every core tool and every manifold valve. The ballast keeps water from condensing in the oil while most of it comes over.
       *[plain] Open every core tool. The ballast keeps water from condensing in the oil while most of it comes over.
    }
    .caution = Lock the power to the unit off: a compressor must never run in a vacuum.
next-check-end = End the hold check, open again
    .why = A leak keeps rising straight; what only evens out or boils off bends. Then keep pumping.
    .caution = The pump has kept running: nothing comes back.
next-ballast-shut = Close the gas ballast
    .why = Under { $level } the ballast only keeps the pump from going deep.
    .caution = A ballast left open is the most common stall.
next-check-hold = Hold check: isolate at { $where } for two minutes
    .why = At { $level } a leak shows before an hour is spent on it. The pump keeps running.
    .caution = Leave the pump running.
next-oil-change = Change the pump's oil, warm
    .why = Water has gone through it. Under { $level } most of it is over.
    .caution = Close the system off first, then stop the pump. Dispose of used oil properly.
next-valve-flush = Open and close every ball valve once
    .why = It frees the gas caught around each ball.
    .caution = Slowly; the reading may jump for a moment.
next-break = Break { $number } of { $count }: nitrogen to 0 gauge
    .why = At { $level }. Dry nitrogen takes up vapor that is left, and carries heat in. The steps for this rig are under Nitrogen break.
    .caution = Close the pump off first. Only from a regulated bottle with a relief valve. Never air, never oxygen.
next-break-end = Close the nitrogen, pump again
    .why = A few minutes let it mix and warm what is cold. The pump takes it out again.
    .caution = At 0 gauge, not above: vent what is above the atmosphere first.
next-isolate = Isolate at { $where }
    .why = The gauge is at the { $level } to pull to. Isolate first, then stop the pump.
    .caution = If it is stopped first, the pump sends its air and oil into the system.
next-wait-dwell = Keep pulling: { $left } more under { $level }
    .why = { $standard } asks for it with the pump on before the hold may begin.
    .caution = Rising above it starts the time anew.
next-wait-far = Keep pulling: the far side is still above the target
    .why = The gauge is at { $level }, but the { $section } still stands near { $there } by the plan.
    .caution = Isolated now, it would rise by evening out alone.
next-wait-unexplained = Find out why before you isolate
    .why = The plan does not explain these readings: a section may be closed, or the gauge may not see the system.
    .caution = A hold test of less than the system proves nothing.
next-wait-stuck = Find out why it levels off
    .why = It stands at { $stands } and no longer falls; the { $level } to pull to is under that.
    .caution = More time does not mend a leak, a closed core or a tired pump.
next-vent-pump = Vent the pump side
    .why = The system is closed off. Air at the pump keeps its oil from creeping up the hose.
    .caution = Only at the pump: the valves at the system stay closed.
next-close-pump = Close the pump's own valve
    .why = The system is closed off. Behind its valve the pump lets nothing back.
    .caution = The valves at the system stay closed.
next-stop-pump = Stop the pump
    .why = The system is closed off from it, and nothing comes back.
    .caution = Only now: the valves at the system stay closed.
next-pump-off = Vent the pump side, then stop the pump
    .why = The system is closed off. Air at the pump keeps its oil from creeping up the hose.
    .caution = Only now: the valves at the system stay closed.
next-let-it-stand = Let it stand and read the hold test
    .why = { $standard }: { $rule }.
    .caution = Touch nothing. Sun on the unit lifts the reading a little.
next-read-hold = Read the hold test
    .why = { $standard }: { $rule }.
    .caution = Touch nothing. Sun on the unit lifts the reading a little.

## The day.

day-rig = Rig up, prove the rig
day-pump-on = { $ballast ->
    [open] Pump on, ballast open
   *[none] Pump on
}
day-start-pump = Start the pump
day-ballast-shut = Close the ballast
day-check-hold = Hold check at { $level }
day-valve-flush = Open and close every ball valve once
day-break = Nitrogen break { $number }
day-isolate = Isolate, then stop the pump
day-read-hold = Read the hold test, break the vacuum
clash-pump = { $pump } is needed on both
clash-hands = Two steps at once: “{ $one }” and “{ $two }”
calendar-summary = { $step } · { $job }
calendar-description = Expected between { $early } and { $late }. { $pump }. Computed ahead: look at the gauge.

## What is still missing at a stage.

missing-names = customer and unit
missing-scope = Scope comes first
missing-checks = { $count ->
    [one] 1 check open
   *[other] { $count } checks open
}
missing-pump = the pump has not been started
missing-readings = No reading was taken
missing-isolation = not isolated yet
missing-hold-time = { $time } to go
missing-draw = comes after the draw
missing-steps = { $count ->
    [one] 1 step to go
   *[other] { $count } steps to go
}
missing-signature = not signed
yard-verdict-and = { $verdict }; { $missing }
yard-signed = signed by { $by }
job-unnamed = Unnamed job
job-cannot-be-worked-out = This job cannot be worked out; the fault is in the log
proposed-from-the-van = the fastest on this system of what is in the van
proposed-usual-setup = the usual one: nothing in the van is listed that fits
