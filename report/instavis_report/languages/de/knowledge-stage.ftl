stage-feel-wanted = Kein Ball. Halt die Position, bis sie mit geschlossenen Augen wiederzufinden ist.
stage-rehearse-wanted = Kein Ball. Langsam, beide Richtungen, drei hintereinander gleich.
stage-chip-wanted = Ein kurzer Ball, der dort startet, wo die Stufe es sagt; die Weite zählt nicht.
stage-half-wanted = Ein Ball mit halbem Schwung durch das Tor. Etwas Kurve ist in Ordnung.
stage-three-quarter-wanted = Derselbe Ball, länger.
stage-full-wanted = Ein voller Ball durch das Tor, innerhalb der Grenzen.
stage-mixed-wanted = Andere Schläger und Ziele in zufälliger Folge, ohne den Gegenstand.
