recordings-all-four-pelvis-markers-seen = alle vier Beckenmarker beim Ansprechen gesehen
recordings-before-chest-arms = vor Brust und Armen
recordings-bridged = Überbrückt: { $samples }
recordings-cells-header = { $header } Zellen, wie in der Überschrift
recordings-column-time-time-ms = eine Spalte time_s (oder time_ms)
recordings-every-column-once = jede Spalte einmal
recordings-every-series-once = jede Reihe einmal
recordings-header-one-row-sample = eine Überschrift und eine Zeile je Messung
recordings-left-out-unknown = Ausgelassen (unbekannt): { $names }
recordings-marker-corner = ein Marker der Ecke { $corner }: { $limit }
recordings-most-samples = höchstens { $most } Messungen
recordings-no-gap-longer-ms = keine Lücke länger als { FIXED($value, digits: 0) } ms
recordings-pelvis-before-chest-arms = Becken vor Brust und Armen
recordings-samples-second = { FIXED($slowest, digits: 0) } bis { FIXED($fastest, digits: 0) } Messungen in der Sekunde
recordings-seconds-these = { $shortest } bis { FIXED($longest, digits: 0) } Sekunden; sind das { $other }?
recordings-swing-curve-turns-back-through = ein Schwung: die Kurve dreht zurück und durch um { FIXED($turn, digits: 0) }° oder mehr
recordings-swing-pressure-goes-back-lead = ein Schwung: der Druck geht zurück, dann zur vorderen Seite
recordings-swing-through-ball-curve-never = ein Schwung, der durch den Ball kommt: die Kurve kommt nie zurück
recordings-time-0 = eine Zeit von 0 bis { FIXED($end, digits: 2) } s
recordings-time-after = eine Zeit nach { $moment } ({ FIXED($time, digits: 3) } s)
recordings-time-every-row = eine Zeit in jeder Zeile
recordings-times-rise-row-row = Zeiten, die von Zeile zu Zeile steigen
recordings-to = { SHORT($low) } bis { SHORT($high) }
recordings-turn-pressure-nothing-here-shows = Drehung oder Druck: nichts hier sagt die Momente
recordings-unit-another-one = ; ist die Einheit eine andere?
recordings-values = Werte
recordings-samples-of = { $n ->
    [one] { $n } Messwert von { $name }
   *[other] { $n } Messwerte von { $name }
}
