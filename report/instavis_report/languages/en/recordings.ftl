recordings-all-four-pelvis-markers-seen = all four pelvis markers seen at address
recordings-before-chest-arms = before chest and arms
recordings-bridged = Bridged: { $samples }
recordings-cells-header = { $header } cells, as in the header
recordings-column-time-time-ms = a column time_s (or time_ms)
recordings-every-column-once = every column once
recordings-every-series-once = every series once
recordings-header-one-row-sample = a header and one row a sample
recordings-left-out-unknown = Left out (unknown): { $names }
recordings-marker-corner = a marker of the { $corner } corner: { $limit }
recordings-most-samples = at most { $most } samples
recordings-no-gap-longer-ms = no gap longer than { FIXED($value, digits: 0) } ms
recordings-pelvis-before-chest-arms = Pelvis before chest and arms
recordings-samples-second = { FIXED($slowest, digits: 0) } to { FIXED($fastest, digits: 0) } samples a second
recordings-seconds-these = { $shortest } to { FIXED($longest, digits: 0) } seconds; are these { $other }?
recordings-swing-curve-turns-back-through = a swing; the curve turns back and through by { FIXED($turn, digits: 0) }° or more
recordings-swing-pressure-goes-back-lead = a swing: pressure goes back, then to the lead side
recordings-swing-through-ball-curve-never = a swing through the ball; the curve never comes back
recordings-time-0 = a time from 0 to { FIXED($end, digits: 2) } s
recordings-time-after = a time after { $moment } ({ FIXED($time, digits: 3) } s)
recordings-time-every-row = a time in every row
recordings-times-rise-row-row = times that rise from row to row
recordings-to = { SHORT($low) } to { SHORT($high) }
recordings-turn-pressure-nothing-here-shows = turn or pressure; nothing here shows the moments
recordings-unit-another-one = ; is the unit another one?
recordings-values = values
recordings-samples-of = { $n ->
    [one] { $n } sample of { $name }
   *[other] { $n } samples of { $name }
}
