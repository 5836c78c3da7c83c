## Why a draw is slow: signs, causes with their cures, tests with their outcomes, alarms.

sign-never = Not in range after { $time }.
sign-rises = Rising for { $time }, from { $low }.
sign-jumps = The reading jumps about.
sign-ice = Stuck near { $level }: that is where ice and water meet.
sign-boils = Stuck near { $level }: water boils there at the coldest spot.
sign-stuck = Stuck near { $level }.

draw-cause-none = Nothing: it goes as planned
    .cure = Wait.
draw-cause-ballast = The gas ballast is open
    .cure = Close it.
draw-cause-wet-oil = Wet pump oil
    .cure = Change it warm, and keep pumping.
draw-cause-worn-pump = The pump is at its limit (worn, or oil wet)
    .cure = Blank it off; change its oil, or the pump.
draw-cause-slow-pump = The pump runs slow: power, or a thin cord
    .cure = Look at cord and voltage.
draw-cause-oil-carried = Oil carried into hose and gauge
    .cure = Close the pump off, clean the gauge.
draw-cause-system-leak = A leak in the system
    .cure = Find it under nitrogen.
draw-cause-open = An opening to the air
    .cure = A plunger not seated, a cap off, a valve the wrong way.
draw-cause-water = Water boils in the system
    .cure = Ballast, warmth, patience; fresh oil half way.
draw-cause-ice = Ice in the system
    .cure = Break with nitrogen, warm the spot, pump again.
draw-cause-refrigerant = Refrigerant comes out of the oil
    .cure = Warm the compressor, let it come.
draw-cause-fouled = The gauge's sensor is fouled
    .cure = Clean it with alcohol, or try another.
draw-cause-jumping = Bubbles of lubricant, or a loose joint, at the gauge
    .cure = Wipe its joint dry, a new gasket, hand tight.
draw-cause-hose-leak = { CAP($where) } leaks
    .cure = Seat its gaskets, or change it.
draw-cause-dirty-hose = { CAP($where) } gives off gas: new, oily or wet
    .cure = Change it, or cure it on the pump.
draw-cause-core = The core is still in at the { $where }
    .cure = Pull it through the core tool.
draw-cause-shut = The core tool at the { $where } is closed
    .cure = Open it.
draw-cause-gauge-joint = The joint of { $where } leaks
    .cure = Wipe it, a new gasket, hand tight; then look whether it falls.
draw-cause-tool-leak = { CAP($where) } leaks
    .cure = Hand tight, a new gasket; if that does not help, another core tool.
draw-cause-manifold-leak = { CAP($where) } leaks
    .cure = Take it out of the line, or seat its valves and joints.
draw-cause-pump-joint = The joint at the pump leaks
    .cure = A new gasket at the pump's intake, hand tight.
draw-cause-all-hoses = All hoses give off gas or let it through
    .cure = Vacuum hoses instead, or pull longer: rubber of this kind does not go deeper.
draw-cause-choked-intake = The pump's intake is choked
    .cure = Take the coupling off: a plugged screen, a core or a depressor left in it.
draw-cause-kinked = { CAP($where) } is kinked or flattened
    .cure = Straighten it, or change it.
draw-cause-plugged = { CAP($where) } is partly closed or plugged
    .cure = Open its ball fully; look for a torn gasket or a core in its way.
draw-cause-cores = The cores are still in, under every core tool
    .cure = Pull each through its core tool.
draw-cause-gauge-shut = { CAP($where) } is closed: the gauge does not read the system
    .cure = Open it.
draw-cause-section-shut = { CAP($where) } is closed: what is behind it is not evacuated
    .cure = Open it: a magnet on a solenoid, service mode for an electronic valve, or pull from its other side too.
draw-cause-other = Something else: nothing that is known here explains these readings
    .cure = Trust no single cause. Blank off the pump, then go part by part.
draw-cause-half-open = { CAP($where) } stands halfway, neither open nor closed
    .cure = Turn it all the way open, until its handle lies along the line.
draw-cause-seat = The seat of the core tool at the { $where } leaks
    .cure = Change its seat, or the core tool.

