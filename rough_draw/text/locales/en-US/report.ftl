## The report.

report-title = Evacuation record
report-what-it-is = { $system }, { $refrigerant }
report-by = { $dated ->
    [no] { $by }
   *[yes] { $by }, { $when }
}
report-simulated = SIMULATED: readings come from the simulated gauge, and not from this system. This certifies nothing.
report-simulated-mark = SIMULATED
report-standard-says = { $standard } ({ $rule }): { $says }.
report-no-figure = –
report-by-needle = needle
report-tile-lowest = Lowest level
report-tile-isolated = At isolation
report-tile-end = At the end
report-tile-held = Held
report-tile-rate = Rise at the end
report-tile-charge = Weighed in
report-dashed = Dashed: { $gauges }
report-rig = The rig, as it was set up
report-system-and-kit = System and kit
report-tests = Pressure tests
report-test-test = Test
report-test-when = Put by
report-test-start-end = From and to
report-test-minutes = Time
report-test-evidence = What it says
report-test-tightness = Tightness test
report-test-strength = Strength test
report-test-pressure = { $pressure }
report-test-at = { $pressure } at { $temperature }
report-test-from-to = { $start } to { $end }
report-steps = Steps, from { $since }
report-hand = By
report-readings-of = Readings: { $gauge }
report-photos = Photos
report-photo-absent = The picture itself is not in this file.
report-photo-by = { $of }, { $when }{ $named ->
    [no] {""}
   *[yes] , { $by }
}, { $hash }
photo-of-check = Check: { $what }
photo-of-step = Step: { $what }
photo-of-port = Port: { $what }
photo-of-visit = Follow-up visit { $what }
photo-of-hold-end = Gauge at the end of the hold
photo-of-nameplate = Nameplate
photo-of-oil = Oil glass
photo-of-rig = Rig
photo-of-other = Photo
report-visits = Follow-up visits
report-visit-when = When
report-visit-days = After
report-visit-by = By
report-visit-seen = What was seen
report-visit-after = { $days ->
    [0] same day
    [1] 1 day
   *[other] { $days } days
}
report-visit-set-point = set point { $temperature }
report-visit-outdoor = outdoor { $temperature }
figure-time = { $time }
figure-rise = { $rise }
gauge-number = gauge { $number }
report-title-of = Evacuation record: { $customer } { $unit }
report-evacuation = Evacuation
report-foot = Rough Draw { $version }, verdict { $algorithm }, printed { $when }
report-foot-hash = Rough Draw { $version }, verdict { $algorithm }, hold data SHA-256 { $hash }, printed { $when }
report-page = page { $number } of { $count }
report-not-given = not given
report-none = none
report-none-recorded = none recorded
report-oil = Oil
report-oil-of = { $oil }, { $mass }
report-volume = Volume
report-condition = Condition
report-ambient = Ambient
report-ambient-of = { $ambient }, coldest spot { $coldest }
report-elevation = Elevation
report-elevation-of = { $length }
report-pump = Pump
report-pump-of = { $name }, { $size }, { $oil }
report-pump-blank-off = { $pump }, blank-off { $level }
report-hoses = Hoses
report-ports = Ports
report-port-core-in = { $port } (core in)
report-port-core-out = { $port } (core out)
report-manifold = Manifold
report-manifold-of = { $body }, pump on its { $port } port
report-gauge = Gauge
report-more-gauges = Further gauges
report-gauge-of = { $name }. { $where }
report-dial-only = dial only
report-licensed = { $name }, license { $licence }
report-proved = Proved before the pump ran
report-check = Check
report-evidence = State and evidence
report-check-of = { $state }. { $evidence }
report-check-open = Not recorded
report-check-passed = Passed
report-check-stated = Stated
report-check-doubtful = Doubtful
report-check-failed = FAILED
report-check-skipped = SKIPPED
report-draw = Draw
report-draw-of = Draw: { $count } readings from { $since }
report-no-readings = No readings were taken.
report-time = Time
report-step = Step
report-note = Note
report-reading = Reading
report-readings = Readings at even steps
report-over-range = over range
report-hold = Hold test (decay test)
report-no-hold = No hold test was read.
report-verdict = { CAP($likely) } ({ $odds }); { $time } read; { $inside }.
report-odds = Odds: { $causes }.
report-odds-of = { $cause } { $odds }
report-leak = Leak { $rate }, { $inflow }.
report-certifies-nothing = { $time } read; { $inside }.
report-water = Water left { $mass }.
report-standard = Standard
report-says = Says
report-because = Because
report-passed = passed
report-failed = FAILED
report-not-yet = not yet
report-release-and-charge = Release and charge
report-to-weigh = To weigh in
report-to-weigh-of = { $mass }: { $sum }
report-no-nameplate = no nameplate charge given
report-weighed = Weighed in
report-mass = { $mass }
report-scale = By the scale
report-recovered = Recovered before
report-weights = { $before } before, { $after } after
report-weights-of = cylinder { $number }: { $weights }
report-weights-next = { $weights }; { $next }
report-no-weights = no weights taken
report-release = Release
report-ports-checked = Ports checked
report-port-tight = { $port }: { $seen }, { $time }, tight
report-port-leaks = { $port }: { $seen }, { $time }, LEAKS
report-weights-simulated = { $weights }; by the simulated scale
report-weights-between = { $weights }; in between { $between }
report-port-checked = { $port }: { $seen }
report-new-cores = New cores
report-first = After the start
report-later = Follow-up visit
report-running-suction = suction { $pressure }
report-running-liquid = liquid { $pressure }
report-running-suction-at = suction { $temperature }
report-running-liquid-at = liquid { $temperature }
report-running-in-at = air in { $temperature }
report-running-out-at = air out { $temperature }
report-condensate = condensate drains
report-no-condensate = no condensate
report-deviations = Deviations
report-remarks = Remarks
report-kit = Kit
report-kit-part = Part
report-kit-number = Number
report-kit-health = Condition
report-kit-no = no. { $number }
report-kit-state = { CAP($state) }: { $why }
report-kit-none = nothing on file
report-cautions = Cautions
report-ticked = [x] { $what }
report-unticked = [ ] { $what }
report-signature = Signature
report-not-signed = not signed
report-seal = Seal
report-sealed = Sealed
report-sealed-of = { $when } by { $by }, { $count } entries, { $state }
report-whole = whole: nothing was changed since
report-not-whole = NOT WHOLE: { $faults }
report-hash = Hash
report-firm-key = Signed
report-signed-with = { $firm }, key { $key }
report-amended-when = Amended
report-amended-what = What
report-amended-said = It said
report-amended-should = It should say
report-amended-why = Why, and by whom
port-bubble = bubble check
port-electronic = electronic detector
port-both = bubbles and electronic detector
chart-minutes = minutes
chart-target = target { $level }
chart-limit = limit { $level }

