## Where British English differs.

word-break = Nitrogen break
    .means = Dry nitrogen let into the vacuum. Each break thins out the vapour that is left, and carries heat to ice and water.
    .also = vacuum break
word-bulb = Bulb
    .means = The sensor of a TEV on the suction line. Warmed by hand it opens the valve.
    .also = sensing bulb
word-burnout = Burn-out
    .means = A compressor motor that burned: its oil is acid. Flush, new drier, acid test.
    .also = compressor burned out
word-free-water = Free water
    .means = Liquid water, not vapour. The reading stays at its boiling pressure until it is gone.
    .also = standing water
word-saturation = Saturation
    .means = The pressure at which a liquid and its vapour are in balance at a temperature. Water at 68 °F or 20 °C: 17,500 microns.
    .also = vapour pressure, boiling pressure
word-seal = Seal
    .means = A chain of hashes over a finished record: any change afterwards shows.
word-solenoid = Solenoid valve
    .means = Closed without power. Lift it with a magnet or energise its coil alone.
word-superheat = Superheat
    .means = How far a vapour is above its boiling temperature at its pressure.
word-txv = Thermostatic expansion valve (TEV)
    .means = Opens by the warmth of its bulb. Cold and in a vacuum it may be closed.
    .also = TXV, TX valve
