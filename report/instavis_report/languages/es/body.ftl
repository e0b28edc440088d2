body-left-out = Fuera: { $answer }.
body-object-part-grade = un objeto de parte y nota
body-one-parts = una de las partes: { $known }
body-painful-anything-loads-left-out = { $part } duele: lo que lo carga queda fuera.