## What a record deviates in, and what is being sealed.

deviation-check-open = Check not seen: { $check }
deviation-check-stated = Check stated, no evidence: { $check }
deviation-check-doubtful = Check doubtful: { $check }
deviation-check-failed = Check failed: { $check }
deviation-check-skipped = Check skipped: { $check }
deviation-no-draw = The pump was never started: no evacuation is on this record
deviation-no-readings = Not one reading was taken
deviation-no-hold = No hold test was made
deviation-short-hold = The hold test was read for { $held }; { $standard } asks for { $needed }
deviation-no-verdict = There is no verdict on the hold test
deviation-verdict = The verdict is: { $headline }
deviation-standard-fails = { $standard } fails it: { $reason }
deviation-standard-open = { $standard } could not be applied{ $reason ->
        [one] {""}
       *[other] : { $reason }
    }
deviation-against = { $count ->
        [1] A step was made against a stop
       *[other] { $count } steps were made against a stop
    }: { $steps }
deviation-simulated = Readings come from the simulated gauge, and not from this system
deviation-charge = { $off } { $more ->
        [more] more
       *[less] less
    } weighed in than was to be
deviation-steps = { $count } steps of the release are not done: { $steps }
deviation-cautions = { $count ->
        [1] One caution is not ticked
       *[other] { $count } cautions are not ticked
    }
sealing-what = { $drawn ->
        [no] No draw.
       *[yes] { $read ->
            [no] A draw without readings.
           *[yes] A draw down to { $lowest }.
        }
    } { $held ->
        [no] No hold test.
       *[yes] A hold test of { $span }: { $headline }.
    } { $count ->
        [0] Nothing deviates.
        [1] One deviation.
       *[other] { $count } deviations.
    }
deviation-and-another = { $one }; { $two }
seal-deviates = Not sealed: { $count ->
        [1] one deviation has no reason
       *[other] { $count } deviations have no reason
    }. { $what }. Mend it, or give a reason for each.
report-deviation-why = { $what }. Reason: { $reason }
report-deviation-open = { $what }. No reason given yet
report-no-deviations = None.
