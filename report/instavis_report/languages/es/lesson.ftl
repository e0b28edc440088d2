lesson-aim-farther-start = La puntería está { FIXED($moved, digits: 0) }° más { $side } que al principio.
lesson-ask = preguntar
lesson-asked = preguntado
lesson-back = atrás
lesson-ball-block-after-first = una bola de este bloque después de la primera
lesson-ball-cm-farther-start = La bola está { FIXED($moved, digits: 0) } cm más { $way } que al principio.
lesson-ball-count = { $n ->
    [one] { $n } bola
   *[other] { $n } bolas
}
lesson-balls = { $count } bolas
lesson-balls-enough = { $count } bolas, conocido
lesson-balls-more = { $count } bolas, { $needed } más
lesson-baseline = partida
lesson-baseline-prove-comparison-opens-own = baseline o prove; una comparación abre la suya
lesson-body-regions-each-pain-injury = zonas del cuerpo, cada una con pain, injury o stiff
lesson-cause = causa
lesson-check = revisar
lesson-check-count = { $n ->
    [one] { $n } comprobación
   *[other] { $n } comprobaciones
}
lesson-club-groups-each-start-curve = grupos de palos, cada uno con start, curve y off_m
lesson-code-not-valid-lesson-ask = Este código no abre ninguna clase. Pide otro.
lesson-correct = corregir
lesson-forward = adelante
lesson-hidden-fault-already-revealed-start = Ya se dijo qué estaba oculto: empieza otra clase de práctica.
lesson-length-minutes = una duración de { $shortest } a { $longest } minutos
lesson-narrower = más estrecho
lesson-next = Sigue: { $following }.
lesson-no-balls = sin bolas
lesson-no-block-before-one = No hay ningún bloque antes de este.
lesson-not-asked = sin preguntar
lesson-not-chosen = sin elegir
lesson-nothing-checked-yet = aún no se vio nada
lesson-object-condition-choice = un objeto de condición y elección
lesson-object-start-curve-off-m = un objeto con start, curve y off_m
lesson-planned-until-minute = Previsto hasta el minuto { FIXED($ends, digits: 0) }.
lesson-prove = probar
lesson-ranked = ordenadas
lesson-screen-disconnected-ask-your-coach = Esta pantalla se cerró. Pide otro código a tu profesor.
lesson-stance-cm-start = El stance es { FIXED($moved, digits: 0) } cm { $way } que al principio.
lesson-start-correction-before-you-prove = Elige una corrección antes de que las bolas puedan probarla.
lesson-take-home = para casa
lesson-waiting = espera
lesson-wider = más ancho
lesson-write-take-home-page-now = Es hora de la página para casa.
lesson-written = escrita
