## What parts, valves and places are called.

the = the { $thing }
plunger-of = the plunger of { $tool }
valve-of = the { $thing }'s valve
the-at = the { $thing } at the { $place }
the-gauge = the micron gauge
the-pump = the pump
the-hose = the hose ({ $size })
the-hose-at = the hose at the { $port } ({ $size })
the-port-hose = the { $port } hose
part-pump = pump
part-tee = tee
part-hose = hose
part-manifold = manifold
part-tool = core tool
part-gauge = micron gauge
part-cylinder = refrigerant cylinder
part-nitrogen = nitrogen bottle
part-adapter = adapter
part-valve = ball valve
part-scale = scale
part-cord = extension cord
part-core = valve cores
part-on-side = { $part } ({ $side })
part-at-side = { $part } at the { $side } port
pump-size = { $flow } pump
pump-intake = pump intake
pump-valve = the pump's isolation valve
hose-size = { $size } × { $length }
hose-to-port = the hose to the { $port }
slot-hose = hose to the { $port }
slot-hose-at-pump = hose at the pump
hose-named = the hose { $name }
hose-at-pump = the hose at the pump
hose-led-to = { $to } hose
hose-end-valve = the ball valve at the end of the { $hose }
manifold-valve = the manifold's { $port } valve
manifold-way = manifold, { $port } port
manifold-two-valve = two-valve manifold
manifold-four-port = four-port manifold
tool-at-port = the core tool at the { $port }
tool-under-gauge = the gauge tool
tool-named = the { $name }
valve-named = the valve { $name }
gauge-valve = the gauge's own valve
gauge-at-port = at the { $port }
gauge-at-manifold = at the manifold
gauge-at-pump = at the pump
no-valve = no valve
port-by-id = { $id } port
link-joint = joint
link-service-valve = service valve
link-ball-valve = ball valve
link-solenoid = solenoid valve
link-expansion-valve = electronic expansion valve (EEV)
link-thermostatic-valve = thermostatic expansion valve (TXV)
link-capillary = fixed orifice or capillary tube
link-check-valve = check valve
link-reheat-valve = reheat valve
link-filter-drier = filter-drier
link-with-side = { $side } { $link }
joint-under-tool = the joint under the core tool at the { $port }
joint-far-nut = the far nut of { $hose }
joint-far-end = the joint at the far end of the { $section }

## Labels on the drawing.

mark-tee = tee
mark-tool = tool
mark-valve = valve
mark-adapter = adapter
mark-manifold = manifold
mark-cylinder = cylinder
mark-nitrogen = nitrogen
mark-gauge = gauge
mark-check = check
mark-port = port
mark-core-in = core in
mark-core-closed = core closed
section-left-out = not evacuated
section-charge = keeps its charge
drawing-untitled = rig
drawing-time = { $title }: to { $level } in { $time }
drawing-out-of-reach = { $title }: target out of reach

## What stands inside when the system is closed off.

inside-all = nothing closes the system off from the pump: add a valve before the hold test
inside-hoses = { $count ->
    [one] includes 1 hose, { $length }, which lets air through
   *[other] includes { $count } hoses, { $length }, which let air through
}
inside-gauge-and-system = gauge and system only
inside-system = system only
inside-no-gauge = { $inside }; no micron gauge reads it
inside-gauge-outside = { $inside }; the gauge is outside and cannot read the hold test
core-in-port = core in the port
open-port = open port
