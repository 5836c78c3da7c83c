## Where British English differs.

setup-of-two-valve = Two-valve manifold, core tools on the ports
    .about = Pump on the centre hose.
habit-first-suction = suction
    .why = Vapour comes first, and no liquid shoots through the line.
condition-compressor-burnt = Burn-out
    .about = acid and water
opened-solenoid = lift it with a magnet, or energise its coil alone
