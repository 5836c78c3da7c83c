# What is said otherwise in the UK.
consequence-suction-only = The cylinder reaches only the suction side
    .why = Throttle it, a little at a time, as vapour; a zeotrope as liquid that flashes on the way.
step-ballast-open = Open the gas ballast
    .why = The first water goes out as vapour instead of into the oil.
step-work = Close { $what } and open it again
    .why = The gas caught round its ball comes out. Slowly.
because-into-suction = The suction side: throttled, a little at a time, as vapour; a zeotrope as liquid that flashes.
