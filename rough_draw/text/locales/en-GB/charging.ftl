## Where British English differs.

weigh-heel = The cylinder is down to its heel: vapour comes now. Change it before liquid is needed.
leaves-as-either = { $refrigerant } may leave its cylinder as liquid or as vapour. Liquid is quicker, and goes into the liquid line.
caution-burnout = Burn-out: the oil is acid. Wear gloves, and dispose of it as acid.
caution-local-codes = Local codes, the manufacturer's instructions and licenced practice come before anything shown here.
