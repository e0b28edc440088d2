lesson-aim-farther-start = Das Ziel liegt { FIXED($moved, digits: 0) }° weiter { $side } als am Anfang.
lesson-ask = Fragen
lesson-asked = gefragt
lesson-back = zurück
lesson-ball-block-after-first = ein Ball dieses Blocks nach seinem ersten
lesson-ball-cm-farther-start = Der Ball liegt { FIXED($moved, digits: 0) } cm weiter { $way } als am Anfang.
lesson-ball-count = { $n ->
    [one] { $n } Ball
   *[other] { $n } Bälle
}
lesson-balls = { $count } Bälle
lesson-balls-enough = { $count } Bälle, genug
lesson-balls-more = { $count } Bälle, noch { $needed }
lesson-baseline = Ausgangsmessung
lesson-baseline-prove-comparison-opens-own = baseline oder prove; ein Vergleich öffnet seinen eigenen
lesson-body-regions-each-pain-injury = Körpergegenden, jede mit pain, injury oder stiff
lesson-cause = Ursache
lesson-check = Prüfen
lesson-check-count = { $n ->
    [one] { $n } Check
   *[other] { $n } Checks
}
lesson-club-groups-each-start-curve = Schlägergruppen, jede mit start, curve und off_m
lesson-code-not-valid-lesson-ask = Dieser Code öffnet keine Stunde. Bitte um einen neuen.
lesson-correct = Korrigieren
lesson-forward = nach vorne
lesson-hidden-fault-already-revealed-start = Der verborgene Fehler wurde schon gezeigt. Beginne eine andere Übungsstunde.
lesson-length-minutes = eine Länge von { $shortest } bis { $longest } Minuten
lesson-narrower = enger
lesson-next = Weiter: { $following }.
lesson-no-balls = keine Bälle
lesson-no-block-before-one = Vor diesem Block ist keiner.
lesson-not-asked = nicht gefragt
lesson-not-chosen = nicht gewählt
lesson-nothing-checked-yet = noch nichts geprüft
lesson-object-condition-choice = ein Objekt aus Bedingung und Wahl
lesson-object-start-curve-off-m = ein Objekt mit start, curve und off_m
lesson-planned-until-minute = Geplant bis Minute { FIXED($ends, digits: 0) }.
lesson-prove = Nachweisen
lesson-ranked = gereiht
lesson-screen-disconnected-ask-your-coach = Dieser Bildschirm wurde geschlossen. Bitte deinen Trainer um einen neuen Code.
lesson-stance-cm-start = Der Stand ist { FIXED($moved, digits: 0) } cm { $way } als am Anfang.
lesson-start-correction-before-you-prove = Beginne eine Korrektur, bevor du sie nachweist.
lesson-take-home = Mitnehmen
lesson-waiting = wartet
lesson-wider = breiter
lesson-write-take-home-page-now = Schreib jetzt die Seite für zu Hause.
lesson-written = geschrieben
