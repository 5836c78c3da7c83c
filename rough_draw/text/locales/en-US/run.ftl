## A run: where it stands, what was done.

pace-no-reading = no reading yet
pace-as-planned = as planned
pace-slower = slower than planned
pace-faster = faster than planned
run-nitrogen-in = nitrogen in the system
run-draw = pull { $number } of { $count }
run-no-gauge = no gauge yet
run-gauge-place = { CAP($place) }
run-dial-only = Dial only
fit-contradicts = Nothing the plan allows for explains it: the nearest is { $off } off.
fit-out-of-reach = It will not get there within a day as things are.
fit-as-readings = As the readings so far show.

done-pump-on = Pump started
done-pump-off = Pump stopped
done-ballast-open = Gas ballast opened
done-ballast-shut = Gas ballast closed
done-valve-flush = Ball valves opened and closed once
done-check-hold = Isolated for a hold check
done-check-end = Opened again after the hold check
done-break = Vacuum broken with nitrogen
done-break-end = Nitrogen closed, pumped again
done-oil-change = Pump oil changed
done-warm-up = Heat put on
done-isolate = System isolated
done-reopen = System opened to the pump again
done-cylinder-open = Cylinder opened
done-cylinder-throttle = Cylinder throttled
done-cylinder-shut = Cylinder closed
done-compressor-on = System started
done-compressor-off = System stopped
done-scale-zero = Scale zeroed
done-note = Note
done-open = Opened { $what }
done-shut = Closed { $what }
done-take-off = Took off { $what }
done-put-on = Put on again { $what }
part-exchanged = { $new } in the place of { $old }
done-core-out = Pulled the core at { $what }
done-core-in = Put the core back at { $what }
done-looked = Looked:
done-looked-anew = Looked again from the beginning
done-see-pressure = Saw positive pressure at the ports
done-vent-pump = Vented the pump side
done-start = Started the system
done-stop-unit = Stopped the unit
done-read-floor = Read the floor of the rig alone
done-read-target = Pulled to the target again
done-pump-care = Looked after the pump
done-tag = Tagged it
done-check-room = Checked that the whole charge has room
done-gauges-on = Pressure gauge on the suction side
done-watch-suction = Watched the suction pressure fall
done-see-still = Saw the suction pressure stand still
done-lock-off = Power off, locked, proved dead
done-stem-cap = Cap on the stem of { $what }
done-check-port = Leak-checked { $what }
done-purge = Purged the charging hose
done-zero-scale = Zeroed the scale
done-weigh-in = Weighed in
done-trim = Trimmed the charge
done-empty-hose = Emptied the charging hose inward
done-taken-back = Correction, did not happen: { $step }
done-energise = Power to the compressor
done-crack = Opened a quarter turn: { $what }
done-cap = Capped { $what }
done-put-rig-on = Put a rig on: { $setup }
done-called = Verdict: { $verdict }
done-named = Named: { $cause }
done-hint = Asked for a hint: { $hint }

step-unknown = There is no step { $step }; use one of { $known }, open:<valve>, shut:<valve>.
step-no-valve = This rig has no valve { $valve }; it has { $known }.
step-no-part = There is no { $part }; there are { $known }.
pace-unknown = A pace of { $pace } is not offered: use { $offered }.
own-readings = This job has readings of its own. Open a new job to use the simulated gauge.

## Problems.

problem-entered = Check what was entered
problem-readings = These readings cannot be imported
problem-nothing-imported = { $count ->
    [one] Nothing was imported: 1 fault.
   *[other] Nothing was imported: { $count } faults.
}
problem-not-possible = Not possible
problem-not-stored = Not stored
problem-database = The database did not take it ({ $fault }). Nothing was changed: try again.
problem-request = The request cannot be read.
problem-sheet = This sheet cannot be computed
problem-not-found = Not found
problem-changed = Changed meanwhile
problem-nothing-to-undo = Nothing to undo
problem-sealed = This record is sealed
problem-open = This record is open
problem-backup = This backup cannot be used
problem-duplicate = It is here already
problem-photo = This picture cannot be kept
problem-file = This file cannot be imported
problem-rig = This rig cannot be computed
problem-run = This run cannot be computed
note-no-pressure = A pressure is above 0: there is no less than nothing.
note-dilution-order = Nitrogen lifts the pressure: the level it is broken at has to be under the one broken to.
note-no-refrigerant = No refrigerant { $refrigerant }: choose one of { $known }.
note-give-one = Give a pressure (pa) or a temperature (boils_c).
