## Prove: checks, what they ask, how they stand.

check-power = Power off, locked, proved dead
    .why = A compressor that starts in a vacuum has no cooling and can arc.
check-power-off = disconnect off
check-power-locked = locked and tagged
check-power-dead = proved dead at the terminals
check-compressor = The compressor cannot start
    .why = A thermostat, a timer or a remote start calls when nobody looks. Never energize or megger one in a vacuum.
check-compressor-lead = lead or fuse out
check-compressor-enable = enable or run contact opened
check-compressor-none = no compressor in what is evacuated
check-recovered = Refrigerant recovered or pumped down
    .why = Vented refrigerant does harm, and is against the law.
check-recovered-recovered = recovered into a cylinder, weighed
check-recovered-pumped-down = pumped down into the unit, valves closed
check-recovered-none = new: none has been in it
check-pressure-test = Pressure test with nitrogen
    .why = A leak is found in minutes under nitrogen, in hours under vacuum.
check-protection = Protection and air
    .why = Oil mist, cold burns, and gas that pushes the air away.
check-protection-eyes = goggles
check-protection-hands = gloves, long sleeves, safety boots
check-protection-air = the place is ventilated
check-protection-exhaust = the pump's exhaust led outside
check-heaters = Warmth
    .why = A warm compressor and a warm building give their water up sooner.
check-heaters-crankcase = crankcase or belly heater on
check-heaters-blanket = heat blanket or warm air, kept moving; never a flame
check-heaters-warm = everything is warm already
check-oil = Pump oil
    .why = Wet oil gives its water back: the pump stalls.
check-blank-off = Pump blank-off
    .why = If the pump cannot pull deep alone, it will not with a system on it.
check-rig-proof = Rig proof
    .why = A hose that leaks or is dirty is found now, and not in the hold test.
check-gauge = Micron gauge
    .why = A fouled sensor reads wrong, and nothing on it says so.
check-flammable = Flammable refrigerant
    .why = A2L and A3 refrigerants burn: what the pump blows out, and what comes out of the oil.
check-flammable-sources = no ignition source within reach of the gas; heavy gas in pits too
check-flammable-pump = the pump is rated for it
check-flammable-detector = a gas detector is on, fire extinguisher at hand
check-flammable-flame = swept with nitrogen before any flame
check-nitrogen-vented = Holding nitrogen vented
    .why = Pressure ruins a gauge and blows oil from a pump. It may have crept into a section thought closed.
check-sweep = Nitrogen sweep
    .why = It carries the air and the free water out of every section before the pump has to.
check-sweep-swept = swept through every section, as below
check-sections = No section closed off
    .why = A section left closed is not evacuated, and nothing on the gauge says so.
check-zero-at = 0 gauge at the { $port }
check-opened-by-note = { $link }: { $note }
check-open-service-valve = { $link }: turn its stem to the middle, off either seat
check-open-ball-valve = { $link }: turn its handle along the pipe
check-open-solenoid = { $link }: lift it with a magnet, or energize its coil alone
check-open-expansion-valve = { $link }: drive it open in the unit's service mode
check-open-thermostatic-valve = { $link }: warm its bulb, or pull from both sides
check-open-capillary = { $link }: nothing to open, it is only slow
check-open-check-valve = { $link }: pull from both sides of it
check-open-reheat-valve = { $link }: drive it open in the unit's service mode
check-open-filter-drier = { $link }: nothing to open; fit a new one last
check-open-joint = { $link } open
check-stated = Stated, no evidence.
check-not-reached = Not reached with the valves as the sheet has them: { $sections }. Open the way, or say why not.
check-nothing-closes = nothing in it can be closed
check-seen = { CAP($seen) }.
check-seen-note = { CAP($seen) }. { $note }
check-still = Still to check: { $wanted }.

