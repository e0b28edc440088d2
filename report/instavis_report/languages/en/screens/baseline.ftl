baseline-10-balls-say-nothing-yet = { $cold_balls } of 10 balls. Say nothing yet.
baseline-about = about { $value }
baseline-about-inferred = about { $value }{ $error }, inferred
baseline-add-ball-hand = Add a ball by hand
baseline-add-lesson = Add to this lesson
baseline-added-loft-2 = added loft
baseline-ahead = ahead of
baseline-aim-right-target = Aim right of target [°]
baseline-all-values-ball = All values of this ball
baseline-and = { $low } and { $high }
baseline-ball = Ball { $numberOf }: { $reason }
baseline-ball-2 = Ball { $number }{ $message }
baseline-ball-cm-ball = Ball { $number }: { $distance } cm { $where } the ball
baseline-ball-does-not-agree-other = Ball { $numberOf }: { $label } does not agree with its other values.
baseline-ball-inside-lead-heel-cm = Ball inside lead heel [cm]
baseline-ball-speed-lost = Ball speed lost
baseline-balls = , { $balls } balls:
baseline-balls-excluded-automatically = { $n ->
        [one] { $n } ball excluded automatically
       *[other] { $n } balls excluded automatically
    }
baseline-balls-hand = Balls by hand
baseline-balls-imported = { $stored } balls imported{ $known_already }.
baseline-balls-number-inferred-flight-not = On { $inferred } of { $cold_balls } balls the number is inferred from the flight, not measured.
baseline-baseline-median = the baseline median
baseline-behind = behind
baseline-behind-ball = ← behind the ball
baseline-change = with your change
baseline-choose-bay-whose-monitor-use = Choose the bay whose monitor you use (top right), or import a file.
baseline-choose-file-again-will-see = Choose the file again. You will see its columns, units and signs before anything is stored.
baseline-club-shown = Club shown
baseline-club-speed-2 = club speed
baseline-cm = { $abs } cm
baseline-cold-test = Cold test
baseline-cold-test-days-after = Cold test: { $label }, { $metric }, { $days_ago } days after
baseline-contact-saves-ball = Contact (saves the ball)
baseline-curve = Curve
baseline-curved = Curved
baseline-distance-between-heels-cm = Distance between heels [cm]
baseline-distance-offline = Distance offline
baseline-dotted-start-not-measured-curve = Dotted: start not measured, curve unknown.
baseline-doubtful = { $value } ? doubtful
baseline-earlier-baselines-club = { $n ->
        [one] { $n } earlier baseline with this club
       *[other] { $n } earlier baselines with this club
    }
baseline-enough-balls = You have enough balls.
baseline-face-2 = Face
baseline-face-3 = face
baseline-far-left = far left
baseline-far-right = far right
baseline-glancing-blow-2 = glancing blow
baseline-golfer-made-up-hits-request = Your golfer is made up and hits on request: press h, or “Hit a ball”.
baseline-hard-left = hard left
baseline-hard-right = hard right
baseline-heel-2 = heel
baseline-height = Height
baseline-high-2 = High
baseline-high-3 = high
baseline-hit-about-more-reliable-pattern = Hit about { $needed } more for a reliable pattern.
baseline-import-file = Import file
baseline-lead = lead
baseline-left = ← left { $distance }
baseline-let-student-hit-8-15 = Let the student hit 8 to 15 balls. Say nothing.
baseline-line = on line
baseline-listening-bay-balls-appear-automatically = Listening to the bay. Balls appear automatically.
baseline-low-2 = low
baseline-low-point-balls-inferred-attack = Low point of { $n } balls, { $middle }, inferred from the attack angle and turf marks
baseline-measured = as measured
baseline-measured-start-landing-point-not = Measured: start and landing point, not the curve between.
baseline-median = Median
baseline-median-clean-balls = { $n ->
        [one] Median of { $n } clean ball
       *[other] Median of { $n } clean balls
    }
baseline-modelled = Modelled
baseline-monitor-gave-no-carry-side = The monitor gave no carry and side for these balls.
baseline-more-baseline-balls = More baseline balls
baseline-none = none
baseline-off-center-strike-2 = off-center strike
baseline-offline = Offline
baseline-path-2 = path
baseline-path-face = Path and face
baseline-path-face-speed-ball-not = Path, face and speed of this ball are not known well enough to explain its flight.
baseline-path-face-strike-not-measured = Path, face and strike are not measured.
baseline-pattern = The pattern
baseline-pattern-detail = Pattern in detail
baseline-pictures = Pictures
baseline-probably-between = Probably between
baseline-reading = Reading…
baseline-reset = Reset
baseline-rest = rest
baseline-right = right { $distance } →
baseline-save-csv = Save as CSV
baseline-save-setup = Save setup
baseline-setup-ball-stance-aim-compare = Setup: ball, stance and aim, to compare later
baseline-setup-checks-during-warm-up = Setup checks during warm-up
baseline-setup-checks-during-warm-up-left = Setup checks during warm-up, { $n } left
baseline-setup-saved-times = { $n ->
        [one] Setup, saved once
       *[other] Setup, saved { $n } times
    }
baseline-shot-file-import = Shot file to import
baseline-side = { $distance } to the { $side } side
baseline-spin-axis-tilt = Spin-axis tilt
baseline-spread = Spread
baseline-start = Start [°]
baseline-start-curve = Start and curve
baseline-start-curve-balls-seen-behind = Start and curve: { $n } balls seen from behind
baseline-start-direction-2 = Start direction
baseline-start-not-measured = , start not measured
baseline-started = Started
baseline-starts-drag-value-see-what = Starts from { $start }. Drag a value to see what the ball would do.
baseline-strike-2 = strike
baseline-strike-face = Strike on the face
baseline-tight-2 = tight
baseline-toe-2 = Toe
baseline-toe-3 = toe
baseline-too-few-balls = too few balls
baseline-toward-target = toward the target →
baseline-trail = trail
baseline-unassigned-balls-bay-hit = { $n ->
        [one] { $n } unassigned ball in the bay, hit { $first }.
       *[other] { $n } unassigned balls in the bay, hit { $first } to { $last }.
    }
baseline-usual = usual
baseline-varies = Varies by
baseline-varies-usual = { $label } varies by { $spread }; { $usual } is usual
baseline-views-pattern = Views of the pattern
baseline-was = was { $before }
baseline-what-if = What if
baseline-what-made-median-balls = What made it, median of { $balls } balls
baseline-wide-2 = wide
baseline-words-coarse-they-stored-words = Words are coarse. They are stored as words, not as measurements.
baseline-face-to-path = face to path
