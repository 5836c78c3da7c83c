## Files, backups, records and who may come in: what is wrong, and what to do.

job-unreadable = The sheet of this job cannot be read, at “{ $place }”: a later version wrote it, or the file is damaged.
no-job = There is no job “{ $key }”.
no-person = There is nobody with that number.
no-person-here = There is nobody with number { $number }: choose yourself again.
no-practice-job = There is no practice job “{ $key }”: it may have been removed.
no-own-scenario = There is no scenario of yours called “{ $key }”.
no-scenario = There is no scenario “{ $key }”.
no-part = There is no such part in the kit.
no-template = There is no such template.
no-code = “{ $code }” is no code of a label: they look like RD-K7.
no-rig-aside = There is no such rig set aside.
no-such-edit = Nothing here is called “{ $key }”: the rig may have changed since.
no-page = There is no /{ $path }.
page-replaced = The pages are being replaced by newer ones. Reload in a few seconds.

problem-changed-meanwhile = This sheet was changed meanwhile (it is now at version { $version }): reload, and try again.
problem-sealed-on = This record was sealed on { $day }: what is wrong in it is put right by an amendment.
problem-no-undo = There is nothing to undo on this sheet.
problem-still-open = This record is still open: change the sheet itself.

file-document = the document
file-more = { $count } more
file-too-large = The file has { $size } MB: the most is { $most } MB.
file-large-rig = The file is over { $most } kB: a rig is far smaller.
file-large-scenario = The file is over { $most } kB: a scenario is far smaller.
file-not-utf8 = The file is not text in UTF-8: what is read here is JSON in UTF-8.
file-not-json = Line { $line }, column { $column }: not JSON ({ $fault }).
file-no-sheet = The archive has no { $name } in it: it is no job file.
file-bad-zip = The archive is damaged: take it again from where it was made.
no-logo = The firm has no logo here.
no-photo = There is no such picture here.
photo-too-large = The picture is over { $most } MB: take a smaller one.
photo-no-picture = This is no picture that can be read: JPEG, PNG and WebP can.
photo-too-many = A job keeps { $most } pictures at the most: remove one first.
photo-about = What the picture is about is not known.
file-too-deep = The file is nested too deeply to be a job file.
file-no-object = A job file is a JSON object: this is something else.
file-no-job = This is no job file.
file-no-rig = A rig file is a JSON object with "format": "rough-draw/rig" and "version": 1.
file-scenario-changed = This scenario is not as it was shared: what it tells or its answer was changed. Ask for it once more.
file-no-scenario = A scenario has "format": "rough-draw/scenario": this has not.
file-here-already = This job is here already, unchanged, as “{ $key }”. Nothing was imported.
file-uneven = Readings of “{ $gauge }”: { $times } times for { $pressures } pressures.
file-no-chain = This record was never sealed: it has no chain.
file-chain-unread = Its chain cannot be read: { $fault }.

backup-unread = { $file } cannot be read: { $fault }.
backup-no-database = { $file } is no database file: it does not begin as one does.
backup-too-large = The file is larger than { $most } MB.
backup-damaged = { $file } is damaged: { $fault }.
backup-sheets = The sheets of { $jobs }{ $more ->
        [0] {""}
       *[other] {" "}and of { $more } more
    } cannot be read. All else in it is whole. Put back all the same, these jobs stand in the Yard with why, and stay as they are.
backup-not-ours = { $file } is a database, but none of ours: it has no table { $table }.
database-in-use = { $file } is served already, by process { $process }: one server to a file. Stop that one, or give this one another --db.
database-served = { $file } is being served: restore it on the page Record, or stop the server first.
database-unwritable = { $file } cannot be opened: { $fault }. It must be a file that may be written, on a disk with room.
database-damaged = { $file } is damaged or no database ({ $fault }): put a backup in its place with rough-draw restore, or give another --db.
database-too-new = { $file } was written by a later version ({ $version }): update the application to open it.

chain-numbered = Entry { $place } is numbered { $number }: one was taken out, put in or moved.
chain-not-following = Entry { $place } ({ $kind }) does not follow on the one before it.
chain-changed = Entry { $place } ({ $kind }) was changed after it was sealed.
chain-more = The record holds more than was sealed: { $now } parts for { $then }.
chain-cut = Entries are missing at the end of the chain: it is not as this database last wrote it.
chain-other-closing = The time of closing is not the one that was sealed.
chain-other-weights = The weights of the scale are not those that were sealed.
chain-less = The record holds less than was sealed: { $now } parts for { $then }.
chain-other-sheet = The sheet is not the one that was sealed.
chain-photo-bytes = A picture ({ $about }) was changed after it was taken in.
chain-signature = The signature of { $firm } does not belong to this record.
chain-other-photo = A picture ({ $about }) is not the one that was sealed.
chain-other-step = The step “{ $step }” at { $at } s is not the one that was sealed.
chain-figure-changed = { $gauge }, { $count } readings from { $start } s: a figure was changed.
chain-readings-changed = { $gauge }, { $count } readings from { $start } s: readings were taken out or put in.
chain-never-closed = The chain was never closed.

door-weak = A passphrase has at least { $least } characters: a few words are best.
door-wrong = That is not the passphrase.
door-too-many = Too many wrong ones: wait { $time }.
door-too-large = Too large
    .why = The most is { $most } MB here: export one draw only.
door-not-here = Not here
    .why = This server does not answer to “{ $host }”.
door-elsewhere = From elsewhere
    .why = Another site asked for this: open Rough Draw itself, and do it there.
door-sign-in = Sign in first
    .why = This server asks for its passphrase.
door-out-of-date = Out of date
    .why = This page was opened before the sign-in: reload it, and try again.

diagnosis-no-draw = The pump does not draw on this system now: there is nothing to look into.
diagnosis-no-gauge = Without a micron gauge there is no curve to look into.
quick-no-hold = No hold test can be seen in this curve: enter the second at which it was isolated.
