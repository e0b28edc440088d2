feel-stuck-label = Hinten eingeklemmt
feel-hang-back-label = Auf der hinteren Seite geblieben
feel-flip-label = Hände klappen
feel-no-room-label = Kein Raum für die Arme
feel-lunge-label = Darauf zuspringen