pressure-test-start-pressure = the pressure at the start
pressure-test-end-pressure = the pressure at the end
pressure-test-start-temperature = the temperature at the start
pressure-test-end-temperature = the temperature at the end
pressure-test-minutes = the minutes
pressure-test-strength-only = Strength test held. { $words } The tightness test is still to do.
pressure-test-wanted = Still to fill in: { $fields }.
pressure-test-with-heat = Temperature explains { $heat } of the change. { $told }
pressure-test-too-low = It began at { $start }; { $wanted } is asked for.
pressure-test-leaks = { $drop } is missing (± { $band }): find the leak, test again.
pressure-test-too-short = Nothing is missing, but { $time } is too short: at least { $least }, for the gas to settle.
pressure-test-tight = Nothing is missing: { $drop }, within ± { $band }.

oil-disposal = Drain it warm. Collect used oil as waste; never pour it away.
oil-changed = Changed now.
oil-change-now = Change it now.
oil-change = Change it.
oil-look = Look at it in the glass.
oil-look-fresh = Clear
    .means = Like new: nothing in it.
oil-look-amber = Straw to amber
    .means = A day's work is in it. Still good for a dry system.
oil-look-dark = Dark
    .means = Dirt, or it was hot: it wears the vanes and pulls less deep.
oil-look-milky = Milky
    .means = Water is in it. It gives it back: the pump stalls.
oil-level-low = Below the middle of the glass, running: it runs hot and does not seal.
    .name = low
oil-level-right = About the middle of the glass or a little above, running.
    .name = right
oil-level-high = Well above the middle, running: it throws oil out of the exhaust.
    .name = high
oil-rule-each-use = The rule here: fresh at each use.
oil-rule-hours = { $hours } since the last change; the rule here is { $rule }.
oil-rule-jobs = { $count } jobs since the last change; the rule here is { $rule }.
oil-rule-blank-off = The blank-off went from { $was } to { $now }.

blank-off-read = { $level }. { $words }
blank-off-not-read = Not read: the plan takes a generic pump of this size, with a wide band.
blank-off-pump-stood = The pump was stopped: a vane pump leaks back at once, which says nothing of pump or gauge. Read it running.
blank-off-wait = Wait: { $time } more on the pump alone.
blank-off-bad = Above { $usable } alone it pulls no system deep. Change the oil, check the connection.
blank-off-change-oil = Change the oil and read again.
blank-off-used = The plan now uses it.
blank-off-was-better = This pump has done { $best }: it is { $times } times that.
blank-off-as-before = As before ({ $low } to { $high }).
blank-off-as-once = As before ({ $low }).

gauge-none = No micron gauge on this rig: the dial is recorded as unverified.
gauge-battery-low = Battery { $charge }: it may die before the hold test is over.
gauge-battery-good = Battery good.
gauge-look-in-air = Look at it in free air: it should read over range.
gauge-air-over = Over range in free air, as it should be.
gauge-air-shown = It shows the atmosphere.
gauge-fouled = In free air it shows { $level }: its sensor is fouled. Clean it with alcohol and look again.
gauge-other = the other
gauge-agrees = It agrees with { $other }: { $this } and { $that }.
gauge-differs = It shows { $this } where { $other } shows { $that }: clean both before either is believed.

stages-bad = Bad: { $stages }. Change it, or wipe and seat its gaskets and read again.
stages-left = Still to read: { $stages }.
stages-doubtful = Doubtful: { $stages }.
stages-good = { $count ->
    [one] 1 stage read, as good parts do.
   *[other] { $count } stages read, all as good parts do.
}
known-inside = Rig proof: { $stage } lets in { $inflow } and is held too: { $rate } of this rise is its.
known-outside = Rig proof: { $stage } was { $verdict }, but is outside of what is held: not in this rise.

stage-blank-off = Blank-off
    .do = The gauge on the pump by a short brass fitting, everything else off or closed. Let it run.
