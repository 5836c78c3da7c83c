## What is wrong with a rig on its system, why it matters, and the fix.

finding-left-out = The { $section } will not be evacuated
    .why = Nothing joins it to a pumped port, and no gauge would show that. { $how }
left-out-open-or-port = Open what closes it off, or pull from a port of its own.
left-out-link-closed = { CAP($how) }.
finding-check-valve = The { $section } empties only through a check valve
    .why = Its spring holds about { $held } back. Pull from both sides of it.
finding-charge-open = The { $section } holds its charge, and the { $link } is open
    .why = Refrigerant would run into the vacuum, the gauge and the pump.
finding-core-shut = The { $port } is closed by its own core
    .why = Its core is in and nothing pushes it: no gas passes.
finding-core-under-tool = The core is still in the { $port }, under a core tool
    .why = A core tool has no pin: the port stays closed. The gauge sees only hose and tool, pulls down in seconds and holds. A false pass.
finding-side-core = The core tool's side port has its own core in
    .why = What sits there looks through a slot of a tenth of a millimeter. It lags, and reads its own gas on top.
finding-side-core-shut = The core tool's side port has its own core in, and nothing pushes it
    .why = Whatever is on that side port sees only itself.
finding-blind-gauge = { CAP($gauge) } does not read the system
    .why = Something closed stands between it and every part of the system. It would pull down and hold whatever the system does.
finding-manifold = The draw goes through a manifold
    .why = Its ports are narrow, and its seals let air in and give off water. Hoses straight to the pump are faster and hold deeper.
finding-small-hose = { CAP($hose) } is smaller than the other ({ $size })
    .why = The way through it carries little. { $large } on both sides.
finding-narrow-end = { CAP($hose) } has a { $end } end
    .why = A { $size } hose with { $end } flare ends chokes there: most of its bore is lost.
finding-narrow-intake = The hose is on the pump's { $intake } intake
    .why = A { $size } hose is choked there before it begins.
finding-single-stage = A single-stage pump for { $target }
    .why = Its own limit is close to the target, and on a job it does not quite reach that.
finding-no-ballast = A wet job, and the pump has no gas ballast
    .why = Vapor turns to water in its oil, and the oil then holds the vacuum up. Change the oil often.
finding-no-pressure = Nothing here shows positive pressure
    .why = A micron gauge does not. Bring a manifold with dials, a pressure probe, or a gauge with its own high range, before anything is opened to refrigerant.
finding-driven-valve = The { $link } is closed unless it is held open
    .why = { CAP($how) }. Left closed, what lies behind it is not evacuated.
finding-gauge-beyond-core = The gauge is behind a core: in the hold test it does not read the system
    .why = What hoses and seals on its side give off has to leave through the core: it would stand about { $offset } above the system.
finding-gauge-not-worst = The gauge reads { $error } below the worst spot
    .why = When it shows { $shown }, the worst spot is at { $target }.
fix-pull-core = the core at the { $port } pulled
fix-side-core = the side port's core pulled
fix-larger-hose = a { $size } hose there too
fix-wide-ends = a hose with ends of its own bore
fix-intake = the pump's { $size } intake
fix-two-stages = a two-stage pump
fix-ballast = a pump with gas ballast
finding-fit = A { $end } end does not fit the { $size } { $port }
    .why = An adapter narrows the way; a core tool of the right size does not.
finding-cramped = The { $port } is cramped
    .why = A bracket or panel may have to come off before a core tool fits. Allow for it.
finding-tool = A core tool not made for vacuum
    .why = It leaks at its own seals, and the hold test will show it as the system's leak.
finding-no-valve = No valve at the { $port }, and its core stays in
    .why = The core chokes the way, and nothing closes the system off there.
finding-depressor = { $count ->
    [one] A core depressor is left in a hose that needs none ({ $sizes })
   *[other] Core depressors are left in { $count } hoses ({ $sizes })
}
    .why = The pin and its seat are nearly as narrow as a core.
finding-pressure-hose = { $count ->
    [one] A charging hose is used in the vacuum ({ $sizes })
   *[other] { $count } charging hoses are used in the vacuum ({ $sizes })
}
    .why = They let air and water through their walls, and their seals are made to hold pressure in.
finding-ball-end = Ball valves at the ends of charging hoses are rarely made for vacuum
    .why = Trust them only after the rig has been proved with them closed.
