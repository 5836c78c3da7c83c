## Where British English differs.

finding-oil-used = The pump's oil has been used
    .why = Water in the oil comes back as vapour: the pump cannot pull below it.
finding-oil-used-milky = The pump's oil is milky
    .why = Water in the oil comes back as vapour: the pump cannot pull below it.
setup-c-no-valve = No valve is under it: it will see refrigerant. It is rated { $rated }. Clean it afterwards.
setup-to = { $side ->
    [liquid] the liquid line
   *[other] the { $side } side only, so as vapour or throttled
}
carry-acid = acid-proof gloves, acid test
    .why = burn-out: the oil is acid
