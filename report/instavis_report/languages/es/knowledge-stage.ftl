stage-feel-wanted = Sin bola. Mantén la posición hasta encontrarla otra vez con los ojos cerrados.
stage-rehearse-wanted = Sin bola. Despacio, en las dos direcciones, tres iguales seguidas.
stage-chip-wanted = Una bola corta que sale donde dice la etapa; la distancia no cuenta.
stage-half-wanted = Una bola a media longitud por la puerta; puede seguir curvando.
stage-three-quarter-wanted = La misma bola, más larga.
stage-full-wanted = Una bola completa por la puerta, con los límites respetados.
stage-mixed-wanted = Otros palos y objetivos, al azar, sin el objeto.