volume-small = The pump sees about { $seen } ({ $low } to { $high }); the sheet has { $sheet }. { $count ->
        [0] Something is closed, or the sizes on the sheet are wrong.
       *[other] Something is closed. This fits: { $names }.
    }
    .how = Warm its bulb, hold a magnet to its coil, pull from its other side too, or put a gauge behind it.
volume-judged = Judged on { $seen }, which the pump saw; the sheet has { $sheet }. { $says ->
        [small] What is behind a closed valve was not held.
       *[large] More is open than the sheet says.
    }
volume-large = The pump sees about { $seen } ({ $low } to { $high }); the sheet has { $sheet }. { $count ->
        [0] A section is open that should be closed, or the sizes on the sheet are wrong.
       *[other] A section is open that should keep its charge. This fits: { $names }.
    }
    .how = Look at its service valves: front-seated, caps off, stems home.

test-ballast = Look at the ballast. Is it open?
test-oil = Look at the pump's oil. Is it milky?
test-frost = Feel along the coldest parts. Is one cold or frosted?
test-sound = Listen to the pump, measure its voltage. Does it run slow?
test-by-ear = Listen to the pump. Does it run slow?
test-meter = A meter on the pump's supply, the pump running. How much of its voltage is lost?
test-joint = Hold the gauge's joint still, wipe it, hand tight. Does the reading calm down?
test-drops = Look into the hose's end at the pump. Is there oil in it?
test-detector = An electronic leak detector at the exhaust of the pump. Does it find refrigerant?
test-gauge = Connect another gauge beside it. Do they disagree?
test-blank = Close the core tools, gauge on the pump alone. Does it stay above { $most }?
test-thumb = A gloved hand near the exhaust, not over it, for five seconds. Does gas still push?
test-hold = Close { $where } for one minute, the pump running.
test-pump-valve = Close the pump's isolation valve for half a minute.
test-tool = Close { $tool } for half a minute, the rest open.
test-which-way = { $do } Which way does the reading go?
test-ways = Go along every core tool and valve. Was one closed?
test-ways-at = the core tool at the { $place }
test-ways-none = all open
test-core = Pull again through each core tool. Was a core still in?
test-core-at = at the { $place }
test-core-each = in each of them
test-core-none = no core
test-cores = Pull again through each core tool. Was a core still in?
test-joints = Alcohol on joints and caps, one by one. Where does the reading move?
test-joints-at = { $place }
test-joints-in = on the system: { $section }
test-joints-pump = at the pump
test-joints-none = nowhere
test-hoses = Close the core tools, pull on one hose at a time. With which does it stay high?
test-hoses-at = with { $place }
test-hoses-none = with none
test-each = with each of them
test-intake = Take the coupling off the pump's intake. Is a screen plugged, or a core or depressor in it?
test-bent = Go along every hose and core tool. Is one kinked, flattened, or its ball half open?
test-bent-at = { $place }
test-bent-none = all free
test-smell = Take the hoses off at the closed core tools, smell and wipe them. Rubber, oil, water?
test-smell-at = { $place }
test-smell-none = clean and dry
test-seats = Cap the core tools off, each alone on the gauge. Which one rises?
test-second = Connect a second gauge at the pump. What does it show?
test-second-far-under = under { $low }
test-second-under = { $low } to { $mid }
test-second-alike = about as much, up to { $high }
test-second-over = over { $high }
test-says-yes = yes
test-says-no = no
test-says-falls = it falls under { $low }
test-says-stays = it stays, or creeps no higher than { $sound }
test-says-rises = it rises past { $sound }
test-says-leaps = it rises past { $far }
test-answered = { $do } { CAP($answer) }.
test-unknown = There is no test { $test } for this rig; there are { $known }.
test-no-outcome = { $test } does not turn out { $outcome }: it is one of { $known }.
diagnosis-wait = Wait for { $count } readings of this draw.

alarm-under = Under { $level }: { $last }.
alarm-over = Above { $level }: { $last }.
alarm-over-range = Above { $level }: over range.
alarm-about = About { $level }: { $last }.
alarm-after = { $time } since the pump started.
alarm-slower = Falls slower than { $rate }.
alarm-due = { $step }.
alarm-stale = Nothing heard from the gauge.
alarm-unwatched = Its alarms are not watched: { $why }.
