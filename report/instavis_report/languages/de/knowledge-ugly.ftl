ugly-arms-still-pull-text = Fette und gesocketete Bälle sind nach mehr Hüftbeugung zu erwarten: die Hüften machen Platz und die Arme ziehen noch herunter.
ugly-arms-still-pull-matchup = Ruhige Arme: lass sie fallen, zieh nicht am Griff.
ugly-hands-still-flip-text = Bälle hart zur vorderen Seite sind nach einer geraderen Schlagfläche zu erwarten: die Hände klappen noch vorbei.
ugly-hands-still-flip-matchup = Dreh weiter durch: der Gürtel führt die Hände.
ugly-face-not-yet-text = Pushes sind zu erwarten nach einer Bahn, die von innen kam: die Bahn hat sich geändert und die Schlagfläche noch nicht.
ugly-face-not-yet-matchup = Schlagfläche etwas gerader, über den Griff oder ein flacheres vorderes Handgelenk.
ugly-tops-after-turning-in-place-text = Dünne Bälle sind zu erwarten, nachdem der tiefste Punkt nach vorne ging: die Hände kommen so hoch herein wie vorher.
ugly-tops-after-turning-in-place-matchup = Die Brust bleibt ein wenig länger über dem Ball.
