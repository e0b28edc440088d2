body-left-out = Ausgelassen: { $answer }.
body-object-part-grade = ein Objekt aus Teil und Antwort
body-one-parts = einer der Teile: { $known }
body-painful-anything-loads-left-out = { $part } tut weh: was es belastet, bleibt weg.
