record-before-now-change-between-90 = { $what }: { $before } before, { $now } now. The change is between { $low } and { $high } (90 %).
record-moment-two-swings-differ-less = At this moment the two swings differ by less than one camera can measure.