stage-manifold = Manifold
stage-hose = Hose
stage-of = { $stage }: { $part }
stage-hose-to = Hose to the { $port }
stage-tool = Core tool
stage-tool-at = Core tool on the { $port }
stage-gauge-tool = Gauge tool
bring-in-tool = { $end ->
    [core] The valve core still in the port, or a cap on the tool: open its ball valve
    [gauge] The gauge on it: open its ball valve
   *[cap] A cap on its free end: open its ball valve
}. Its seals and its side port come in; the reading jumps a little, then falls.
bring-in-connect = Connect it
bring-in-open = Open the manifold's { $port } valve
bring-in-manifold = { $way }, its side valves closed. The reading jumps, then falls.
bring-in-hose = { $way }, { $end ->
    [ball] its ball valve closed
    [tool] the core tool at its end closed
    [next] what comes next closed or capped
   *[cap] its end capped
}. Its air makes the gauge jump; then it falls.
stage-other-part = Another part is here now: read it too.
stage-read-running = Read it with the pump running: stopped, the pump itself leaks back.
stage-good = { $level }: a good one does { $low } to { $high } by then.
stage-jump = { $level } after { $time }: the jump that its own air makes. It should fall; wait.
stage-bad = { $level }, where a good one is under { $high }: about { $more } comes in that should not.
stage-doubtful = { $level }, a little above the { $high } of a good one: about { $more } comes in that should not.
stage-rise-bad = It lets in { $inflow }{ $alone ->
    [no] {" "}(with what was open before it: no rise was read there)
   *[yes] {""}
}, far above normal for this part ({ $limit } at most).
stage-rise-doubtful = It lets in { $inflow }{ $alone ->
    [no] {" "}(with what was open before it: no rise was read there)
   *[yes] {""}
}; normal for this part is { $limit } at most.
stage-rise-good = It lets in { $inflow }{ $alone ->
    [no] {" "}(with what was open before it: no rise was read there)
   *[yes] {""}
}: normal for this part.
stage-tiny = { $rate } looks fast, but only { $small } is closed in: in this system's { $system } it would be { $here }.

bench-stage-gone = This stage is no longer part of the rig: begin again.
bench-pump-stands = The pump is off, and a stopped vane pump leaks back at once. Start it with its intake open.
bench-waiting = Waiting for the gauge.
bench-over-range = over its range
bench-at = at { $level }
bench-falling = { $jump ->
    [own-air] Falling. The jump is its own air. A good one is under { $good } by now.
   *[none] Falling. A good one is under { $good } by now.
}
bench-too-high = Still { $told } after { $time }, where a good one is under { $good }. { $part ->
    [pump] Look at pump, oil or connection.
    [tool] Look at its seals, its side port and its joint.
   *[hose] Look at its gaskets, its ends, or the hose itself.
}
bench-falling-well = { $jump ->
    [own-air] Falling as it should. The jump is its own air. Let it run { $time } more.
   *[none] Falling as it should. Let it run { $time } more.
}
bench-stands = { $then ->
    [rise] At { $level }, as it should be. Close the pump's valve and watch the rise.
   *[none] At { $level }, as it should be.
}
bench-catching-up = Closed: the gauge catches up first.
bench-rise = { $rate } in { $volume }
bench-rise-inflow = { $said }: { $inflow } comes in, where { $low } to { $high } is normal
bench-rise-more = { $said }. { $time } more.
bench-rise-end = { $said }.
bench-unknown = The bench knows no step { $step }: use pump-on, pump-off, valve-shut, valve-open.
bench-no-stage = This rig has no stage { $stage }: read the sheet again.
prove-no-rig = This rig cannot be proved. { $fault }

## The kit.

kit-retired = Taken out of use.
kit-calibration-due = Calibrated { $days } days ago: due.
kit-oil-due = Its oil is due.
kit-event-blank-off = blank-off
kit-event-rig-proof = rig proof
kit-event-gauge-check = gauge check
kit-event-oil-change = oil changed
kit-event-run = run
kit-event-cleaning = cleaned
kit-event-calibration = calibrated
kit-event-retired = retired
kit-state-good = good
kit-state-usable = usable
kit-state-due = due
kit-state-doubtful = doubtful
kit-state-bad = bad
kit-state-retired = retired
labels-title = Kit labels
