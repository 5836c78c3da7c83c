## Where British English differs.

next-break = Break { $number } of { $count }: nitrogen to 0 gauge
    .why = At { $level }. Dry nitrogen takes up vapour that is left, and carries heat in. The steps for this rig are under Nitrogen break.
    .caution = Close the pump off first. Only from a regulated bottle with a relief valve. Never air, never oxygen.
