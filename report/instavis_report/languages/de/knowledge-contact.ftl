contact-thin-label = Dünn
contact-fat-label = Fett
contact-heel-label = Ferse
contact-toe-label = Spitze
contact-shank-label = Socket
contact-low-label = Tief auf der Schlagfläche
contact-high-label = Hoch auf der Schlagfläche
contact-glancing-label = Streifend
