## Lines of a debrief: what took points, and what gave some.

mark-lost = −{ NUMBER($points) }: { $what }
mark-nothing = Nothing to say: that is as it should be.
mark-not-looked-power = power not locked out and verified dead
mark-not-looked-pressure = { $zero } not seen before the rig went on
mark-left-second-feed = a leg was live all along: the lock-out was not proved on every feed
mark-left-pressure = test pressure was on it, and was never let down
mark-left-creeping = what creeps past a seat was never seen off
mark-charged-unsound = charged a system that was not sound
mark-hint = a hint
mark-named-wrong = named, and not so: { $causes }
mark-repaired-sound = sent to repair, and nothing leaked
mark-passed-unsound = passed, and it was not sound

mark-rig-given = You did not choose the rig on this job.
mark-rig-times = { $own } to the target with nothing wrong; with the best rig of the van { $best }
mark-rig-a = { $how ->
    [partly] Only partly: the system can be closed off from pump and hoses
   *[no] Not so: the system can be closed off from pump and hoses
}
mark-rig-b = { $how ->
    [partly] Only partly: the gauge sits on the system, away from the pump
   *[no] Not so: the gauge sits on the system, away from the pump
}
mark-rig-c = { $how ->
    [partly] Only partly: the gauge can be closed off before refrigerant comes
   *[no] Not so: the gauge can be closed off before refrigerant comes
}
mark-rig-d = { $how ->
    [partly] Only partly: every port without a core keeps a valve
   *[no] Not so: every port without a core keeps a valve
}

mark-never-isolated = Never isolated: there was no hold test to read.
mark-isolated-at = Isolated with { $worst } at the worst spot; the gauge read { $shown }
mark-isolated-unread = Isolated with { $worst } at the worst spot; no figure was read
mark-held = Held { $time } of the { $asked } that the standard asks
mark-no-hold = Released on a hold of { $time }, where { $asked } are asked: no pass without one. The whole is { $most } at the most.
mark-too-soon = Sent to repair { $time } after isolating: no rise means anything so soon. The whole is { $most } at the most.
mark-hasty = Isolated while it still fell, over the { $level } to pull to: what rises then tells nothing. The whole is { $most } at the most.
mark-finished-by-others = Sent to repair, where a sound hand mends it and finishes. The whole is { $most } at the most.
mark-acted-unread = Acted, and no verdict was called. The whole is { $most } at the most.
mark-acted-wrong = Acted on a verdict that was wrong. The whole is { $most } at the most.
mark-gave-up-read = Left for later on a hold that was read rightly, though a sound hand finishes it. The whole is { $most } at the most.
mark-gave-up = Left for later, though a sound hand finishes it. The whole is { $most } at the most.
mark-quickly-wrong = The verdict was wrong: what was quick saved nothing. { $most } at the most.
mark-ballast-left = The gas ballast stayed open to the end of the draw

mark-no-verdict = No verdict was called.
mark-right = Right: { $said }
mark-half = Half right: you said { $said }; it was: { $truth }
mark-wrong = Wrong: you said { $said }; it was: { $truth }
mark-named = { $hit } of { $all } faults named

mark-times = { $own }; an expert { $expert }
mark-broken-off = Broken off after { $time } without a verdict: nothing was saved.

## Practice: what hands can do, what it shows, hints.

