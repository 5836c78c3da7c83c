## What is wrong with a table of readings, and what was guessed about it.

table-too-large = The file has { $size } MB: the most is { $most } MB. Export one draw only.
table-too-long = More than { $most } rows: export one draw only.
table-empty = The file is empty.
table-zip = This is a zip archive or a spreadsheet, not CSV: save it as CSV first.
table-cut-off = The file begins as UTF-16, but is cut off or damaged.
table-not-text = This is not a text file: export the readings as CSV.
table-encoding = The encoding is not known: save the file as UTF-8.
table-not-csv = This line is not CSV ({ $fault }).
table-nothing = The file holds no rows.
table-no-rows = There are no rows under the header.
table-one-column = One column only: a table needs a time and a pressure in each row.
table-no-header = No header with a time and a pressure, and “{ $text }” is not a number.
table-no-times = No column of times among: { $names }.
table-no-pressures = No column of pressures among: { $names }.
table-columns = { $count ->
    [one] Has 1 column where { $width } are expected: is another separator used here?
   *[other] Has { $count } columns where { $width } are expected: is another separator used here?
}
table-time-back = The time goes back by { $time } against line { $at }: sort the rows, or remove this one.
table-same-time = The same time as line { $at }, with another pressure: which one is right?
table-no-time = The time is missing.
table-time = { $kind ->
    [seconds] “{ $text }” is not a time in seconds.
    [minutes] “{ $text }” is not a time in minutes.
    [datetime] “{ $text }” is not a date and time that can be read.
   *[clock] “{ $text }” is not a time such as 13:34 or 13:34:05.
}
table-time-59 = “{ $text }” has more than 59 minutes or seconds.
table-number = “{ $text }” is not a number.
table-unit = “{ $text }” is not a unit of pressure.
table-no-unit = The unit of “{ $column }” is not known: choose one.
table-pressure = “{ $text }” is not a pressure: write a number, or OVER for over range.
table-negative = { $text } is negative: an absolute pressure cannot be below zero.
table-above-air = { $text } is { $pressure }, above the atmosphere: wrong unit, or a slip of the pen.
table-nothing-in-range = Column “{ $column }” carries no readings in range.
table-more = And more: the rest was not looked at.
guess-microns = No unit is given for “{ $column }”: taken as microns.
guess-dial = “{ $column }” is read as a dial vacuum below the local atmosphere, in { $unit }.
guess-absolute = “{ $column }” ends near zero, so it is read as absolute, in { $unit }. Is it a dial? Then correct it.
guess-put-back = The clock goes back by an hour in the middle: read as the night on which clocks are put back.
guess-no-header = No header: first column taken as time, second as pressure in microns.
guess-seconds = The table does not say what its times are in; seconds is only usual.
guess-minutes = Times such as 0:16 are read as minutes and seconds.
guess-day-first = Dates such as 05/07 may begin with the day or the month; nothing in the table tells.
