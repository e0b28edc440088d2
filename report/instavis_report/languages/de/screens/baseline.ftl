baseline-10-balls-say-nothing-yet = { $cold_balls } von 10 Bällen. Sag noch nichts.
baseline-about = etwa { $value }
baseline-about-inferred = etwa { $value }{ $error }, abgeleitet
baseline-add-ball-hand = Ball von Hand eingeben
baseline-add-lesson = Zu dieser Stunde hinzufügen
baseline-added-loft-2 = mehr Loft
baseline-ahead = vor
baseline-aim-right-target = Zielt rechts vom Ziel [°]
baseline-all-values-ball = Alle Werte dieses Balls
baseline-and = { $low } und { $high }
baseline-ball = Ball { $numberOf }: { $reason }
baseline-ball-2 = Ball { $number }{ $message }
baseline-ball-cm-ball = Ball { $number }: { $distance } cm { $where } dem Ball
baseline-ball-does-not-agree-other = Ball { $numberOf }: { $label } passt nicht zu seinen anderen Werten.
baseline-ball-inside-lead-heel-cm = Ball innerhalb der vorderen Ferse [cm]
baseline-ball-speed-lost = Verlorene Ballgeschwindigkeit
baseline-balls = , { $balls } Bälle:
baseline-balls-excluded-automatically = { $n ->
        [one] { $n } Ball automatisch ausgeschlossen
       *[other] { $n } Bälle automatisch ausgeschlossen
    }
baseline-balls-hand = Bälle von Hand
baseline-balls-imported = { $stored } Bälle importiert{ $known_already }.
baseline-balls-number-inferred-flight-not = Auf { $inferred } von { $cold_balls } Bällen ist die Zahl aus dem Flug abgeleitet, nicht gemessen.
baseline-baseline-median = der Median der Ausgangsmessung
baseline-behind = hinter
baseline-behind-ball = ← hinter dem Ball
baseline-change = mit deiner Änderung
baseline-choose-bay-whose-monitor-use = Wähl oben rechts den Platz, dessen Messgerät du nutzt, oder importiere eine Datei.
baseline-choose-file-again-will-see = Wähl die Datei noch einmal. Du siehst Spalten, Einheiten und Vorzeichen, bevor etwas gespeichert wird.
baseline-club-shown = Angezeigter Schläger
baseline-club-speed-2 = Schlägergeschwindigkeit
baseline-cm = { $abs } cm
baseline-cold-test = Kalter Test
baseline-cold-test-days-after = Kalter Test: { $label }, { $metric }, { $days_ago } Tage danach
baseline-contact-saves-ball = Kontakt (speichert den Ball)
baseline-curve = Kurve
baseline-curved = Gekurvt
baseline-distance-between-heels-cm = Abstand der Fersen [cm]
baseline-distance-offline = Seitliche Abweichung
baseline-dotted-start-not-measured-curve = Gepunktet: Start nicht gemessen, Kurve unbekannt.
baseline-doubtful = { $value } ? zweifelhaft
baseline-earlier-baselines-club = { $n ->
        [one] { $n } frühere Ausgangsmessung mit diesem Schläger
       *[other] { $n } frühere Ausgangsmessungen mit diesem Schläger
    }
baseline-enough-balls = Du hast genug Bälle.
baseline-face-2 = Schlagfläche
baseline-face-3 = Schlagfläche
baseline-far-left = weit links
baseline-far-right = weit rechts
baseline-glancing-blow-2 = streifender Treffer
baseline-golfer-made-up-hits-request = Dein Golfer ist erfunden und schlägt auf Wunsch: drück h oder „Einen Ball schlagen“.
baseline-hard-left = hart links
baseline-hard-right = hart rechts
baseline-heel-2 = Ferse
baseline-height = Höhe
baseline-high-2 = Hoch
baseline-high-3 = hoch
baseline-hit-about-more-reliable-pattern = Noch etwa { $needed } Bälle für ein verlässliches Muster.
baseline-import-file = Datei importieren
baseline-lead = vorne
baseline-left = ← links { $distance }
baseline-let-student-hit-8-15 = Lass den Schüler 8 bis 15 Bälle schlagen. Sag nichts.
baseline-line = auf der Linie
baseline-listening-bay-balls-appear-automatically = Der Platz ist verbunden. Bälle erscheinen automatisch.
baseline-low-2 = tief
baseline-low-point-balls-inferred-attack = Tiefster Punkt von { $n } Bällen, { $middle }, aus Eintreffwinkel und Spuren im Rasen abgeleitet
baseline-measured = wie gemessen
baseline-measured-start-landing-point-not = Gemessen: Start und Landung, nicht die Kurve dazwischen.
baseline-median = Median
baseline-median-clean-balls = { $n ->
        [one] Median von { $n } sauberen Ball
       *[other] Median von { $n } sauberen Bällen
    }