finding-new-hose = { $count ->
    [one] A new hose may not go under { $low } to { $high } yet ({ $sizes })
   *[other] { $count } new hoses may not go under { $low } to { $high } yet ({ $sizes })
}
    .why = A new rubber lining gives off gas for its first hours under vacuum. It reads like a wet system.
finding-crossed-hoses = The smaller hose is on the suction side
    .why = The volume is on the suction side: the larger hose belongs there.
finding-no-gauge = No micron gauge
    .why = A needle can be off by { $hidden }, and hides what matters. The job is recorded as unverified.
finding-gauge-near-pump = The gauge is { $where }: it reads { $error } too low at the target
    .why = When it shows { $shown }, the worst spot is at { $target }.
finding-gauge-near-pump-far = The gauge is { $where }: it reads { $error } too low at the target
    .why = It reaches the target long before the system does.
finding-gauge-exposed = The gauge cannot be closed off before refrigerant comes
    .why = It is rated { $rated }, but refrigerant and oil foul it.
finding-gauge-burst = The gauge is rated { $rated }; { $refrigerant } can reach { $reaches }
    .why = It must be closed off before refrigerant comes, and nothing can.
finding-gauge-coarse = The gauge shows steps of { $step }
    .why = That is coarse for a target of { $target }: a slow rise hides between two steps.
finding-hoses-in-hold = Hoses stay in what is held
    .why = { $length } of hose stay in what is judged: about { $rate } of the rise is theirs (estimate).
finding-hoses-in-hold-open = Nothing closes the system off for the hold test
    .why = All that can be done is to stop the pump, and its air and oil come back.
finding-pump-not-rated = The pump is not rated for { $class } refrigerants
    .why = { $refrigerant } can burn: use a pump rated for it, no ignition source, exhaust led outside.
finding-oil-used = The pump's oil has been used
    .why = Water in the oil comes back as vapor: the pump cannot pull below it.
finding-oil-used-milky = The pump's oil is milky
    .why = Water in the oil comes back as vapor: the pump cannot pull below it.
finding-cord = The cord is thin for this pump
    .why = { CAP($answer) }.

fix-open-link = the { $link } opened
fix-close-link = the { $link } closed
fix-core-tool = a core tool at the { $port }, its core pulled
fix-tool-size = a { $size } core tool
fix-adapter = a { $size } adapter
fix-vacuum-tool = a core tool made for vacuum
fix-depressors = { $count ->
    [one] the depressor taken out
   *[other] the depressors taken out
}
fix-vacuum-hoses = { $count ->
    [one] a vacuum hose of the same size
   *[other] vacuum hoses of the same size
}
fix-exchange-hoses = the two hoses exchanged
fix-add-gauge = a micron gauge on a core tool of its own
fix-move-gauge = the gauge moved to the system, on a core tool
fix-gauge-tool = a core tool under the gauge
fix-tools-everywhere = core tools at every port
fix-tools-and-gauge = core tools at every port, the gauge on one of them
fix-fresh-oil = fresh oil
fix-cord = a cord of { $wire }

cord-good = { $running } lost running, { $starting } starting: good
cord-usable = { $running } lost running, { $starting } starting: it will start slowly, worst in the cold{ $then ->
    [wire] {""}; { $wire } would do
    [nearer] {""}; bring the pump nearer to the outlet
   *[none] {""}
}
cord-no = { $running } lost running, { $starting } starting: the pump may not start, or stall{ $then ->
    [wire] {""}; { $wire } would do
    [nearer] {""}; bring the pump nearer to the outlet
   *[none] {""}
}
cord-no-wire = No wire { $wire }: write it as 14 AWG or 2.5 mm².

## The setup check.

