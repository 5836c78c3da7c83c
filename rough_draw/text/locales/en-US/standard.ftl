## Acceptance standards: their names, what each is for, their rules, and what they say of a hold test.

standard-code-minimum = Code minimum
    .about = What most codes ask at the least: reach the level, hold, stay at or under it.
standard-deep-and-flat = Deep and flat
    .about = Pull deep, then the reading must level off. Best for POE oil and low temperature.
standard-two-limit = Two-limit
    .about = A short check on the way down, then a longer hold with a wider limit.
standard-single-deep = Single deep draw
    .about = One deep pull and a long look, as is usual where pressure is read in mbar.
standard-triple = Triple evacuation
    .about = Three pulls with dry nitrogen in between: for systems that were open or wet.
standard-makers-own = Manufacturer's own
    .about = The figures of the unit's manual: type them in.
standard-dial-only = Dial gauge only
    .about = Read on a needle. It proves little, and is recorded as unverified.

rule = { $broken }pull to { $target }{ $kept }, hold { $time }, stay at or under { $limit }{ $flat }{ $dial }
rule-broken = { $count } × down to { $to } and broken with nitrogen, then{" "}
rule-kept = {""}, keep it there { $time }
rule-flat = {" "}and level off to under { $rate }
rule-dial = {""}; the needle must not move, and that proves little

proposed-flooded = water got in: dry nitrogen between the draws carries out what one draw leaves
proposed-compressor-burnt = a burnout leaves acid and water: dry nitrogen between the draws carries it out
proposed-low-temperature = low temperature: water that is left freezes at the expansion valve
proposed-thirsty-oil = { $oil } oil takes up water and keeps it: pull deep and watch it level off
proposed-custom = one deep pull and a long look is usual where pressure is read in mbar
proposed-no-oil = no oil to hold water: the code minimum is usual
proposed-dry-oil = { $oil } oil holds little water: the code minimum is usual

outcome-passes = passes
outcome-fails = fails
outcome-not-yet = not yet
outcome-no-readings = no readings in the hold test yet
outcome-no-gauge = no micron gauge read this hold test
outcome-needle-moved = the needle came up by { $rise } in { $time }
outcome-dial = unverified: a needle can be off by { $level }, so it cannot show this
outcome-rose-above = rose above { $limit } after { $time } (reached { $peak })
outcome-began-above = the hold test began at { $start }, above the { $target } to pull to
outcome-so-far = { $peak } at most so far; { $left } to go
outcome-still-rising = still rising { $rate } at the end, more than { $asked }
outcome-settled = leveled off at { $level }, rising { $rate } at the end
outcome-stayed = { $peak } at most in { $time }

leaves-dial = Everything that a needle cannot show: recorded as unverified.
leaves-flat = A leak under { $rate }. What has not leveled off yet does not pass.
leaves-breaks = Free water: nitrogen does not dilute it, it only warms it.
leaves-rise = A steady rise that stays under the limit for that long.