baseline-modelled = Modell
baseline-monitor-gave-no-carry-side = Das Messgerät gab für diese Bälle weder Carry noch Seite.
baseline-more-baseline-balls = Mehr Bälle für die Ausgangsmessung
baseline-none = keiner
baseline-off-center-strike-2 = Treffer neben der Mitte
baseline-offline = Neben der Linie
baseline-path-2 = Bahn
baseline-path-face = Bahn und Schlagfläche
baseline-path-face-speed-ball-not = Bahn, Schlagfläche und Geschwindigkeit dieses Balls sind nicht genau genug bekannt, um den Flug zu erklären.
baseline-path-face-strike-not-measured = Bahn, Schlagfläche und Treffpunkt sind nicht gemessen.
baseline-pattern = Das Muster
baseline-pattern-detail = Muster im Detail
baseline-pictures = Bilder
baseline-probably-between = Wahrscheinlich zwischen
baseline-reading = Wird gelesen…
baseline-reset = Zurücksetzen
baseline-rest = Pause
baseline-right = rechts { $distance } →
baseline-save-csv = Als CSV sichern
baseline-save-setup = Ansprechposition speichern
baseline-setup-ball-stance-aim-compare = Ansprechposition: Ball, Stand und Zielen, um später zu vergleichen
baseline-setup-checks-during-warm-up = Ansprechposition beim Aufwärmen
baseline-setup-checks-during-warm-up-left = Ansprechposition beim Aufwärmen, noch { $n }
baseline-setup-saved-times = { $n ->
        [one] Ansprechposition, einmal gespeichert
       *[other] Ansprechposition, { $n }-mal gespeichert
    }
baseline-shot-file-import = Balldatei importieren
baseline-side = { $distance } zur Seite { $side }
baseline-spin-axis-tilt = Neigung der Spinachse
baseline-spread = Streuung
baseline-start = Start [°]
baseline-start-curve = Start und Kurve
baseline-start-curve-balls-seen-behind = Start und Kurve: { $n } Bälle von hinten gesehen
baseline-start-direction-2 = Startrichtung
baseline-start-not-measured = , Start nicht gemessen
baseline-started = Gestartet
baseline-starts-drag-value-see-what = Ausgehend von { $start }. Zieh einen Wert und sieh, was der Ball tun würde.
baseline-strike-2 = Treffpunkt
baseline-strike-face = Treffpunkt auf der Schlagfläche
baseline-tight-2 = eng
baseline-toe-2 = Spitze
baseline-toe-3 = Spitze
baseline-too-few-balls = zu wenige Bälle
baseline-toward-target = zum Ziel →
baseline-trail = hinten
baseline-unassigned-balls-bay-hit = { $n ->
        [one] { $n } Ball ohne Stunde am Platz, geschlagen { $first }.
       *[other] { $n } Bälle ohne Stunde am Platz, geschlagen { $first } bis { $last }.
    }
baseline-usual = üblich
baseline-varies = Streut um
baseline-varies-usual = { $label } streut um { $spread }, üblich sind { $usual }
baseline-views-pattern = Ansichten des Musters
baseline-was = war { $before }
baseline-what-if = Was wäre wenn
baseline-what-made-median-balls = Was es verursacht hat, Median von { $balls } Bällen
baseline-wide-2 = weit
baseline-words-coarse-they-stored-words = Worte sind grob. Sie werden als Worte gespeichert, nicht als Messwerte.
baseline-face-to-path = Schlagfläche zur Bahn
