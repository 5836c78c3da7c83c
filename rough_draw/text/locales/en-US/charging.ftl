## Charge, weighing in, running readings, cautions.

adder-typed = { $adder }
adder-by-density = { $adder }, from the density of { $refrigerant }
adder-no-line = no liquid line
adder-unknown = What a meter of liquid line takes is not known here for { $refrigerant }: type the adder, by the maker's table.
charge-line-more = { $length } more
charge-line-less = { $length } less
charge-sum = { $nameplate } nameplate { $sign ->
    [minus] −
   *[plus] +
} { $extra } for { $line } of line at { $adder }{ $accessories }{ $held }
charge-accessories = {" "}+ { $mass } for accessories
charge-held = {" "}− { $mass } held in the unit
charge-no-nameplate = no nameplate charge on the sheet
charge-give-nameplate = Enter the nameplate charge
    .why = Under Scope; then the weight is worked out.
charge-give-adder = Enter the adder
    .why = Under Scope, by the maker's table: no density of this refrigerant is known here to work it out from.
charge-suction-open = The suction side is open while liquid goes in: close it, or liquid reaches the compressor.
charge-heavier = Cylinder { $nth } is { $mass } heavier after than before, so nothing is counted of it: see whether its two weights stand the wrong way round.
charge-hose-keeps = The hose keeps about { $mass }; it is drawn in at the end, with the cylinder closed.

weigh-before = Open the cylinder slowly
    .why = To { $stop }, and no further before it runs.
weigh-flowing = Let it flow
    .why = { $left } to the stop, { $time } at this flow.
weigh-slow = Throttle it now
    .why = { $left } to the stop, { $time } at this flow.
weigh-stop = Close the cylinder
    .why = { $added } is in; the last { $left } is trimmed while it runs.
weigh-over = Over
    .why = { $more } more than was to go in. Recover it, and write it down.
weigh-still = It has stopped flowing
    .why = Pressures have evened out, or a valve is closed. Warm water around the cylinder, never a flame; or start the system.
weigh-heel = The cylinder is down to its heel: vapor comes now. Change it before liquid is needed.
weigh-next-cylinder = This cylinder gives { $given } more, and { $rest } is still needed: have the next one ready.
leaves-as-liquid = { $refrigerant } is a zeotropic blend: take it from the cylinder as liquid only, or what stays behind changes its mix.
leaves-as-either = { $refrigerant } may leave its cylinder as liquid or as vapor. Liquid is quicker, and goes into the liquid line.

running-superheat-misread = Superheat { $value }: cannot be, one of the two is misread.
running-superheat-under = Superheat { $value }, under { $low } to { $high }: liquid may come back to the compressor.
running-superheat-over = Superheat { $value }, over { $low } to { $high }: the evaporator is starved.
running-superheat-within = Superheat { $value }, within { $low } to { $high }.
running-subcooling-misread = Subcooling { $value }: cannot be, one of the two is misread.
running-subcooling-under = Subcooling { $value }, under { $low } to { $high }: a little short of charge.
running-subcooling-over = Subcooling { $value }, over { $low } to { $high }: overcharged, or air in it.
running-subcooling-within = Subcooling { $value }, within { $low } to { $high }.
no-saturation = No saturation of { $refrigerant } is known here: read its own table for pressures, superheat, subcooling and cylinder fill.
outside-saturation = { $pressure } is outside { $low } to { $high }, all that is known of { $refrigerant }.

caution-power = Power off, locked and proved dead. The compressor must not start in a vacuum.
caution-protection = Goggles, gloves, long sleeves. Ventilate. Lead the pump's exhaust outside.
caution-nitrogen = Nitrogen only through a regulator with a relief valve. Never air, never oxygen.
caution-a2l = { $refrigerant } is mildly flammable (A2L): no ignition source, a pump rated for it, purge before any flame.
caution-a2 = { $refrigerant } is flammable (A2): gas detector, rated pump and tools, no ignition source, purge before any flame.
caution-toxic = { $refrigerant } is toxic: wear the breathing protection its data sheet asks for, have a detector on, and lead everything that vents outside.
caution-r-744 = { $refrigerant } stands at { $standing } at { $at }, and far higher when warm: gauges, hoses and tools rated for it. Charge vapor first, above { $triple }: below that, liquid turns to dry ice and plugs lines. It suffocates unseen: ventilate, detector on.
caution-r-717 = { $refrigerant } eats copper and brass: steel hoses and fittings only. Oil stays where it is drained to. Only with the training that your local code asks for.
caution-below-air = { $refrigerant } stands below the air's pressure in this system when cold: a leak draws air in, with the unit standing too. Purge before you trust its pressure.
caution-a3 = { $refrigerant } is flammable (A3): gas detector, rated pump and tools, no ignition source, purge before any flame.
caution-burnout = Burnout: the oil is acid. Wear gloves, and dispose of it as acid.
caution-ice = The coldest spot is at or below freezing: water in it is ice. Warm it before you trust a hold test.
caution-local-codes = Local codes, the manufacturer's instructions and licensed practice come before anything shown here.
caution-isolate-first = Isolate first, pump off second. A stopped pump lets its air and oil back.
caution-pressure-first = Positive pressure before any core goes back or anything comes off a port.
caution-gauge-off-first = Close the gauge off before refrigerant comes, or know that it will be fouled.
caution-nitrogen-vented = Vent holding nitrogen to { $zero } before a pump or a micron gauge is connected.
caution-liquid-line = Liquid into the liquid line, never to the compressor.

charge-adder-zero = The line is longer than the nameplate includes, and its adder is 0: enter the maker's, or let it be computed

recovery-over = { $mass } recovered: this cylinder may take { $most } at the most, 80 % of it as liquid. Use another before it warms up
recovery-room = The recovery cylinder may take { $most } at the most, 80 % of it as liquid on a hot day
