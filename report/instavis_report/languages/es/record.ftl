record-before-now-change-between-90 = { $what }: { $before } antes, { $now } ahora. El cambio está entre { $low } y { $high }, nueve de cada diez veces.
record-moment-two-swings-differ-less = En este momento los dos swings se diferencian en menos de lo que una cámara puede decir.
