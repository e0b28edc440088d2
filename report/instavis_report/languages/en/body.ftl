body-left-out = Left out: { $answer }.
body-object-part-grade = an object of part and grade
body-one-parts = one of the parts: { $known }
body-painful-anything-loads-left-out = { $part } is painful. Anything that loads it is left out.
