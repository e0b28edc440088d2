lesson-aim-farther-start = The aim is { FIXED($moved, digits: 0) }° farther { $side } than at the start.
lesson-ask = ask
lesson-asked = asked
lesson-back = back
lesson-ball-block-after-first = a ball of this block after its first
lesson-ball-cm-farther-start = The ball is { FIXED($moved, digits: 0) } cm farther { $way } than at the start.
lesson-ball-count = { $n ->
    [one] { $n } ball
   *[other] { $n } balls
}
lesson-balls = { $count } balls
lesson-balls-enough = { $count } balls, enough
lesson-balls-more = { $count } balls, { $needed } more
lesson-baseline = baseline
lesson-baseline-prove-comparison-opens-own = baseline or prove; a comparison opens its own
lesson-body-regions-each-pain-injury = body regions, each with pain, injury or stiff
lesson-cause = cause
lesson-check = check
lesson-check-count = { $n ->
    [one] { $n } check
   *[other] { $n } checks
}
lesson-club-groups-each-start-curve = club groups, each with start, curve and off_m
lesson-code-not-valid-lesson-ask = This code is not valid for a lesson. Ask for a new one.
lesson-correct = correct
lesson-forward = forward
lesson-hidden-fault-already-revealed-start = The hidden fault was already revealed. Start another practice lesson.
lesson-length-minutes = a length from { $shortest } to { $longest } minutes
lesson-narrower = narrower
lesson-next = Next: { $following }.
lesson-no-balls = no balls
lesson-no-block-before-one = There is no block before this one.
lesson-not-asked = not asked
lesson-not-chosen = not chosen
lesson-nothing-checked-yet = nothing checked yet
lesson-object-condition-choice = an object of condition and choice
lesson-object-start-curve-off-m = an object with start, curve and off_m
lesson-planned-until-minute = Planned until minute { FIXED($ends, digits: 0) }.
lesson-prove = prove
lesson-ranked = ranked
lesson-screen-disconnected-ask-your-coach = This screen was disconnected. Ask your coach for a new code.
lesson-stance-cm-start = The stance is { FIXED($moved, digits: 0) } cm { $way } than at the start.
lesson-start-correction-before-you-prove = Start a correction before you prove it.
lesson-take-home = take home
lesson-waiting = waiting
lesson-wider = wider
lesson-write-take-home-page-now = Write the take-home page now.
lesson-written = written