deeds-before = Before
deeds-run = Pump and draw
deeds-parts = Valves and parts
deeds-tests = Tests
deeds-mend = Repair
deed-look-power = Lock the power out, and prove it dead
deed-look-pressure = See { $zero } at every port: no nitrogen, no refrigerant
deed-look-oil = Look at the pump's oil: its level, its color
deed-safe-power = Look for another feed, and lock that out too
deed-safe-vent = Let every port down to the air, slowly, one by one
deed-pump-on = Start the pump
deed-pump-off = Stop the pump
deed-ballast-open = Open the gas ballast
deed-ballast-shut = Close the gas ballast
deed-isolate = Isolate: close { $where }
deed-reopen = Open { $where } again
deed-valve-flush = Open and close every ball valve once
deed-warm-up = Put heat on: blanket, warm air, crankcase heater
deed-oil-change = Change the pump's oil
deed-break = Break with dry nitrogen
deed-break-end = Close the nitrogen, pump again
deed-nitrogen-test = Pressure test: dry nitrogen to { $pressure }, soap, watch, let it down
deed-nitrogen-sweep = Sweep with dry nitrogen from end to end; how long it flows depends on the volume
deed-magnet-on = Put the magnet on { $what }
deed-magnet-off = Take the magnet off { $what }
deed-drive-open = Drive { $what } open
deed-drive-shut = Drive { $what } closed
deed-see-pressure = Look for positive pressure at the ports
deed-energise = Give the compressor power
deed-open = Open { $what }
deed-shut = Close { $what }
deed-crack = Open { $what } a quarter turn
deed-core-out = Pull the core at the { $what }
deed-core-in = Put the core back at the { $what }
deed-cap = Cap the { $what }
deed-take-off = Take off { $what }
deed-put-on = Put on { $what }
deed-stem-cap = Put the cap on the stem of { $what }
deed-purge = Purge the charging hose from { $what }
deed-zero-scale = Zero the scale under { $what }
deed-weigh-in = Weigh in from { $what }
deed-trim = Trim the charge from { $what }
deed-empty-hose = Empty the charging hose of { $what } inward
deed-check-port = Leak-check the { $what }
deed-start = Start the system
deed-stop-unit = Stop the system
deed-pump-care = Look after the pump: intake capped, oil looked at
deed-check-room = See that the condenser or receiver takes the whole charge
deed-gauges-on = Pressure gauge on the suction side
deed-watch-suction = Watch the suction pressure
deed-see-still = Wait, and see whether the suction pressure climbs
deed-vent-pump = Vent the pump side
deed-mend-clean-gauge = Clean the gauge's sensor with alcohol
deed-mend-wipe-joint = Wipe the gauge's joint dry, a new gasket, hand tight
deed-mend-other-pump = Put another pump on
deed-mend-thick-cord = Run a shorter, thicker cord
deed-mend-seat = Seat every plunger and cap
deed-mend-change-hoses = Change the hoses for clean, sound ones
deed-mend-change-seats = New seats in the core tools
called-tight = tight and dry
called-leak = a leak in the system
called-moisture = water in the system
called-both = a leak, and water
called-refrigerant = refrigerant out of the oil
called-rig = the rig lets gas in: hose, core tool or seal
called-not-judged = this hold test cannot say
end-release = Done: released, or good to be charged
end-repair = Stop here: find the leak under nitrogen, repair, begin again
end-later = Stop here: it needs another day
hint-1 = What to look at
hint-2 = The test that tells
hint-3 = The answer
hint-look = Look at { $where }.
hint-at-pump = the pump, and what it runs on
hint-at-hoses = the hoses
hint-at-tools = the core tools and their ports
hint-at-gauge = the gauge itself
hint-at-level = what the reading levels off at, and for how long
hint-at-outside = what comes in from outside
hint-at-system = the system
hint-gauge-blind = Think of what the gauge cannot see.
hint-section-closed = A section is closed off: open it.
practice-found-second-feed = One leg was live: the heaters have a feed of their own. Prove every leg dead.
practice-found-pressure = Test pressure was still on it. Let every port down, and look again.
practice-found-creeping = Nitrogen crept past a seat and came back. Look again some minutes after it was let down.
found-second-feed = one leg is still live
found-pressure = test pressure is still on it
found-creeping = pressure comes back after it was let down
hint-before = Think of what is to be seen before anything is connected.
hint-look-again = Look at power and at every port, and look again some minutes after it was made safe.
hint-ballast = The gas ballast is open: close it.
hint-nothing-left = There is nothing left that you could repair. Go on: deep enough, isolate, hold, call it.
hint-no-quick-look = No quick look shows it: isolate, and read how it rises.
hint-answer = { CAP($cause) }. { $cure }
shows-ballast-open = Yes: it is open
shows-no = No
shows-nothing = Nothing found
shows-pushes = Yes, gas still pushes
shows-no-push = No, nothing to feel
shows-closed = Closed: { $valves }
shows-all-open = All open
shows-half-open = Halfway, neither open nor closed: { $half }
shows-closed-and-half = Closed: { $valves }. Halfway, neither open nor closed: { $half }
shows-core = the core at the { $port }
shows-cores-in = Still in: { $cores }
shows-no-core = No core was in
shows-pump-over = Over range at the pump
shows-pump-level = { $level } at the pump
shows-yes = Yes
shows-on-system = on the system
shows-joints = The reading moves: { $places }
shows-hoses = It stays high with: { $places }
shows-seats = The reading moves as it is worked: { $places }
shows-needs-pump = Nothing to see by: the pump is not running
shows-needs-vacuum = Nothing to see by: there is no vacuum for it to show in
shows-oil-milky = Milky: it is wet
shows-oil-clear = Clear, half way up the glass
shows-meter = It loses { $drop } as the pump runs; { $most } is the most
shows-pressed = From { $start } to { $end } in { $minutes } minutes. { $says } { $bubbles }
shows-bubbles = Soap bubbles: { $places }.
shows-no-bubbles = No bubbles.
shows-on-rig = on the rig
shows-swept = Every section swept
shows-swept-but = Swept, but not reached: { $places }
shows-charged = { $pressure } at the suction port: it is charged
shows-suction = Suction at { $pressure }
shows-power-live = Locked and tagged, but one leg is still live
shows-locked-too = The heaters had a feed of their own: found, locked, tagged
shows-one-feed = There is no other feed
shows-pressure-on = { $pressure } at a port
shows-let-down = It hissed, then stood still
shows-no-gas = Nothing comes
shows-power = Locked, tagged, dead on every leg
shows-pressure = { $zero } at every port
named-ballast = the gas ballast is open
named-section-shut = a section is closed off and was never reached
named-core-in = a valve core is in the way
cannot-unknown = There is nothing called { $deed } to do.
cannot-over = This practice job is over: begin it again, or another.
cannot-no-rig = No rig is on yet: put one together first.
cannot-no-valve = There is no valve { $valve } here.
cannot-no-port = There is no port { $port }.
cannot-no-tool = No core tool is on the { $port }.
cannot-take-off = { $part } does not come off here.
cannot-not-isolated = Nothing is isolated, so no hold test can be judged.
cannot-isolate = No valve of this rig closes the system off.
cannot-locked = Power is locked out: the unit does not start.
cannot-sweep = Nitrogen finds no way through this rig and system.
cannot-name = { $cause } is not among what could be the matter here.
cannot-which-rig = Which rig? Choose a setup and its parts.
cannot-under-pressure = The system is under pressure: the rig cannot be changed now.
rig-no-ports = There are no ports for { $setup } on this system.
rig-one-part-twice = One part of the van is chosen for two places.
rig-wrong-part = Number { $number } of the van is not a { $part }, for { $where }.
race-own-rig = the rig on the sheet
race-not-run = One of the two cannot be run: { $why }
practice-system = { $system }, { $refrigerant }
practice-own-system = a system of its own
practice-not-tried = not tried yet
practice-stretch-untried = { $stretch }: not tried yet
practice-weakest = { $stretch } is where most is to be gained ({ $score } so far)
practice-no-such-deed = This job has no such step to go on from.

