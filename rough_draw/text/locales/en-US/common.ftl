# A sentence without its full stop, and one with.
two-sentences = { $one }. { $two }
# Two whole sentences.
one-after-another = { $one } { $two }
