# A sentence without its full stop, and one with.
two-sentences = { $one }. { $two }
# Two whole sentences.
one-after-another = { $one } { $two }
# Several names in a row.
name-and-more = { $before }, { $one }
name-and-last = { $before } and { $last }
name-or-last = { $before } or { $last }
level = { $level }
figure-range = { $value } ({ $low } to { $high })

own-words = { $words }