exam-no-hints = There are no hints in an examination.
exam-no-replay = A job of an examination is not gone on with from the middle.
exam-stays = A job of an examination stays: it was taken.
exam-one-open = One of its jobs is still open: end that one first.
exam-all-taken = All of its jobs are taken.
exam-still-open = An examination is open already: finish that one first.
exam-not-passed = It is not passed: there is no certificate.
exam-job = { $unit }, job { $number } of { $count }
no-exam = There is no examination { $key }.

certificate-title = Passed
certificate-who = { $name } has passed the examination of Rough Draw at level { $level } of 5.
certificate-nobody = Somebody whose name was not given
certificate-how = { $count } unseen jobs with a hidden fault or none: rigged, drawn down, held and judged, without hints, without a step against a stop; { $mean } of 100 points in the mean.
certificate-job = job
certificate-points = points
certificate-ended = ended
certificate-practice = Practice on a simulated system. It says nothing of licences, and takes the place of none.
certificate-hash = SHA-256 of what it tells
certificate-firm = Signed with the key of { $firm }
certificate-a-firm = the firm

stretch-rig = Rig
stretch-prove = Prove
stretch-draw = Draw
stretch-hold = Hold
stretch-release = Release
stretch-diagnosis = Diagnosis

## Why a sound hand does what it does.

