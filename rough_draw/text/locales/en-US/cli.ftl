## The command line's words.

cli-line = {"  "}{ $text }
cli-no-verdict = { $verdict }, hold test from { $start }, { $time } read
cli-verdict = { $verdict } ({ $likely }, { $odds }), hold test from { $start }, { $time } read
cli-odds = {"  "}{ $odds } { $likely }: { $cause }
cli-sound = {"  "}Verdict is firm since { $time }
cli-wait = {"  "}about { $time } more until the verdict is firm
cli-standard = {"  "}{ $standard }: { $says }, { $reason }
cli-plan = to { $level }: { $time } ({ $low } to { $high })
cli-plan-far = to { $level }: not within a day
cli-part = {"  "}{ $share } { $part }
cli-saves = {"  "}saves { $time }: { $change }

cli-charge = To weigh in: { $mass }. { $sum }
cli-check-clean = Nothing found.
