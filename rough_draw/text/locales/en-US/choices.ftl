## Kinds of system and of gauge to choose from.

template-cooler = Cooler on a condensing unit
    .about = lines and evaporator; the unit keeps its charge
template-freezer = Freezer, two evaporators
    .about = whole circuit: solenoids, receiver, accumulator
template-condensing-circuit = Whole circuit on a condensing unit
    .about = Receiver, king valve, solenoid and compressor are evacuated with the room; its stems stand in the middle.
template-ducted-heat-pump = Ducted heat pump
    .about = Indoor coil and both lines; the outdoor unit keeps its charge. Open its metering valve in service mode.
template-rack-circuit = Rack circuit, three cases
    .about = one circuit between its stop valves
template-ducted-split = Ducted split
    .about = two ports, the unit keeps its charge
template-ductless = Ductless split
    .about = one 5/16 in port
template-multi-zone = Ductless, three zones
    .about = a port for each zone
template-packaged = Packaged rooftop unit
    .about = the whole circuit
template-outdoor-air = Outdoor-air unit with reheat
    .about = reheat coil behind its valve
template-chiller = Small chiller
    .about = electronic valve, receiver, one circuit
template-multi-branch = Variable-flow, four branches
    .about = branches behind their own valves
template-cylinder = Empty recovery cylinder
    .about = before use
template-line-set = Bare line set
    .about = two lines joined at the far end

gauge-class-thermistor = Heated bead
    .about = fouled by oil
gauge-class-stepped = Coarse steps
    .about = a row of lamps, or steps of 10 and more
gauge-class-thin-film = Thin film
    .about = reads early, in fine steps
gauge-class-diaphragm = Diaphragm
    .about = reads any gas alike; stands little pressure
gauge-alone = Gauge
gauge-second-name = Gauge at the pump
gauge-on-pump = { $gauge } on the pump
quick-of-template = kind of system
quick-of-refrigerant = refrigerant
quick-of-standard = standard
practice-all-done = All done, and done well: make one from a number, at level 5.
practice-ballast-stood-open = The gas ballast stood open. Close it.
practice-nothing-wrong = Nothing was wrong with it.
import-taken = { $count ->
    [one] a table with one reading taken in
   *[other] a table with { $count } readings taken in
}
clock-behind = by a clock that was { $off } behind, put right
clock-ahead = by a clock that was { $off } ahead, put right
import-noted = noted in the imported readings

habit-gauge_off = The micron gauge comes off
habit-gauge_off-last = with its port, at the end
    .why = One joint fewer is opened while charge goes in; it stays behind its closed valve.
habit-gauge_off-first-pressure = at the first positive pressure
    .why = It never sees the full charge: behind a closed valve or a core it comes off as soon as pressure is seen.
habit-liquid_hose = The hose at the liquid port comes off
habit-liquid_hose-last = with its port, at the end
    .why = One order for every port.
habit-liquid_hose-first-wisp = at the first wisp of pressure
    .why = It never fills with liquid: what is not in it need not come out of it.
