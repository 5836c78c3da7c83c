## Where British English differs.

check-power-off = isolator off
check-compressor = The compressor cannot start
    .why = A thermostat, a timer or a remote start calls when nobody looks. Never energise or megger one in a vacuum.
check-open-solenoid = { $link }: lift it with a magnet, or energise its coil alone
