stills-b-length-cm = a, b y length_cm
stills-cm = { FIXED($least, digits: 0) } a { FIXED($most, digits: 0) } cm
stills-end-least-pixels-other = un extremo al menos a { FIXED($shortest, digits: 0) } píxeles del otro
stills-landmark-x-y = punto del cuerpo → [x, y]
stills-length-picture = una longitud en la imagen
stills-point-within-pixels = un punto dentro de { $width } × { $height } píxeles
stills-still-pixels-same-camera = una imagen fija de { $width } × { $height } píxeles de la misma cámara
