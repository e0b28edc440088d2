ugly-arms-still-pull-text = Es de esperar que haya bolas gordas y sockets tras flexionar más las caderas: las caderas hacen sitio y los brazos aún tiran hacia abajo.
ugly-arms-still-pull-matchup = Brazos tranquilos: déjalos caer, no tires del mango.
ugly-hands-still-flip-text = Es de esperar que con una cara más a escuadra las bolas vayan fuerte al lado delantero: las manos aún la pasan de largo.
ugly-hands-still-flip-matchup = Sigue girando hasta el final: el cinturón guía las manos.
ugly-face-not-yet-text = Es de esperar que haya pushes tras un recorrido que venía de dentro: el recorrido cambió y la cara todavía no.
ugly-face-not-yet-matchup = La cara algo más a escuadra, por el grip o con la muñeca delantera más plana.
ugly-tops-after-turning-in-place-text = Es de esperar que haya bolas finas después de adelantar el punto más bajo: las manos llegan tan altas como antes.
ugly-tops-after-turning-in-place-matchup = El pecho se queda un poco más sobre la bola.