setup-a = Can the system be closed off from pump and hoses?
setup-a-no-valve = No valve stands between the pump and the system.
setup-a-with-hose = Only with { $length } of hose in: close { $where }.
setup-a-close = Close { $where }.
setup-b = Is the gauge inside what is isolated, and far from the pump?
setup-b-no-gauge = There is no micron gauge: the hold test cannot be read.
setup-b-near-outside = It is { $place }, outside the closed valves.
setup-b-near = It is { $place }: it reads low during the draw, and holds with the hoses.
setup-b-outside = It is outside the closed valves.
setup-b-pumped-port = Inside, but on a port that is pumped. The { $port } is free and farther off.
setup-b-all-pumped = Inside, on a pumped port. Every port is pumped, so none is farther off.
setup-b-far = { $count ->
    [one] Inside, 1 section from the nearest pumped port.
   *[other] Inside, { $count } sections from the nearest pumped port.
}
setup-c = Can the gauge be closed off before refrigerant comes?
setup-c-no-gauge = There is no micron gauge.
setup-c-valve = With { $valve }.
setup-c-whole-rig = With the valves that close the whole rig off from the system.
setup-c-no-valve = No valve is under it: it will see refrigerant. It is rated { $rated }. Clean it afterward.
setup-d = Does every port with its core out keep a valve until there is pressure?
setup-d-bare = The core of { $ports } is out, and no core tool can put it back.
setup-d-tools = A core tool is on each.
setup-d-cores-in = Every core stays in.
setup-e = How much of what is isolated is hose?
setup-e-none = None: no hose lets air into the hold test.
setup-e-hose = { $share } of the volume, { $length }: the hoses alone lift it about { $rate } (estimate).
setup-f = Can refrigerant be added from a cylinder, and to which line?
setup-f-no-hose = No hose leads to a port.
setup-f-on-rig = Yes, from the cylinder on the rig, to { $to }.
setup-f-manifold = Over the manifold's free { $at } port, to { $to }.
setup-f-move = Move the pump's end of the hose at the { $port } to a cylinder: to { $to }.
setup-f-nothing-closes = Nothing closes the { $port } while a hose is moved to a cylinder.
setup-to = { $side ->
    [liquid] the liquid line
   *[other] the { $side } side only, so as vapor or throttled
}

## What to carry.

carry-pump =
    .why = topped up, intake capped
carry-hose = { $made ->
    [vacuum] { $size } vacuum hose, { $length }
   *[other] { $size } charging hose, { $length }
}
carry-core-tool = core tool, { $size } port
carry-missing-charging-hose = Charging hose rated for the refrigerant
carry-missing-liquid-way = Core tool with a valve for the liquid port
carry-missing-low-side-way = Charging hose with a valve at its end, or a manifold
carry-manifold = manifold
carry-tee = vacuum tee
carry-gauge = micron gauge
    .why = battery, cleaned
carry-pressure = pressure gauge, probe or manifold with dials
    .why = nothing on the rig shows positive pressure
carry-cord = extension cord, { $wire }, { $length }
carry-cylinder = { $refrigerant } cylinder
carry-cylinder-charge = { $refrigerant } cylinder, { $weight } to weigh in
carry-scale = charging scale
    .why = battery
carry-adapter = { $size } adapter
carry-cores = new { $size } valve cores
    .why = cheap: fit new ones
carry-caps = port caps with sound seals
carry-gaskets = hose gaskets
    .why = two a hose, as spares
carry-wrenches = cap and flare wrenches
carry-hex-keys = Hex keys for the service valves
    .why = Usual for these lines: { $sizes } (estimate; look at the valve).
carry-valve-wrench = Service valve wrench, 1/4 in square
    .why = For square stems; never with pliers.
carry-magnet = solenoid magnet
    .why = holds each valve open
carry-service-mode = service tool or manual for the unit's service mode
    .why = opens the { $valves }
carry-bracket = driver for the bracket at the cramped port
carry-warmth = heat blanket or warm-air gun
    .why = no flame; keep it moving
carry-oil = vacuum pump oil, fills
    .why = fresh at every use
carry-oil-wet = changed on the way
carry-oil-can = can for used oil
carry-nitrogen = nitrogen, regulator with relief valve
    .why = pressure test and sweep
carry-nitrogen-triple = pressure test, sweep and two breaks
carry-lubricant = assembly lubricant
    .why = a drop on gasket faces
carry-wipes = lint-free wipes and alcohol
    .why = joints dry; the gauge if it is fouled
carry-leak-check = leak-check solution or detector
carry-drier = new filter-drier
    .why = fitted last, evacuated with the rest
carry-ppe = goggles, gloves, long sleeves, boots
carry-lock = lock and tag, voltage tester
carry-detector = gas detector, fire extinguisher
    .why = flammable refrigerant
carry-acid = acid-proof gloves, acid test
    .why = burnout: the oil is acid