expert-look = Before anything is connected: power is dead, { $zero } is seen, and the pump has oil.
expert-make-safe = What a look finds is made safe before anything else, and looked at again.
expert-pump-down = The unit works: its own charge goes into its own receiver, and the suction valve is closed just above { $zero }.
expert-rig = The best the van has for this system: { $time } to the target with nothing wrong, and it can be held apart.
expert-core-in = A core left in is the narrowest place of the whole rig.
expert-ways = What is shut is not evacuated, and no gauge says so: every valve is gone along first.
expert-ballast-found = A ballast that somebody left open keeps the pump from going deep.
expert-ballast-open = The first gas is the wettest: the ballast keeps water out of the oil.
expert-start = Everything on the way is open: the draw begins.
expert-ballast-shut = Under { $level } little water comes any more, and the ballast only holds it up.
expert-stall = Over { $target } and hardly lower for { $time }: something is the matter. The test that costs least and tells most comes first.
expert-slow = It came down late, or jumps: looked into before a hold is read off it.
expert-name = The test spoke for it.
expert-mend = What was found is mended before pulling on.
expert-warm = Water leaves by itself, and no pump hurries it: warmth does.
expert-ice = Ice gives off next to nothing: dry nitrogen brings warmth in, and carries water out.
expert-isolate = { $target } reached: shut nearest the system first, then the pump, so that nothing comes back.
expert-no-place = It rises as a leak does, and no leak was found. What boils bends over if it is held on; a leak does not.
expert-place = It rises: where from is looked for before anything is mended.
expert-verdict = Held { $time }: how it rises tells what it is.
expert-again = Not done: pulled again, longer than before.
expert-finish = Tight and dry: the charge goes in before any way to the air is opened.
expert-end = What the hold said is what is done.

## What is to be learned from a job that was made from a number.

lesson-none = Nothing was wrong. Who looks at every reading, isolates, holds and says so has done all there is; a fault that is searched for where there is none costs the most.
lesson-wet-oil = Wet oil sets the floor: the pump pulls no deeper than its oil allows. Blank it off, change it hot, and change it again after a wet draw.
lesson-worn-pump = A pump that blanks off high cannot be pulled deeper by any hose. Blank it off before the job, not at the end of it.
lesson-slow-pump = A pump that is tired or turns slowly still goes deep, but late. Listen to it, and look at the cord and its voltage.
lesson-oil-carried = Oil that a stopped pump gave back lies in the hose and gives off what it has taken up. A valve at the pump, shut before it stops, keeps it out.
lesson-system-leak = A leak does not slow down: the rise stays straight however long it is held. It is found with nitrogen and solution, never by pulling on.
lesson-open = What stands open to the air is not slow, it never comes down. Go along the ports and caps first.
lesson-water = Water stands at its own pressure until the last of it is gone; then the gauge falls on at once. Warmth shortens that, not a larger pump.
lesson-ice = A deep, quiet gauge over ice tells of the pump, not of the system. Held apart it climbs. Warm it, and pull again.
lesson-refrigerant = Refrigerant in oil comes out for hours, slower and slower. A hold after warming tells it from a leak: this one bends over.
lesson-fouled = A fouled sensor reads high or low and never quite steadily. Prove it at a pump's blank-off before it is believed.
lesson-jumping = A reading that jumps is a joint or a wire at the gauge, not the system. Look there before you look anywhere else.
lesson-hose-leak = A hose's joint rises with the tool shut, and stops rising without it. Shut the tool, and see on which side it is.
lesson-dirty-hose = A hose that carried refrigerant or oil gives it off for as long as it is warm. Hoses for vacuum carry nothing else.
lesson-seat = A tool that does not seat lets air past the very valve that the hold relies on. Cap it, and see whether the rise stops.
lesson-half-open = A handle that stands halfway chokes like a core, and nothing looks closed. Along the line is open: go along every handle before the pump runs.
lesson-core = A core in a port, or one that hangs, throttles the whole draw. The coil stands far above the gauge meanwhile.
lesson-core-in = A core in a port, or one that hangs, throttles the whole draw. The coil stands far above the gauge meanwhile.
lesson-ballast = The open ballast leaves the gauge standing, steady and too high. Who looks at the pump first loses no time.
lesson-second-feed = A lock on one breaker is not a dead machine. Prove every leg dead with a meter, heaters and controls too.
lesson-pressure = A system that was tested may still be charged for it. See nothing at every port before a hand or a pump is on it.
lesson-creeping = What was let down comes back past a seat. Look again some minutes later, before anything is opened.
lesson-section-shut = What is shut was not evacuated, and no reading of yours said so. Go along every valve before the pump runs.
practice-standard = { $standard }: { $rule }
practice-it-was = it was: { $verdict }
practice-cause = { CAP($cause) }. { $cure }
practice-was-closed = The { $link } was closed: what is behind it is not evacuated. Open it.
practice-not-over = This practice job is not over yet: end it first, then look at its debrief.
