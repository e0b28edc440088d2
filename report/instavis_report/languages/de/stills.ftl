stills-b-length-cm = a, b und length_cm
stills-cm = { FIXED($least, digits: 0) } bis { FIXED($most, digits: 0) } cm
stills-end-least-pixels-other = ein Ende mindestens { FIXED($shortest, digits: 0) } Bildpunkte vom anderen
stills-landmark-x-y = Körperpunkt → [x, y]
stills-length-picture = eine Länge auf dem Bild
stills-point-within-pixels = ein Punkt innerhalb von { $width } × { $height } Bildpunkten
stills-still-pixels-same-camera = ein Standbild von { $width } × { $height } Bildpunkten derselben Kamera
