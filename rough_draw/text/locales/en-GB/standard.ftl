## Where British English differs.

outcome-settled = levelled off at { $level }, rising { $rate } at the end
leaves-flat = A leak under { $rate }. What has not levelled off yet does not pass.
