baseline-10-balls-say-nothing-yet = { $cold_balls } de 10 bolas. Aún no digas nada.
baseline-about = unos { $value }
baseline-about-inferred = unos { $value }{ $error }, deducido
baseline-add-ball-hand = Añadir una bola a mano
baseline-add-lesson = Añadir a esta clase
baseline-added-loft-2 = más loft
baseline-ahead = por delante de
baseline-aim-right-target = Apunta a la derecha del objetivo [°]
baseline-all-values-ball = Todos los valores de esta bola
baseline-and = { $low } y { $high }
baseline-ball = Bola { $numberOf }: { $reason }
baseline-ball-2 = Bola { $number }{ $message }
baseline-ball-cm-ball = Bola { $number }: { $distance } cm { $where } la bola
baseline-ball-does-not-agree-other = Bola { $numberOf }: { $label } no cuadra con sus demás valores.
baseline-ball-inside-lead-heel-cm = Bola por dentro del talón delantero [cm]
baseline-ball-speed-lost = Velocidad de bola perdida
baseline-balls = , { $balls } bolas:
baseline-balls-excluded-automatically = { $n ->
        [one] { $n } bola excluida automáticamente
       *[other] { $n } bolas excluidas automáticamente
    }
baseline-balls-hand = Bolas a mano
baseline-balls-imported = { $stored } bolas importadas{ $known_already }.
baseline-balls-number-inferred-flight-not = El número se deduce del vuelo, no se midió, en { $inferred } de { $cold_balls } bolas.
baseline-baseline-median = el centro de la medición de partida
baseline-behind = por detrás de
baseline-behind-ball = ← detrás de la bola
baseline-change = como sería
baseline-choose-bay-whose-monitor-use = Elige el puesto de tu monitor (arriba a la derecha) o importa un archivo.
baseline-choose-file-again-will-see = Elige el archivo otra vez. Verás columnas, unidades y signos antes de guardar nada.
baseline-club-shown = Palo mostrado
baseline-club-speed-2 = velocidad del palo
baseline-cm = { $abs } cm
baseline-cold-test = Prueba en frío
baseline-cold-test-days-after = Prueba en frío: { $label }, { $metric }, { $days_ago } días después
baseline-contact-saves-ball = Contacto (guarda la bola)
baseline-curve = Curva
baseline-curved = Curvada
baseline-distance-between-heels-cm = Distancia entre talones [cm]
baseline-distance-offline = Desvío lateral
baseline-dotted-start-not-measured-curve = A puntos: salida no medida, nada sobre la curva.
baseline-doubtful = { $value } ? dudoso
baseline-earlier-baselines-club = { $n ->
        [one] { $n } medición de partida anterior con este palo
       *[other] { $n } mediciones de partida anteriores con este palo
    }
baseline-enough-balls = Tienes bastantes bolas.
baseline-face-2 = Cara
baseline-face-3 = cara
baseline-far-left = muy a la izquierda
baseline-far-right = muy a la derecha
baseline-glancing-blow-2 = golpe de roce
baseline-golfer-made-up-hits-request = Son inventados y golpean cuando tú lo dices: h o Golpear una bola.
baseline-hard-left = fuerte a la izquierda
baseline-hard-right = fuerte a la derecha
baseline-heel-2 = talón
baseline-height = Altura
baseline-high-2 = Alto
baseline-high-3 = alto
baseline-hit-about-more-reliable-pattern = Unas { $needed } bolas más para un patrón fiable.
baseline-import-file = Importar archivo
baseline-lead = delantero
baseline-left = ← izquierda { $distance }
baseline-let-student-hit-8-15 = Que el alumno pegue de 8 a 15 bolas. No digas nada.
baseline-line = en la línea
baseline-listening-bay-balls-appear-automatically = El puesto está conectado. Las bolas aparecen solas.
baseline-low-2 = bajo
baseline-low-point-balls-inferred-attack = Punto más bajo de { $n } bolas, { $middle }, deducido del ángulo de ataque y las marcas en el suelo
baseline-measured = como era
baseline-measured-start-landing-point-not = Medido: salida y caída, no la curvatura.
baseline-median = Mediana
baseline-median-clean-balls = { $n ->
        [one] Mediana de { $n } bola limpia
       *[other] Mediana de { $n } bolas limpias
    }
baseline-modelled = Modelo
baseline-monitor-gave-no-carry-side = El monitor no dio carry ni lado para estas bolas.
baseline-more-baseline-balls = Más bolas de partida
baseline-none = ninguno
baseline-off-center-strike-2 = golpe descentrado
baseline-offline = Junto a la línea
baseline-path-2 = recorrido
baseline-path-face = Recorrido y cara
baseline-path-face-speed-ball-not = Recorrido, cara y velocidad de esta bola no se conocen bastante para decir qué hizo su vuelo.
baseline-path-face-strike-not-measured = Recorrido, cara e impacto no están medidos.
baseline-pattern = El patrón
baseline-pattern-detail = Patrón en detalle
baseline-pictures = Imágenes
baseline-probably-between = Probable entre
baseline-reading = Leyendo…
baseline-reset = Restablecer
baseline-rest = descanso
baseline-right = derecha { $distance } →
baseline-save-csv = Guardar como CSV
baseline-save-setup = Guardar colocación
baseline-setup-ball-stance-aim-compare = Colocación: bola, stance y puntería para comparar después
baseline-setup-checks-during-warm-up = Colocación mientras calienta
baseline-setup-checks-during-warm-up-left = Colocación mientras calienta, queda { $n } comprobación
baseline-setup-saved-times = { $n ->
        [one] Colocación, anotada una vez
       *[other] Colocación, anotada { $n } veces
    }
baseline-shot-file-import = Archivo de bolas para importar
baseline-side = { $distance } al lado { $side }
baseline-spin-axis-tilt = Inclinación del eje de spin
baseline-spread = Dispersión
baseline-start = Salida [°]
baseline-start-curve = Salida y curva
baseline-start-curve-balls-seen-behind = Salida y curva: { $n } bolas vistas desde detrás
baseline-start-direction-2 = Dirección de salida
baseline-start-not-measured = , salida no medida
baseline-started = Salió
baseline-starts-drag-value-see-what = Partiendo de { $start }. Arrastra un valor y mira qué haría la bola.
baseline-strike-2 = impacto
baseline-strike-face = Impacto en la cara
baseline-tight-2 = apretado
baseline-toe-2 = Punta
baseline-toe-3 = punta
baseline-too-few-balls = muy pocas bolas
baseline-toward-target = hacia el objetivo →
baseline-trail = trasero
baseline-unassigned-balls-bay-hit = { $n ->
        [one] { $n } bola sin clase en el puesto, pegada { $first }.
       *[other] { $n } bolas sin clase en el puesto, pegadas { $first } a { $last }.
    }
baseline-usual = habitual
baseline-varies = Varía
baseline-varies-usual = { $label } varía { $spread }, lo habitual es { $usual }
baseline-views-pattern = Vistas del patrón
baseline-was = era { $before }
baseline-what-if = Qué pasaría si
baseline-what-made-median-balls = Qué lo hizo, en el centro de { $balls } bolas
baseline-wide-2 = ancho
baseline-words-coarse-they-stored-words = Las palabras son toscas: se guardan como dichas, no como medidas.
baseline-face-to-path = cara respecto al recorrido
