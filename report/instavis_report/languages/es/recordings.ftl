recordings-all-four-pelvis-markers-seen = los cuatro marcadores de la pelvis vistos en la colocación
recordings-before-chest-arms = antes que pecho y brazos
recordings-bridged = Interpolado: { $samples }
recordings-cells-header = { $header } celdas, como en el encabezado
recordings-column-time-time-ms = una columna time_s (o time_ms)
recordings-every-column-once = cada columna una vez
recordings-every-series-once = cada serie una vez
recordings-header-one-row-sample = un encabezado y una fila por muestra
recordings-left-out-unknown = Se omite (desconocido): { $names }
recordings-marker-corner = un marcador de la esquina { $corner }: { $limit }
recordings-most-samples = como mucho { $most } muestras
recordings-no-gap-longer-ms = ninguna pausa de más de { FIXED($value, digits: 0) } ms
recordings-pelvis-before-chest-arms = La pelvis antes que pecho y brazos
recordings-samples-second = { FIXED($slowest, digits: 0) } a { FIXED($fastest, digits: 0) } muestras por segundo
recordings-seconds-these = { $shortest } a { FIXED($longest, digits: 0) } segundos; ¿son { $other }?
recordings-swing-curve-turns-back-through = un swing: la curva gira atrás y hasta el final { FIXED($turn, digits: 0) }° o más
recordings-swing-pressure-goes-back-lead = un swing: la presión va atrás y luego al lado delantero
recordings-swing-through-ball-curve-never = un swing que pasa por la bola: la curva nunca vuelve
recordings-time-0 = un tiempo de 0 a { FIXED($end, digits: 2) } s
recordings-time-after = un tiempo después de { $moment } ({ FIXED($time, digits: 3) } s)
recordings-time-every-row = un tiempo en cada fila
recordings-times-rise-row-row = tiempos que suben de fila a fila
recordings-to = { SHORT($low) } a { SHORT($high) }
recordings-turn-pressure-nothing-here-shows = giro o presión: nada aquí dice los momentos
recordings-unit-another-one = ; ¿es otra la unidad?
recordings-values = valores
recordings-samples-of = { $n ->
    [one] { $n } muestra de { $name }
   *[other] { $n } muestras de { $name }
}
